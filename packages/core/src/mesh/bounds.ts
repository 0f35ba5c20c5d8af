import type { Vector3 } from '../math/vector';
import { oncePerMesh } from './oncePerMesh';

export interface Bounds {
  low: Vector3;
  high: Vector3;
}

/** The axis-aligned box around points (x y z in metres); undefined for no points. */
export function bounds(positions: ArrayLike<number>): Bounds | undefined {
  if (positions.length === 0) return undefined;
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3;
    low[axis] = Math.min(low[axis]!, positions[i]!);
    high[axis] = Math.max(high[axis]!, positions[i]!);
  }
  return { low, high };
}

/** The box around a mesh; undefined without points. */
export const meshBounds = oncePerMesh((mesh): Bounds | undefined => bounds(mesh.positions));

export function size({ low, high }: Bounds): Vector3 {
  return [high[0] - low[0], high[1] - low[1], high[2] - low[2]];
}
