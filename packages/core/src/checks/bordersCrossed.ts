import { crossedAtSpacing } from '../pattern/sampledBorders';
import { formatQuantity } from '../quantity/units';
import type { PatternShape } from '../shot/shapes';
import type { Check } from './check';
import { cutCloths, cutIn } from './cutCloths';

/** Finer spacings that are tried, each this share of the last. */
const FINER = 0.7;
const MOST_TRIES = 6;

/** The coarsest spacing tried, in m, at which no border crosses; null where none of them is fine enough. */
function finerSpacing(shape: PatternShape): number | null {
  let { spacing } = shape;
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    spacing = Number((spacing * FINER).toPrecision(2));
    if (crossedAtSpacing({ ...shape, spacing }).length === 0) return spacing;
  }
  return null;
}

/** A border turns more tightly than points lie apart, so that it crosses itself or another, and some of the piece is missing. */
export const bordersCrossed: Check = {
  id: 'borders-crossed',
  look: ({ shot }) =>
    cutCloths(shot).flatMap(({ cloth, shape }) => {
      const crossed = crossedAtSpacing(shape);
      if (crossed.length === 0) return [];
      const spacing = finerSpacing(shape);
      const names = crossed.map(({ name }) => name).join(', ');
      const crossing = 'a border crosses itself or another, and what is beyond is missing';
      const apart = `${formatQuantity(shape.spacing, 'mm')} mm`;
      const text = spacing
        ? `${cloth.name}, ${names}: with points ${apart} apart ${crossing}. Make the spacing finer, or put a node where the curve turns.`
        : `${cloth.name}, ${names}: ${crossing}. Move its nodes or handles apart there.`;
      return [
        {
          check: 'borders-crossed',
          thing: cloth.id,
          station: 'pattern' as const,
          grave: true,
          text,
          ...(spacing
            ? { remedy: `Spacing ${formatQuantity(spacing, 'mm', 2)} mm`, numbers: { spacing } }
            : { remedy: null }),
        },
      ];
    }),
  mend: (finding) => ({
    apply: (draft) => {
      const shape = cutIn(draft, finding.thing);
      if (shape) shape.spacing = finding.numbers!['spacing']!;
    },
  }),
};
