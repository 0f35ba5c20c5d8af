import type { Pose } from '../math/pose';
import type { Mesh } from '../mesh/mesh';
import { mesherAfter } from '../pattern/mesherAfter';
import { carryMask } from './carryMask';
import { readMask, writeMask } from './masks';
import { poseAt } from './placement';
import type { Cloth, Shot } from './schema';
import { carryPoints } from './selectPoints';
import { shapeMesh, type Assets } from './shapes';

/**
 * What must follow when a cloth is changed; part of every edit, so that undo takes it back too.
 * - Pins, ties, leashes and masks stay at their places of the fabric when the shape or its spacing changes.
 * - A pattern that is cut otherwise is meshed as new ones are.
 * - A settled pose fits only the place and shape it was made for: otherwise the cloth starts as cut again. What carries the cloth
 *   moves it too.
 */
export function followShapes(draft: Shot, before: Shot, assets: Assets): void {
  const text = (value: unknown) => JSON.stringify(value);
  for (const thing of draft.things) {
    const old = before.things.find((candidate) => candidate.id === thing.id);
    if (thing.role !== 'cloth' || old?.role !== 'cloth') continue;
    if (thing.shape.kind === 'pattern' && old.shape.kind === 'pattern' && old.shape.mesher) {
      if (!mesherAfter(old.shape, thing.shape)) delete thing.shape.mesher;
    }
    const reshaped = text(thing.shape) !== text(old.shape);
    const holds = [...thing.pinSets, ...thing.ties, ...thing.leashes];
    const untouched = text([old.pinSets, old.ties, old.leashes]) === text([thing.pinSets, thing.ties, thing.leashes]);
    if (reshaped && (holds.length > 0 || thing.masks.length > 0)) {
      const [from, to] = [shapeMesh(old.shape, assets), shapeMesh(thing.shape, assets)];
      // Pieces of a pattern that only stand elsewhere have the same points.
      const same = sameFabric(from, to);
      if (!same && untouched) for (const hold of holds) hold.points = carryPoints(from, to, hold.points);
      if (!same && text(old.masks) === text(thing.masks)) {
        // Ramps are where they are on the fabric, whatever its points.
        const painted = thing.masks.filter(({ ramp }) => ramp === null);
        for (const mask of painted) mask.values = writeMask(carryMask(from, to, readMask(mask)));
      }
    }
    if (thing.start === null || thing.start !== old.start) continue;
    if (reshaped || isApart(startPose(before, old), startPose(draft, thing))) thing.start = null;
  }
}

/** Whether two patterns are cut alike, point for point. */
function sameFabric(a: Mesh, b: Mesh): boolean {
  if (!a.parts || !b.parts || !a.material || a.material.length !== b.material?.length) return false;
  return (
    a.parts.every(({ id }, i) => b.parts![i]?.id === id) && a.material.every((value, i) => value === b.material![i])
  );
}

/** Where a cloth is when the run starts. */
function startPose(shot: Shot, cloth: Cloth): Pose {
  return poseAt(shot, cloth, shot.firstFrame - shot.preRoll);
}

/** Whether poses differ by more than rounding, such as that of a thing that is let go by its carrier and stays where it is. */
function isApart(a: Pose, b: Pose): boolean {
  return [...a.center, ...a.rotation].some((value, i) => Math.abs(value - [...b.center, ...b.rotation][i]!) > 1e-5);
}
