import { formatQuantity } from '../quantity/units';
import { activeCloths, startFrame } from '../run/compile';
import { liftClear } from '../run/liftClear';
import type { Check } from './check';

/** Less than this, in m, is pushed out unseen. */
const DEEP = 0.001;

/** Cloth starts inside a collider. */
export const startsInside: Check = {
  id: 'starts-inside',
  look: ({ shot, start }) =>
    (start()?.depths ?? [])
      .filter(({ depth }) => depth > DEEP)
      .map(({ collider, depth }) => {
        const name = shot.things.find(({ id }) => id === collider)?.name ?? 'a collider';
        return {
          check: 'starts-inside',
          thing: collider,
          station: 'stage' as const,
          grave: true,
          text: `Cloth starts ${formatQuantity(depth, 'mm', 2)} mm deep inside ${name}.`,
          remedy: 'Lift the cloth clear',
        };
      }),
  mend: (_, shot, assets) => ({
    apply: (draft) => {
      for (const cloth of activeCloths(shot)) {
        const target = draft.things.find(({ id }) => id === cloth.id);
        if (target?.role !== 'cloth') continue;
        target.position[1] += liftClear(shot, cloth, assets, startFrame(shot));
        target.start = null;
      }
    },
  }),
};
