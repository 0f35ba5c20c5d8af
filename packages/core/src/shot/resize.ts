import type { Vector3 } from '../math/vector';
import { meshBounds, size } from '../mesh/bounds';
import { scaleMesh } from '../mesh/scaleMesh';
import type { Mesh } from '../mesh/mesh';
import { shapeMesh, type Assets, type Shape } from './shapes';

// Size is part of the geometry: there is no scale in a document. Making a thing larger changes the numbers of its shape, or
// gives it another mesh.

/** The size of a shape along its own x, y and z, in m; null for the endless ground. */
export function shapeSize(shape: Shape, assets: Assets): Vector3 | null {
  if (shape.kind === 'ground') return null;
  const box = meshBounds(shapeMesh(shape, assets));
  return box ? size(box) : null;
}

/** A resized shape, and the new mesh that it names when it is a mesh. */
export interface Resized {
  shape: Shape;
  mesh: Mesh | null;
}

/**
 * A shape at so many times its size along x, y and z. Round shapes stay round: they take the mean of what concerns them. `asset` is
 * the id for the new mesh of a mesh shape.
 */
export function resizeShape(shape: Shape, by: Vector3, assets: Assets, asset: string): Resized {
  const [x, y, z] = by;
  const across = Math.sqrt(x * z);
  const all = (x + y + z) / 3;
  const plain = (changed: Shape): Resized => ({ shape: changed, mesh: null });
  switch (shape.kind) {
    case 'ground':
      return plain(shape);
    case 'sheet': {
      const [width, height] = [tidy(shape.width * x), tidy(shape.height * z)];
      // The spacing stays, so that folds stay as fine, unless it no longer fits.
      return plain({ ...shape, width, height, spacing: Math.min(shape.spacing, width, height) });
    }
    case 'box':
      return plain({
        ...shape,
        width: tidy(shape.width * x),
        height: tidy(shape.height * y),
        depth: tidy(shape.depth * z),
      });
    case 'ball':
      return plain({ ...shape, radius: tidy(shape.radius * all) });
    case 'cylinder':
      return plain({ ...shape, radius: tidy(shape.radius * across), height: tidy(shape.height * y) });
    case 'capsule': {
      const radius = tidy(shape.radius * across);
      return plain({ ...shape, radius, height: Math.max(tidy(shape.height * y), 2 * radius) });
    }
    case 'cone':
      return plain({
        ...shape,
        radius: tidy(shape.radius * across),
        topRadius: tidy(shape.topRadius * across),
        height: tidy(shape.height * y),
      });
    case 'tube':
      return plain({
        ...shape,
        radius: tidy(shape.radius * across),
        wall: tidy(shape.wall * across),
        height: tidy(shape.height * y),
      });
    case 'ring':
    case 'knot':
      return plain({ ...shape, radius: tidy(shape.radius * across), tubeRadius: tidy(shape.tubeRadius * all) });
    case 'mesh':
      return { shape: { ...shape, asset }, mesh: scaleMesh(shapeMesh(shape, assets), by) };
  }
}

/** Tenths of a millimetre are as fine as anyone works. */
function tidy(value: number): number {
  return Math.max(0, Math.round(value * 1e5) / 1e5);
}
