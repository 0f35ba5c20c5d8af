import { formatQuantity } from '../quantity/units';
import { activeCloths } from '../run/compile';
import type { Check } from './check';

/** Fewer points along the shorter side cannot fold; as many as this can. */
const LEAST_POINTS = 12;
const GOOD_POINTS = 40;
/** A strap or a ribbon bends along its length: so many times as long as wide, it needs only these across. */
const STRIP = { ratio: 4, points: 3 };

/** A cloth is too coarse for its size to fold. */
export const tooCoarse: Check = {
  id: 'too-coarse',
  look: ({ shot }) =>
    activeCloths(shot).flatMap(({ id, name, shape }) => {
      if (shape.kind !== 'sheet') return [];
      const shorter = Math.min(shape.width, shape.height);
      const points = Math.round(shorter / shape.spacing) + 1;
      const longer = Math.max(shape.width, shape.height);
      const strip = longer >= STRIP.ratio * shorter && longer / shape.spacing >= LEAST_POINTS;
      if (points >= (strip ? STRIP.points : LEAST_POINTS)) return [];
      const spacing = Number((shorter / GOOD_POINTS).toPrecision(2));
      return [
        {
          check: 'too-coarse',
          thing: id,
          station: 'stage' as const,
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
      if (cloth?.role === 'cloth' && cloth.shape.kind === 'sheet') cloth.shape.spacing = finding.numbers!['spacing']!;
    },
  }),
};
