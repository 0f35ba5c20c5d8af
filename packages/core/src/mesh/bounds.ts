import type { Vector3 } from '../math/vector';
import type { Mesh } from './mesh';

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

const known = new WeakMap<Mesh, Bounds>();

/** The box around a mesh; undefined without points. Meshes are never changed in place, so each is measured once. */
export function meshBounds(mesh: Mesh): Bounds | undefined {
  const found = known.get(mesh) ?? bounds(mesh.positions);
  if (found) known.set(mesh, found);
  return found;
}

export function size({ low, high }: Bounds): Vector3 {
  return [high[0] - low[0], high[1] - low[1], high[2] - low[2]];
}
