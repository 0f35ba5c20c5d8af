import { bounds } from '../mesh/bounds';
import { simulatedCloths, startPositions } from '../run/compile';
import { touches } from '../shot/contacts';
import { createCollider } from '../shot/create';
import { freeName } from '../shot/names';
import { worldBounds } from '../run/worldBounds';
import { holdsOf } from '../shot/holds';
import type { Check } from './check';

/** Nothing holds a cloth and nothing is below it: it falls out of the picture. */
export const nothingBelow: Check = {
  id: 'nothing-below',
  look: ({ shot, assets }) => {
    if (!shot.gravity.enabled) return [];
    return simulatedCloths(shot)
      .filter((cloth) => !holdsOf(cloth).some(({ points }) => points.length > 0))
      .filter((cloth) => {
        const box = bounds(startPositions(shot, { ...cloth, start: null }, assets));
        if (!box) return false;
        return !shot.things.some((thing) => {
          if (!thing.enabled || !touches(shot, cloth.id, thing.id)) return false;
          const given = thing.role === 'cloth' && thing.given !== null;
          if (thing.role !== 'collider' && !given) return false;
          if (thing.shape.kind === 'ground') return true;
          const below = worldBounds(shot, thing, assets);
          if (!below) return false;
          const overlaps = [0, 2].every(
            (axis) => below.low[axis]! < box.high[axis]! && below.high[axis]! > box.low[axis]!,
          );
          return overlaps && below.low[1] < box.high[1];
        });
      })
      .map(({ id, name }) => ({
        check: 'nothing-below',
        thing: id,
        station: 'hold',
        grave: true,
        text: `Nothing holds ${name}, and nothing that it touches is below it: it falls for ever.`,
        remedy: 'Add a ground',
      }));
  },
  mend: () => ({
    apply: (draft) =>
      void draft.things.push(
        createCollider({ name: freeName(draft, 'Ground'), shape: { kind: 'ground' }, friction: 0.5, clearance: 0.002 }),
      ),
  }),
};
