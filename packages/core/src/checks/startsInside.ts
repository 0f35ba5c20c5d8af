import { formatQuantity } from '../quantity/units';
import { simulatedCloths, startFrame } from '../run/compile';
import { liftClear } from '../run/liftClear';
import type { Check } from './check';

/** Less than this, in m, is pushed out unseen. */
const DEEP = 0.001;

/** Cloth starts inside a collider, or passes through the faces of one that is open. */
export const startsInside: Check = {
  id: 'starts-inside',
  look: ({ shot, start }) => {
    const state = start();
    if (!state) return [];
    return state.depths.flatMap(({ collider, depth }) => {
      const faces = state.pierced.find((one) => one.collider === collider)?.count ?? 0;
      if (depth <= DEEP && faces === 0) return [];
      const name = shot.things.find(({ id }) => id === collider)?.name ?? 'a collider';
      const through = `Cloth starts through the surface of ${name}, with ${faces} ${faces === 1 ? 'face' : 'faces'}; it may stay caught there.`;
      return [
        {
          check: 'starts-inside',
          thing: collider,
          station: 'stage' as const,
          grave: true,
          text: depth > DEEP ? `Cloth starts ${formatQuantity(depth, 'mm', 2)} mm deep inside ${name}.` : through,
          remedy: 'Lift the cloth clear',
        },
      ];
    });
  },
  mend: (_, shot, assets) => ({
    apply: (draft) => {
      for (const cloth of simulatedCloths(shot)) {
        const target = draft.things.find(({ id }) => id === cloth.id);
        if (target?.role !== 'cloth') continue;
        target.position[1] += liftClear(shot, cloth, assets, startFrame(shot));
        target.start = null;
      }
    },
  }),
};
