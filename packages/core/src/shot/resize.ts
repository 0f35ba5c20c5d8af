import type { Vector3 } from '../math/vector';
import { meshBounds, size } from '../mesh/bounds';
import type { Mesh } from '../mesh/mesh';
import { scaleMesh } from '../mesh/scaleMesh';
import type { Track } from './keys';
import { shapeMesh, SHAPES, type Assets, type Shape } from './shapes';
import { sizeNumber } from './shapes/sizeKeys';

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

/** Gives a thing in a draft another size of its shape: keyed sizes go along in proportion. */
export function giveSize(thing: { shape: Shape; keys: Track[] }, shape: Shape): void {
  const [before, after] = [thing.shape, shape] as unknown as Record<string, unknown>[];
  for (const { number, knots } of thing.keys) {
    const name = number.slice(sizeNumber('').length);
    if (number !== sizeNumber(name)) continue;
    const [from, to] = [before![name], after![name]];
    if (typeof from !== 'number' || typeof to !== 'number' || from === 0) continue;
    for (const knot of knots) knot.value *= to / from;
  }
  thing.shape = shape;
}

/**
 * A shape at so many times its size along x, y and z. Round shapes stay round: they take the mean of what concerns them. `asset` is
 * the id for the new mesh of a mesh shape.
 */
export function resizeShape(shape: Shape, by: Vector3, assets: Assets, asset: string): Resized {
  if (shape.kind === 'mesh') return { shape: { ...shape, asset }, mesh: scaleMesh(shapeMesh(shape, assets), by) };
  return { shape: SHAPES[shape.kind].resize(shape, by), mesh: null };
}
