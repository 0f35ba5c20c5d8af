import { activeCloths, simulatedCloths, startFrame } from '../run/compile';
import { worldBounds } from '../run/worldBounds';
import type { Check } from './check';

/** Room that is left between cloths that are laid above each other, in m. */
const APART = 0.005;

/** Cloth starts crossed with itself or with other cloth. */
export const startsCrossed: Check = {
  id: 'starts-crossed',
  look: ({ shot, start }) => {
    const crossings = start()?.crossings ?? 0;
    if (crossings === 0) return [];
    const cloths = activeCloths(shot);
    const settled = simulatedCloths(shot).find((cloth) => cloth.start !== null);
    const several = cloths.length > 1;
    return [
      {
        check: 'starts-crossed',
        thing: (settled ?? simulatedCloths(shot).at(-1)!).id,
        station: 'stage',
        grave: true,
        text: `Cloth starts crossed with ${several ? 'other cloth or itself' : 'itself'} in ${crossings} ${crossings === 1 ? 'place' : 'places'}; the run pulls it apart, which may be seen.`,
        remedy: settled ? 'Start as cut' : several ? 'Lay them above each other' : null,
      },
    ];
  },
  mend: (_, shot, assets) => ({
    apply: (draft) => {
      const cloths = simulatedCloths(shot);
      const settled = cloths.some((cloth) => cloth.start !== null);
      // Cloth that is given its motion stays where it is.
      const given = activeCloths(shot).filter((cloth) => !cloths.includes(cloth));
      const tops = given.flatMap((cloth) => worldBounds(shot, cloth, assets, startFrame(shot))?.high[1] ?? []);
      let floor = Math.max(-Infinity, ...tops.map((top) => top + APART));
      for (const cloth of cloths) {
        const target = draft.things.find(({ id }) => id === cloth.id);
        if (target?.role !== 'cloth') continue;
        if (settled) {
          target.start = null;
          continue;
        }
        const box = worldBounds(shot, cloth, assets, startFrame(shot));
        if (!box) continue;
        const lift = Math.max(0, floor - box.low[1]);
        target.position[1] += lift;
        floor = box.high[1] + lift + 2 * cloth.selfContact.thickness + APART;
      }
    },
  }),
};
