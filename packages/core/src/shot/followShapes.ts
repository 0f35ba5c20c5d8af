import type { Shot } from './schema';
import { carryPoints } from './selectPoints';
import { shapeMesh, type Assets } from './shapes';

/**
 * What must follow when a cloth is changed; part of every edit, so that undo takes it back too.
 * - Pins stay at their places of the fabric when the shape or its spacing changes.
 * - A settled pose fits only the place and shape it was made for: otherwise the cloth starts as cut again.
 */
export function followShapes(draft: Shot, before: Shot, assets: Assets): void {
  const text = (value: unknown) => JSON.stringify(value);
  for (const thing of draft.things) {
    const old = before.things.find((candidate) => candidate.id === thing.id);
    if (thing.role !== 'cloth' || old?.role !== 'cloth') continue;
    const reshaped = text(thing.shape) !== text(old.shape);
    if (reshaped && thing.pinSets.length > 0 && text(thing.pinSets) === text(old.pinSets)) {
      const [from, to] = [shapeMesh(old.shape, assets), shapeMesh(thing.shape, assets)];
      for (const set of thing.pinSets) set.points = carryPoints(from, to, set.points);
    }
    const moved = text([thing.position, thing.rotation]) !== text([old.position, old.rotation]);
    if (thing.start !== null && thing.start === old.start && (reshaped || moved)) thing.start = null;
  }
}
