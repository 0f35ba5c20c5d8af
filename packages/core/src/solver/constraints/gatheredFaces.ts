import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { seamEdges } from '../../mesh/seamEdges';
import { topology, type Topology } from '../../mesh/topology';
import { cutLength } from './cutLength';

/** Edges that differ by less than this share of their length are as long as each other. */
const ALIKE = 0.005;

/**
 * Which faces are gathered at a seam, a byte each, 1 where they are: they lie along an edge that is sewn to one that was cut shorter, or beside it. What they
 * have more lies in folds between the stitches that are finer than the mesh; so they let themselves be pushed together, or they would stretch what they
 * are sewn to. Null where nothing is gathered.
 */
export const gatheredFaces = oncePerMesh((rest): Uint8Array | null => {
  if (!rest.sewn && !rest.cornerMaterial) return null;
  const t = topology(rest);
  const gathered = new Uint8Array(rest.triangles.length / 3);
  const gather = (edge: number, face: number) => {
    for (const end of [0, 1])
      for (const beside of fanOf(rest, t, face, t.edgePoints[edge * 2 + end]!)) gathered[beside] = 1;
  };
  for (const [edge, face, other, otherFace] of sewnEdges(rest, t)) {
    const [own, its] = [cutLength(rest, t, edge, face), cutLength(rest, t, other, otherFace)];
    if (own > its * (1 + ALIKE)) gather(edge, face);
    if (its > own * (1 + ALIKE)) gather(other, otherFace);
  }
  return gathered.includes(1) ? gathered : null;
});

/** The two edges that a seam brings together, each with its face; of a closed seam they are one. */
function sewnEdges(rest: Mesh, t: Topology): (readonly [number, number, number, number])[] {
  const found: (readonly [number, number, number, number])[] = [];
  if (rest.sewn) {
    seamEdges(t, rest.sewn).forEach((first, edge) => {
      if (first !== edge) found.push([edge, t.edgeFaces[edge * 2]!, first, t.edgeFaces[first * 2]!]);
    });
  } else {
    for (let edge = 0; edge < t.edgeCount; edge++) {
      const [face, other] = [t.edgeFaces[edge * 2]!, t.edgeFaces[edge * 2 + 1]!];
      if (other >= 0 && isSeam(rest, t, edge)) found.push([edge, face, edge, other]);
    }
  }
  return found;
}

/** The faces around a point that hang together with one of them as they were cut. */
function fanOf(rest: Mesh, t: Topology, face: number, point: number): Set<number> {
  const fan = new Set([face]);
  for (const own of fan) {
    for (let side = 0; side < 3; side++) {
      const edge = t.faceEdges[own * 3 + side]!;
      const other = t.edgeFaces[edge * 2]! === own ? t.edgeFaces[edge * 2 + 1]! : t.edgeFaces[edge * 2]!;
      const around = t.edgePoints[edge * 2] === point || t.edgePoints[edge * 2 + 1] === point;
      if (around && other >= 0 && !isSeam(rest, t, edge)) fan.add(other);
    }
  }
  return fan;
}

/** Whether the two faces of an edge were cut from different places. */
function isSeam({ cornerMaterial, triangles }: Mesh, { edgePoints, edgeFaces }: Topology, edge: number): boolean {
  if (!cornerMaterial) return false;
  const cutAt = (face: number, point: number, axis: number) => {
    const corner = [0, 1, 2].find((i) => triangles[face * 3 + i] === point)!;
    return cornerMaterial[face * 6 + corner * 2 + axis]!;
  };
  return [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!].some((point) =>
    [0, 1].some((axis) => cutAt(edgeFaces[edge * 2]!, point, axis) !== cutAt(edgeFaces[edge * 2 + 1]!, point, axis)),
  );
}
