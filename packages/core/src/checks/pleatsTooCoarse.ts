import { formatQuantity } from '../quantity/units';
import type { Check } from './check';
import { cutCloths, cutIn } from './cutCloths';

/** A flank of a pleat that is not as deep as so many spacings has no points to bend by. */
const FEWEST = 2;

/** Pleats are so shallow that the mesh cannot follow them. */
export const pleatsTooCoarse: Check = {
  id: 'pleats-too-coarse',
  look: ({ shot }) =>
    cutCloths(shot).flatMap(({ cloth, shape }) => {
      const shallow = shape.pieces.filter(({ pleats }) => pleats && pleats.depth < FEWEST * shape.spacing * (1 - 1e-9));
      if (shallow.length === 0) return [];
      const depth = Math.min(...shallow.map(({ pleats }) => pleats!.depth));
      const spacing = Number((depth / (FEWEST + 1)).toPrecision(2));
      return [
        {
          check: 'pleats-too-coarse',
          thing: cloth.id,
          station: 'pattern' as const,
          grave: false,
          text: `The pleats of ${cloth.name} are ${formatQuantity(depth, 'mm')} mm deep, and its points ${formatQuantity(shape.spacing, 'mm')} mm apart: their flanks cannot bend.`,
          remedy: `Spacing ${formatQuantity(spacing, 'mm', 2)} mm`,
          numbers: { spacing },
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
