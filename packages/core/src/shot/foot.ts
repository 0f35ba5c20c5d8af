import { tidy } from '../math/tidy';
import type { Vector3 } from '../math/vector';
import { applyPose, poseOf } from '../math/pose';
import { meshBounds } from '../mesh/bounds';
import { placeBy } from '../mesh/place';
import { shapeMesh, SHAPES, type Assets, type Shape } from './shapes';

/**
 * How far the lowest place of a shape is below its origin when it is turned so (radians about x, then y, then z), in m: exact where its body
 * is known, else that of its mesh. 0 for a sheet, which is placed by its middle.
 */
export function footOf(shape: Shape, assets: Assets, turn: Vector3 = [0, 0, 0]): number {
  const { body, foot, isCloth } = SHAPES[shape.kind];
  if (isCloth && shape.kind === 'sheet') return 0;
  const upright = turn[0] === 0 && turn[2] === 0;
  if (foot && upright) return foot(shape);
  const pose = poseOf([0, 0, 0], turn);
  /** How upright its own x, y and z are. */
  const up = (
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as Vector3[]
  ).map((axis) => Math.abs(applyPose(pose, axis)[1]));
  const exact = body?.(shape);
  switch (exact?.kind) {
    case 'plane':
      return 0;
    case 'ball':
      return exact.radius;
    case 'box':
      return exact.size.reduce((sum, side, axis) => sum + (side / 2) * up[axis]!, 0);
    case 'cylinder':
      return (exact.height / 2) * up[1]! + exact.radius * Math.sqrt(Math.max(0, 1 - up[1]! * up[1]!));
    case 'capsule':
      return (exact.height / 2 - exact.radius) * up[1]! + exact.radius;
    case undefined:
      return tidy(-(meshBounds(placeBy(shapeMesh(shape, assets), pose))?.low[1] ?? 0));
  }
}
