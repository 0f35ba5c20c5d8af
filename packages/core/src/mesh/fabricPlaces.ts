import { pointCount, type Mesh } from './mesh';
import type { SurfacePlace } from './nearestPlace';
import { oncePerMesh } from './oncePerMesh';

/** Where points are on the fabric laid flat. */
export interface FabricPlaces {
  /** Per point along the width and along the height, in m, from 0. */
  places: Float32Array;
  /** In m. */
  width: number;
  height: number;
}

/** Where on the fabric a place of a face is, as shares of its width and height. */
export function fabricShareAt(mesh: Mesh, { face, weights }: SurfacePlace): [number, number] {
  const { places, width, height } = fabricPlaces(mesh);
  const at = (axis: 0 | 1) =>
    weights.reduce((sum, weight, corner) => sum + weight * places[mesh.triangles[face * 3 + corner]! * 2 + axis]!, 0);
  return [width > 0 ? at(0) / width : 0, height > 0 ? at(1) / height : 0];
}

/** Places by the material coordinates of a mesh, or as seen from above where it has none. */
export const fabricPlaces = oncePerMesh((mesh): FabricPlaces => {
  const { material, positions } = mesh;
  const count = pointCount(mesh);
  const places = new Float32Array(count * 2);
  for (let point = 0; point < count; point++) {
    for (let axis = 0; axis < 2; axis++) {
      places[point * 2 + axis] = material ? material[point * 2 + axis]! : positions[point * 3 + axis * 2]!;
    }
  }
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  places.forEach((value, i) => {
    low[i % 2] = Math.min(low[i % 2]!, value);
    high[i % 2] = Math.max(high[i % 2]!, value);
  });
  for (let i = 0; i < places.length; i++) places[i]! -= low[i % 2]!;
  const size = (axis: 0 | 1) => (count > 0 ? high[axis]! - low[axis]! : 0);
  return { places, width: size(0), height: size(1) };
});
