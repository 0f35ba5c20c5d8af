import { formatQuantity } from '../quantity/units';
import { autoSeam } from '../pattern/autoSeam';
import { sew } from '../pattern/editPattern';
import type { Check } from './check';
import { cutCloths, cutIn } from './cutCloths';

/** Borders as near as this to each other all along, in m, are meant to be sewn. */
const MEANT = 0.003;

/** Where something is sewn, borders that lie on each other were left open. */
export const bordersOpen: Check = {
  id: 'borders-open',
  look: ({ shot }) =>
    cutCloths(shot).flatMap(({ cloth, shape }) => {
      if (shape.seams.length === 0) return [];
      const found = autoSeam(shape, MEANT);
      if (found.length === 0) return [];
      const what = found.length === 1 ? 'Two borders' : `${found.length} pairs of borders`;
      return [
        {
          check: 'borders-open',
          thing: cloth.id,
          station: 'pattern' as const,
          grave: false,
          text: `${what} of ${cloth.name} lie within ${formatQuantity(MEANT, 'mm')} mm of each other and are not sewn: the cloth gapes there.`,
          remedy: found.length === 1 ? 'Sew them' : 'Sew them all',
        },
      ];
    }),
  mend: ({ thing }) => ({
    apply: (draft) => {
      const shape = cutIn(draft, thing);
      if (!shape) return;
      for (const { a, b, turned } of autoSeam(shape, MEANT)) sew(shape, a, b, turned);
    },
  }),
};
