import { pointCount, type Mesh } from '../mesh/mesh';
import { boxTree } from '../mesh/boxTree';
import { fabricPlaces } from '../mesh/fabricPlaces';
import { nearestPlace } from '../mesh/nearestPlace';

/**
 * The values of a mask on another mesh of the same fabric, by material coordinates: both are laid flat, at the same size, and each
 * new point takes what the old faces have at its place. Meshes without material coordinates keep what they have point by point.
 */
export function carryMask(from: Mesh, to: Mesh, values: Uint8Array): Uint8Array {
  const carried = new Uint8Array(pointCount(to));
  const [flat, place] = [flattened(from), flattened(to)];
  if (!flat || !place) {
    carried.set(values.subarray(0, carried.length));
    return carried;
  }
  const tree = boxTree(flat);
  for (let point = 0; point < carried.length; point++) {
    const at = place.positions;
    const found = nearestPlace(flat, tree, [at[point * 3]!, at[point * 3 + 1]!, 0]);
    if (!found) continue;
    const value = found.weights.reduce(
      (sum, weight, corner) => sum + weight * (values[from.triangles[found.face * 3 + corner]!] ?? 0),
      0,
    );
    carried[point] = Math.round(value);
  }
  return carried;
}

/** The mesh laid flat in its material coordinates, one by one large. */
function flattened(mesh: Mesh): Mesh | null {
  if (!mesh.material) return null;
  const { places, width, height } = fabricPlaces(mesh);
  const positions = new Float32Array((places.length / 2) * 3);
  for (let point = 0; point < places.length / 2; point++) {
    positions[point * 3] = places[point * 2]! / (width || 1);
    positions[point * 3 + 1] = places[point * 2 + 1]! / (height || 1);
  }
  return { positions, triangles: mesh.triangles };
}
