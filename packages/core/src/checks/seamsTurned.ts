import { beginTogether } from '../pattern/autoSeam';
import type { Check } from './check';
import { cutCloths, cutIn } from './cutCloths';

/** A seam that crosses itself where the pieces stand: its ends are sewn the other way round. */
export const seamsTurned: Check = {
  id: 'seams-turned',
  look: ({ shot }) =>
    cutCloths(shot).flatMap(({ cloth, shape }) =>
      shape.seams.flatMap(({ a, b, turned }, i) =>
        beginTogether(shape.pieces, a, b) === turned
          ? []
          : [
              {
                check: 'seams-turned',
                thing: cloth.id,
                station: 'pattern' as const,
                grave: true,
                text: `Seam ${i + 1} of ${cloth.name} crosses itself: its borders are sewn the wrong way round for how they stand.`,
                remedy: 'Turn the seam',
                numbers: { seam: i },
              },
            ],
      ),
    ),
  mend: ({ thing, numbers }) => ({
    apply: (draft) => {
      const seam = cutIn(draft, thing)?.seams[numbers!['seam']!];
      if (seam) seam.turned = !seam.turned;
    },
  }),
};
