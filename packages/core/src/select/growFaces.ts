import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';

/** Faces, and those that share an edge with one of them. */
export function grownFaces(mesh: Mesh, faces: readonly number[]): number[] {
  const all = new Set(faces);
  for (const face of faces) for (const other of facesBeside(mesh, face)) all.add(other);
  return [...all].sort((a, b) => a - b);
}

/** Faces without those that have an edge with another face, which is not among them, or on a border. */
export function shrunkFaces(mesh: Mesh, faces: readonly number[]): number[] {
  const all = new Set(faces);
  return faces.filter((face) => {
    const beside = facesBeside(mesh, face);
    return beside.length === 3 && beside.every((other) => all.has(other));
  });
}

/** The faces that share an edge with one. */
export function facesBeside(mesh: Mesh, face: number): number[] {
  const { faceEdges, edgeFaces } = topology(mesh);
  return [0, 1, 2].flatMap((side) => {
    const edge = faceEdges[face * 3 + side]!;
    return [edgeFaces[edge * 2]!, edgeFaces[edge * 2 + 1]!].filter((other) => other >= 0 && other !== face);
  });
}
