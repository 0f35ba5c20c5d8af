import { pointCount } from '../mesh/mesh';
import { removeThing } from '../shot/parent';
import { holdsOf } from '../shot/holds';
import { shapeMesh } from '../shot/shapes';
import type { Check, CheckFinding } from './check';

/** Something that the shot names is not there: a mesh, a clip, held points, or a pose that fits. */
export const lostParts: Check = {
  id: 'lost-parts',
  look: ({ shot, assets }) =>
    shot.things.flatMap((thing): CheckFinding[] => {
      if (!('shape' in thing)) return [];
      const base = { check: 'lost-parts', thing: thing.id, station: 'stage' as const, grave: true };
      const hinders = 'enabled' in thing && thing.enabled && thing.role !== 'scenery';
      if (thing.shape.kind === 'mesh' && !assets.has(thing.shape.asset)) {
        return [
          {
            ...base,
            hinders,
            text: `The mesh of ${thing.name} is not in the shot any more.`,
            remedy: 'Delete it',
            numbers: { mesh: 1 },
          },
        ];
      }
      const mesh = shapeMesh(thing.shape, assets);
      if ('motion' in thing && thing.motion && !mesh.motion?.clips.some(({ name }) => name === thing.motion!.clip)) {
        const clip = thing.motion.clip;
        return [
          {
            ...base,
            text: `${thing.name} has no clip “${clip}”: it stands still.`,
            remedy: 'Let it stand',
            numbers: { clip: 1 },
          },
        ];
      }
      if (thing.role !== 'cloth') return [];
      const found: CheckFinding[] = [];
      const lost = holdsOf(thing).reduce(
        (sum, { points }) => sum + points.filter((point) => point >= pointCount(mesh)).length,
        0,
      );
      if (lost > 0) {
        const text = `${thing.name} is held at ${lost} points that it no longer has.`;
        found.push({ ...base, hinders, station: 'hold', text, remedy: 'Forget them', numbers: { pins: 1 } });
      }
      const pose = thing.start === null ? undefined : assets.get(thing.start);
      if (thing.start !== null && (!pose || pointCount(pose) !== pointCount(mesh))) {
        const text = `${thing.name} starts from a settled pose that does not fit it any more.`;
        found.push({ ...base, hinders, text, remedy: 'Start as cut', numbers: { start: 1 } });
      }
      return found;
    }),
  mend: ({ thing: id, numbers = {} }, shot, assets) => ({
    apply: (draft) => {
      const target = draft.things.find((candidate) => candidate.id === id);
      if (!target) return;
      if (numbers['mesh']) removeThing(draft, target.id);
      if (numbers['clip'] && 'motion' in target) target.motion = null;
      if (target.role !== 'cloth') return;
      if (numbers['start']) target.start = null;
      if (numbers['pins']) {
        const count = pointCount(shapeMesh(target.shape, assets));
        for (const hold of holdsOf(target)) hold.points = hold.points.filter((point) => point < count);
      }
    },
  }),
};
