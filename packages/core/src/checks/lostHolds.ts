import { pointCount } from '../mesh/mesh';
import { forgetMasks, holdsOf, removeHold, removeMask } from '../shot/holds';
import type { PinSet } from '../shot/holdSchemas';
import { readMask } from '../shot/masks';
import type { Cloth } from '../shot/schema';
import { shapeMesh } from '../shot/shapes';
import type { Check, CheckFinding } from './check';

/** Points nearer together than this share of their width crush the cloth between them; it is mended to that one. */
const LEAST_GATHER = 0.02;
const SPREAD = 0.1;

const isGone = (cloth: Cloth, id: string) => !cloth.masks.some((mask) => mask.id === id);

const gatherTracks = (cloth: Cloth, { id }: { id: string }) =>
  cloth.keys.filter(({ number }) => number.startsWith(`hold:${id}.gather.`));

const gathers = (cloth: Cloth, set: PinSet): number[] => [
  ...set.gather,
  ...gatherTracks(cloth, set).flatMap(({ knots }) => knots.map(({ value }) => value)),
];

/** A hold that names something which is not there: a thing, a mask, a mask of another mesh, or no points at all. */
export const lostHolds: Check = {
  id: 'lost-holds',
  look: ({ shot, assets }) =>
    shot.things
      .filter((thing): thing is Cloth => thing.role === 'cloth')
      .flatMap((cloth) => {
        if (cloth.shape.kind === 'mesh' && !assets.has(cloth.shape.asset)) return [];
        const count = pointCount(shapeMesh(cloth.shape, assets));
        const present = new Set(shot.things.map(({ id }) => id));
        const found: CheckFinding[] = [];
        const say = (text: string, remedy: string, numbers: Record<string, number>, grave = true, hinders = false) =>
          found.push({ check: 'lost-holds', thing: cloth.id, station: 'hold', grave, hinders, text, remedy, numbers });
        holdsOf(cloth).forEach((hold, at) => {
          const named = 'to' in hold ? hold.to : 'rides' in hold ? hold.rides : null;
          if (named !== null && !present.has(named)) {
            const [what, remedy, numbers] =
              'to' in hold
                ? (['is tied to', 'Delete the tie', { remove: at }] as const)
                : (['rides', 'Let it stay', { stay: at }] as const);
            const text = `${hold.name} of ${cloth.name} ${what} a thing that was deleted.`;
            say(text, remedy, numbers, true, cloth.enabled);
          }
          const masks = [hold.mask, hold.release, 'standOffMask' in hold ? hold.standOffMask : null];
          if (masks.some((mask) => mask !== null && isGone(cloth, mask))) {
            say(`${hold.name} of ${cloth.name} has a mask that was deleted.`, 'Hold without a mask', { unmask: at });
          }
          if (hold.points.length === 0)
            say(`${hold.name} of ${cloth.name} has no points.`, 'Delete it', { remove: at }, false);
          if (
            'gather' in hold &&
            gathers(cloth, hold).some((share) => share < LEAST_GATHER) &&
            hold.points.length > 1
          ) {
            say(
              `${hold.name} of ${cloth.name} is gathered to nothing: its points lie on each other.`,
              'Gather to 10 %',
              { spread: at },
            );
          }
        });
        const scaling = [...Object.values(cloth.fabricMasks), cloth.selfContact.mask ?? []].flat();
        const unscaled = scaling.filter((id) => isGone(cloth, id));
        if (unscaled.length > 0) {
          say(`Numbers of the fabric of ${cloth.name} have a mask that was deleted.`, 'Scale nothing', { fabric: 1 });
        }
        cloth.masks.forEach((mask, at) => {
          if (!mask.ramp && readMask(mask).length !== count) {
            say(`The mask ${mask.name} of ${cloth.name} was made for another mesh.`, 'Delete it', { mask: at }, false);
          }
        });
        return found;
      }),
  mend: ({ thing: id, numbers = {} }) => ({
    apply: (draft) => {
      const cloth = draft.things.find((candidate) => candidate.id === id);
      if (cloth?.role !== 'cloth') return;
      const hold = (name: string) => (numbers[name] === undefined ? undefined : holdsOf(cloth)[numbers[name]]);
      const removed = hold('remove');
      if (removed) removeHold(draft, cloth.id, removed.id);
      const staying = hold('stay');
      if (staying && 'rides' in staying) staying.rides = null;
      if (hold('unmask') || numbers['fabric'] !== undefined) forgetMasks(cloth, (id) => isGone(cloth, id));
      const spread = hold('spread');
      if (spread && 'gather' in spread) {
        spread.gather = spread.gather.map((share) => Math.max(SPREAD, share)) as typeof spread.gather;
        for (const track of gatherTracks(cloth, spread)) {
          for (const knot of track.knots) knot.value = Math.max(SPREAD, knot.value);
        }
      }
      const mask = cloth.masks[numbers['mask'] ?? -1];
      if (mask) removeMask(cloth, mask.id);
    },
  }),
};
