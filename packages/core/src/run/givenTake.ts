import type { Mesh } from '../mesh/mesh';
import { movingMesh } from '../mesh/movingMesh';

/**
 * The motion of a cloth in a take, as a mesh that moves frame by frame: what a cloth can be given. Frames that are missing in between are filled in evenly.
 *
 * @param mesh what the cloth is
 * @param frames numbers of frames and the points at each, x y z in m in the world, in ascending order; at least one
 */
export function givenTake(
  { triangles }: Mesh,
  frames: readonly { frame: number; positions: Float32Array }[],
  frameRate: number,
): Mesh {
  const meshes = frames.map(({ positions }) => ({ positions, triangles }));
  return movingMesh(
    meshes,
    frames.map(({ frame }) => ({ number: frame })),
    frameRate,
  );
}
