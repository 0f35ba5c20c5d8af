import { meshBounds } from '../mesh/bounds';
import { boxTree } from '../mesh/boxTree';
import type { Mesh } from '../mesh/mesh';
import { nearestPlace } from '../mesh/nearestPlace';
import { insideMesh } from './insideMesh';

/**
 * Points of a cloth that lie within a distance of a surface, or inside it where it is closed.
 *
 * @param places x y z of each point, m; `surface` and `distance` in the same axes and unit
 * @returns points in ascending order
 */
export function pointsNear(places: Float32Array, surface: Mesh, distance: number): number[] {
  const box = meshBounds(surface);
  if (!box) return [];
  const tree = boxTree(surface);
  const found = new Set(insideMesh(surface, places));
  for (let point = 0; point < places.length / 3; point++) {
    const at = [places[point * 3]!, places[point * 3 + 1]!, places[point * 3 + 2]!] as const;
    if (at.some((value, axis) => value < box.low[axis]! - distance || value > box.high[axis]! + distance)) continue;
    if ((nearestPlace(surface, tree, at)?.distance ?? Infinity) <= distance) found.add(point);
  }
  return [...found].sort((a, b) => a - b);
}
