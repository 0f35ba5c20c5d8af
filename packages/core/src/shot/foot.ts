import { meshBounds } from '../mesh/bounds';
import { shapeMesh, SHAPES, type Assets, type Shape } from './shapes';

/** How far the lowest place of a shape is below its origin, in m: exact where its body is known, else that of its mesh. 0 for cloth. */
export function footOf(shape: Shape, assets: Assets): number {
  const { body, foot, isCloth } = SHAPES[shape.kind];
  if (isCloth && shape.kind === 'sheet') return 0;
  if (foot) return foot(shape);
  const exact = body?.(shape);
  switch (exact?.kind) {
    case 'plane':
      return 0;
    case 'ball':
      return exact.radius;
    case 'box':
      return exact.size[1] / 2;
    case 'cylinder':
    case 'capsule':
      return exact.height / 2;
    case undefined:
      return -(meshBounds(shapeMesh(shape, assets))?.low[1] ?? 0);
  }
}
