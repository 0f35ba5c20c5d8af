import { apply, rotation, type Vector3 } from '../math/vector';
import type { Mesh } from './mesh';

export interface Placement {
  /** In metres. */
  position: Vector3;
  /** Radians about x, then y, then z. */
  rotation: Vector3;
}

/** The mesh turned and moved to its place. Material coordinates stay as they are. */
export function place(mesh: Mesh, placement: Placement): Mesh {
  const turn = rotation(placement.rotation);
  const positions = new Float32Array(mesh.positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = apply(turn, [mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!]);
    positions[i] = x + placement.position[0];
    positions[i + 1] = y + placement.position[1];
    positions[i + 2] = z + placement.position[2];
  }
  return { ...mesh, positions };
}
