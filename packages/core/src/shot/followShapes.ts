import { carryMask } from './carryMask';
import { readMask, writeMask } from './masks';
import type { Shot } from './schema';
import { carryPoints } from './selectPoints';
import { shapeMesh, type Assets } from './shapes';

/**
 * What must follow when a cloth is changed; part of every edit, so that undo takes it back too.
 * - Pins, ties, leashes and masks stay at their places of the fabric when the shape or its spacing changes.
 * - A settled pose fits only the place and shape it was made for: otherwise the cloth starts as cut again.
 */
export function followShapes(draft: Shot, before: Shot, assets: Assets): void {
  const text = (value: unknown) => JSON.stringify(value);
  for (const thing of draft.things) {
    const old = before.things.find((candidate) => candidate.id === thing.id);
    if (thing.role !== 'cloth' || old?.role !== 'cloth') continue;
    const reshaped = text(thing.shape) !== text(old.shape);
    const holds = [...thing.pinSets, ...thing.ties, ...thing.leashes];
    const untouched = text([old.pinSets, old.ties, old.leashes]) === text([thing.pinSets, thing.ties, thing.leashes]);
    if (reshaped && (holds.length > 0 || thing.masks.length > 0)) {
      const [from, to] = [shapeMesh(old.shape, assets), shapeMesh(thing.shape, assets)];
      if (untouched) for (const hold of holds) hold.points = carryPoints(from, to, hold.points);
      if (text(old.masks) === text(thing.masks)) {
        // Ramps are where they are on the fabric, whatever its points.
        const painted = thing.masks.filter(({ ramp }) => ramp === null);
        for (const mask of painted) mask.values = writeMask(carryMask(from, to, readMask(mask)));
      }
    }
    const moved = text([thing.position, thing.rotation]) !== text([old.position, old.rotation]);
    if (thing.start !== null && thing.start === old.start && (reshaped || moved)) thing.start = null;
  }
}
