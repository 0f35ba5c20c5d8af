import { nearestPlace } from '../mesh/nearestPlace';
import { valueAt } from '../shot/keys';
import { pointAt, type ThingSurface } from './thingSurface';

/**
 * Tells how far points, x y z in m, are from where a thing stops cloth of a thickness in m at a frame: from its surface, less its clearance
 * and half the thickness where it is a collider; infinity where that is surely more than `most`.
 */
export function distanceTo(
  { thing, local, mesh }: ThingSurface,
  frame: number,
  { positions, thickness, most }: { positions: Float32Array; thickness: number; most: number },
): (point: number) => number {
  const clearance = thing.role === 'collider' ? valueAt(thing, 'clearance', frame) + thickness / 2 : 0;
  if (!mesh) return (point) => local(pointAt(positions, point))[1] - clearance;
  const reach = most + clearance;
  return (point) => {
    const at = local(pointAt(positions, point));
    if (at.some((value, axis) => value < mesh.low[axis]! - reach || value > mesh.high[axis]! + reach)) return Infinity;
    return (nearestPlace(mesh.mesh, mesh.tree, at)?.distance ?? Infinity) - clearance;
  };
}
