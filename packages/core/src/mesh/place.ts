import { applyPose, poseOf, type Pose } from '../math/pose';
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

/** The mesh turned and moved by a pose. */
export function placeBy(mesh: Mesh, pose: Pose): Mesh {
  const positions = new Float32Array(mesh.positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const placed = applyPose(pose, [mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!]);
    positions[i] = placed[0];
    positions[i + 1] = placed[1];
    positions[i + 2] = placed[2];
  }
  return { ...mesh, positions };
}
