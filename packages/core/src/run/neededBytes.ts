import { pointCount } from '../mesh/mesh';
import type { Model } from '../solver/model';
import { CompileError } from './sound';

// How much memory of the kernel a run takes, before it starts. Measured by `Solver.bytes`; see docs/solver.md.

const BYTES_PER_POINT = 2100;
/** Besides, of each point for each collider. */
const BYTES_PER_TOUCH = 540;
/** Of each face of a collider's mesh, with its tree and sharp features; what changes its shape is there three times. */
const BYTES_PER_FACE = 260;
const DEFORMING = 3;
/** As much as WebAssembly can address, but for some room for lists that grow while cloth crumples. */
export const MOST_BYTES = 3.6e9;

/** Bytes that a run takes in the kernel, give or take a seventh, by its points and by the faces of each collider's mesh (0 for exact bodies). */
export function neededBytes(points: number, colliderFaces: readonly number[]): number {
  const faces = colliderFaces.reduce((sum, count) => sum + count, 0);
  return points * (BYTES_PER_POINT + colliderFaces.length * BYTES_PER_TOUCH) + faces * BYTES_PER_FACE;
}

/** That of a model. */
export function modelBytes({ cloths, colliders }: Pick<Model, 'cloths' | 'colliders'>): number {
  return neededBytes(
    cloths.reduce((sum, { rest }) => sum + pointCount(rest), 0),
    colliders.map((collider) => {
      if (collider.kind !== 'mesh') return 0;
      return (collider.mesh.triangles.length / 3) * (collider.pointsAt ? DEFORMING : 1);
    }),
  );
}

/** “This run needs about 4.2 GB of memory, and 3.6 GB are to be had.” */
export function roomText(needed: number): string {
  const gigabytes = (bytes: number) => (bytes / 1e9).toFixed(1);
  return `This run needs about ${gigabytes(needed)} GB of memory, and ${gigabytes(MOST_BYTES)} GB are to be had.`;
}

/** @throws CompileError where a run cannot fit */
export function requireRoom(model: Model): void {
  const needed = modelBytes(model);
  if (needed > MOST_BYTES) throw new CompileError(`${roomText(needed)} Use a wider spacing or fewer colliders.`);
}
