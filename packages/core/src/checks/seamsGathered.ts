import { isStraight, sidesOf } from '../mesh/outline/path';
import { easeOf, setSideLength } from '../pattern/editPattern';
import type { Piece, Seam } from '../pattern/schema';
import { findStretch, loopsOfPiece } from '../pattern/stretches';
import type { PatternShape } from '../shot/shapes';
import type { Check } from './check';
import { cutCloths, cutIn } from './cutCloths';

/** As much more of one side is eased in without being seen. */
const EASED = 0.1;

/** A seam whose one side is much longer: it comes out gathered. */
export const seamsGathered: Check = {
  id: 'seams-gathered',
  look: ({ shot }) =>
    cutCloths(shot).flatMap(({ cloth, shape }) =>
      shape.seams.flatMap((seam, i) => {
        const ease = easeOf(shape.pieces, seam);
        if (ease <= EASED) return [];
        return [
          {
            check: 'seams-gathered',
            thing: cloth.id,
            station: 'pattern' as const,
            grave: false,
            text: `One side of seam ${i + 1} of ${cloth.name} is ${Math.round(ease * 100)} % longer than the other: it will be gathered.`,
            remedy: longerSide(shape, seam) ? 'Make its sides alike' : 'Unpick the seam',
            numbers: { seam: i },
          },
        ];
      }),
    ),
  mend: ({ thing, numbers }) => ({
    apply: (draft) => {
      const shape = cutIn(draft, thing);
      const seam = shape?.seams[numbers!['seam']!];
      if (!shape || !seam) return;
      const longer = longerSide(shape, seam);
      if (longer) setSideLength(longer.piece, longer.from, longer.length);
      else shape.seams.splice(numbers!['seam']!, 1);
    },
  }),
};

/** The longer side of a seam, where it is one straight side, and how long the other one is, in m. */
function longerSide({ pieces }: PatternShape, { a, b }: Seam): { piece: Piece; from: string; length: number } | null {
  const [one, other] = [findStretch(pieces, a), findStretch(pieces, b)];
  if (!one || !other) return null;
  const [longer, from, length] = one.length > other.length ? [one, a.from, other.length] : [other, b.from, one.length];
  const side = sidesOf(loopsOfPiece(longer.piece)[longer.loop]!)[longer.sides[0]!]!;
  return longer.sides.length === 1 && isStraight(side) ? { piece: longer.piece, from, length } : null;
}
