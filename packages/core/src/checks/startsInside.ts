import { formatQuantity } from '../quantity/units';
import { simulatedCloths, startFrame } from '../run/compile';
import { liftClear } from '../run/liftClear';
import type { Check, CheckFinding, StartState } from './check';

/** Less than this, in m, is pushed out unseen. */
const DEEP = 0.001;

/** Cloth starts inside a collider, passes through the faces of one that is open, or is between two that lie in each other. */
export const startsInside: Check = {
  id: 'starts-inside',
  look: ({ shot, start }) => {
    const state = start();
    if (!state) return [];
    const nameOf = (id: string) => shot.things.find((thing) => thing.id === id)?.name ?? 'a collider';
    const squeezed = state.squeezed && squeezedFinding(state.squeezed, nameOf);
    const inside = state.depths.flatMap(({ collider, depth }) => {
      const faces = state.pierced.find((one) => one.collider === collider)?.count ?? 0;
      if (depth <= DEEP && faces === 0) return [];
      const name = nameOf(collider);
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
    return squeezed ? [...inside, squeezed] : inside;
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

function squeezedFinding(
  { between, missing }: NonNullable<StartState['squeezed']>,
  nameOf: (id: string) => string,
): CheckFinding {
  const names = between.map(nameOf).join(' and ');
  return {
    check: 'starts-inside',
    thing: between[0],
    station: 'stage',
    grave: true,
    text: `Cloth starts between ${names}, which leave it ${formatQuantity(missing, 'mm', 2)} mm less room than it is thick.`,
    remedy: 'Lift the cloth clear',
  };
}
