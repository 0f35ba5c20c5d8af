import { closedSeams, shapeMesh, type Mesh, type PatternShape } from '@lumbra/core';

/** The name that its content gives the hood as one mesh; a test compares it. */
export const HOOD_AS_ONE = '6c4c0e9ba447fd87e688625f';

/** The hood in one piece, for its finish list: where panels are sewn together its faces share points, which lie on the border of the first panel. */
export function hoodAsOne(shape: PatternShape): Mesh {
  const cut = shapeMesh(shape, new Map());
  const { mesh, pointOf } = closedSeams(cut)!;
  const positions = mesh.positions.slice();
  // Backwards, so that the first of those that are sewn together has the last word.
  for (let point = pointOf.length - 1; point >= 0; point--) {
    positions.set(cut.positions.subarray(point * 3, point * 3 + 3), pointOf[point]! * 3);
  }
  return { positions, triangles: mesh.triangles };
}
