import { isStraight, sidesOf } from '../mesh/outline/path';
import { easeOf, setSideLength } from '../pattern/editPattern';
import { pleatRow } from '../pattern/pleatRow';
import type { Piece, Seam } from '../pattern/schema';
import { sewnLength } from '../pattern/sewnRuns';
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
            remedy: sideToAlter(shape, seam) ? 'Make its sides alike' : 'Unpick the seam',
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
      const side = sideToAlter(shape, seam);
      if (side) setSideLength(side.piece, side.from, side.length);
      else shape.seams.splice(numbers!['seam']!, 1);
    },
  }),
};

/** A side of a seam that can be made as long as the other is sewn, in m: the longer one, or the shorter, where it is one straight side without pleats. */
function sideToAlter({ pieces }: PatternShape, { a, b }: Seam): { piece: Piece; from: string; length: number } | null {
  const [one, other] = [findStretch(pieces, a), findStretch(pieces, b)];
  if (!one || !other) return null;
  const both = [
    { place: one, from: a.from, length: sewnLength(other) },
    { place: other, from: b.from, length: sewnLength(one) },
  ].sort((p, q) => sewnLength(q.place) - sewnLength(p.place));
  const found = both.find(({ place: { piece, loop, sides } }) => {
    const isPleated = loop === 0 && pleatRow(piece)?.sides.includes(sides[0]!);
    return sides.length === 1 && !isPleated && isStraight(sidesOf(loopsOfPiece(piece)[loop]!)[sides[0]!]!);
  });
  return found ? { piece: found.place.piece, from: found.from, length: found.length } : null;
}
