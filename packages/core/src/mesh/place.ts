import { poseOf, type Pose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import type { Mesh } from './mesh';

export interface Placement {
  /** In metres. */
  position: Vector3;
  /** Radians about x, then y, then z. */
  rotation: Vector3;
}

/** The mesh turned and moved to its place. Material coordinates stay as they are. */
export function place(mesh: Mesh, placement: Placement): Mesh {
  return placeBy(mesh, poseOf(placement.position, placement.rotation));
}

/** The mesh turned and moved by a pose: `applyPose` for every point, written out, since it goes over large meshes at every edit. */
export function placeBy(mesh: Mesh, { center, rotation: r }: Pose): Mesh {
  const { positions: from } = mesh;
  const positions = new Float32Array(from.length);
  for (let i = 0; i < positions.length; i += 3) {
    const x = from[i]!;
    const y = from[i + 1]!;
    const z = from[i + 2]!;
    positions[i] = center[0] + (r[0] * x + r[3] * y + r[6] * z);
    positions[i + 1] = center[1] + (r[1] * x + r[4] * y + r[7] * z);
    positions[i + 2] = center[2] + (r[2] * x + r[5] * y + r[8] * z);
  }
  return { ...mesh, positions };
}
