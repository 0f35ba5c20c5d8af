import { formatQuantity } from '../quantity/units';
import { simulatedCloths } from '../run/compile';
import { sizeOfPiece } from '../pattern/describePattern';
import type { Shape } from '../shot/shapes';
import type { Check } from './check';

/** Fewer points along the shorter side cannot fold; as many as this can. */
const LEAST_POINTS = 12;
const GOOD_POINTS = 40;
/** A strap or a ribbon bends along its length: so many times as long as wide, it needs only these across. */
const STRIP = { ratio: 4, points: 3 };

/** The sides of a sheet, or of the largest piece of a pattern: small ones may be stiff. */
function largestPart(shape: Shape): { width: number; height: number; spacing: number } | null {
  if (shape.kind === 'sheet') return shape;
  if (shape.kind !== 'pattern') return null;
  const sizes = shape.pieces.map(sizeOfPiece);
  const { width, height } = sizes.reduce((best, one) => (one.area > best.area ? one : best));
  return { width, height, spacing: shape.spacing };
}

/** A cloth is too coarse for its size to fold. */
export const tooCoarse: Check = {
  id: 'too-coarse',
  look: ({ shot }) =>
    simulatedCloths(shot).flatMap(({ id, name, shape }) => {
      const largest = largestPart(shape);
      if (!largest) return [];
      const { width, height, spacing: now } = largest;
      const shorter = Math.min(width, height);
      const points = Math.round(shorter / now) + 1;
      const longer = Math.max(width, height);
      const strip = longer >= STRIP.ratio * shorter && longer / now >= LEAST_POINTS;
      if (points >= (strip ? STRIP.points : LEAST_POINTS)) return [];
      const spacing = Number((shorter / GOOD_POINTS).toPrecision(2));
      return [
        {
          check: 'too-coarse',
          thing: id,
          station: shape.kind === 'pattern' ? ('pattern' as const) : ('stage' as const),
          grave: true,
          text: `${name} has only ${points} points along its shorter side: it cannot fold.`,
          remedy: `Spacing ${formatQuantity(spacing, 'mm', 2)} mm`,
          numbers: { spacing },
        },
      ];
    }),
  mend: (finding) => ({
    apply: (draft) => {
      const cloth = draft.things.find(({ id }) => id === finding.thing);
      if (cloth?.role === 'cloth' && 'spacing' in cloth.shape) cloth.shape.spacing = finding.numbers!['spacing']!;
    },
  }),
};
