import { faceNormals } from './faceNormals';
import type { Mesh } from './mesh';
import { pointNormals } from './normals';

/** A normal that leans less than this (cosine) to one of its faces is turned away from it, and so far. */
const LEAST = 0.25;
const WANTED = 0.35;
/** With less than this a fold is sharp. */
const STEEP = 0.45;
/** With this it still stands off. */
const ENOUGH = 0.1;
const ROUNDS = 64;

/**
 * Unit normals of points, x y z each, that stand off all of their faces: the mean of a sharp fold may lie within one of its faces, and what is moved along it
 * would cut through it. Where faces lie so that there is no such way, it is nothing. Each round takes the worst face as the perceptron does (Rosenblatt
 * 1958). Points that are sewn together have the faces of all of them.
 */
export function clearNormals({ positions, triangles, sewn }: Pick<Mesh, 'positions' | 'triangles' | 'sewn'>): {
  normals: Float32Array;
  /** 1 for points in whose fold a face lies steep to the normal. */
  sharp: Uint8Array;
} {
  const normals = pointNormals(positions, triangles, undefined, sewn);
  const faces = faceNormals({ positions, triangles });
  const leans = (point: number, face: number) =>
    normals[point * 3]! * faces[face * 3]! +
    normals[point * 3 + 1]! * faces[face * 3 + 1]! +
    normals[point * 3 + 2]! * faces[face * 3 + 2]!;
  const sharp = new Uint8Array(normals.length / 3);
  /** Faces of the points that lie wrong, by the first of those that they are sewn to. */
  const wrong = new Map<number, number[]>();
  const firstOf = (point: number) => sewn?.[point] ?? point;
  for (let corner = 0; corner < triangles.length; corner++) {
    const point = triangles[corner]!;
    const lean = leans(point, Math.floor(corner / 3));
    if (lean < STEEP) sharp[point] = 1;
    if (lean < LEAST) wrong.set(firstOf(point), []);
  }
  if (wrong.size === 0) return { normals, sharp };
  for (let corner = 0; corner < triangles.length; corner++)
    wrong.get(firstOf(triangles[corner]!))?.push(Math.floor(corner / 3));
  for (const [point, around] of wrong) {
    for (let round = 0; round < ROUNDS; round++) {
      let [worst, least] = [-1, WANTED];
      for (const face of around) {
        const lean = leans(point, face);
        if (lean < least) [worst, least] = [face, lean];
      }
      if (worst < 0) break;
      for (let axis = 0; axis < 3; axis++) normals[point * 3 + axis]! += (WANTED - least) * faces[worst * 3 + axis]!;
      const length = Math.sqrt(normals[point * 3]! ** 2 + normals[point * 3 + 1]! ** 2 + normals[point * 3 + 2]! ** 2);
      if (length > 0) for (let axis = 0; axis < 3; axis++) normals[point * 3 + axis]! /= length;
    }
    if (around.some((face) => leans(point, face) < ENOUGH)) normals.fill(0, point * 3, point * 3 + 3);
  }
  if (sewn) {
    for (let point = 0; point < sewn.length; point++)
      if (wrong.has(sewn[point]!)) normals.copyWithin(point * 3, sewn[point]! * 3, sewn[point]! * 3 + 3);
  }
  return { normals, sharp };
}
