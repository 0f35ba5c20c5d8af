import type { Vector3 } from '../math/vector';
import { oncePerMesh } from './oncePerMesh';

export interface Bounds {
  low: Vector3;
  high: Vector3;
}

/** The axis-aligned box around points (x y z in metres); undefined for no points. */
export function bounds(positions: ArrayLike<number>): Bounds | undefined {
  if (positions.length === 0) return undefined;
  let [lowX, lowY, lowZ] = [Infinity, Infinity, Infinity];
  let [highX, highY, highZ] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    lowX = Math.min(lowX, x);
    lowY = Math.min(lowY, y);
    lowZ = Math.min(lowZ, z);
    highX = Math.max(highX, x);
    highY = Math.max(highY, y);
    highZ = Math.max(highZ, z);
  }
  return { low: [lowX, lowY, lowZ], high: [highX, highY, highZ] };
}

/** The box around a mesh; undefined without points. */
export const meshBounds = oncePerMesh((mesh): Bounds | undefined => bounds(mesh.positions));

export function size({ low, high }: Bounds): Vector3 {
  return [high[0] - low[0], high[1] - low[1], high[2] - low[2]];
}
