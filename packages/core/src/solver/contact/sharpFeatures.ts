import type { Mesh } from '../../mesh/mesh';
import type { SideNormals } from '../../mesh/sideNormals';
import type { Topology } from '../../mesh/topology';

// Which points and edges of a collider's mesh cloth has to meet besides meeting its surface with its own points and edges.

/** A feature: an edge, or a point (then both ends are the same). */
export interface SharpFeature {
  /** The points at its ends. */
  ends: [number, number];
  /** The edge of the topology whose normal it has; -1 for a point. */
  edge: number;
  /** Whether each end is tried as a point; so once for all features that have it. */
  tried: [boolean, boolean];
}

/** A surface that turns by more than this over an edge is sharp, whatever the cloth: the cosine of 12°. */
const SHARP = 0.9781476;
/**
 * So is one whose radius is less than this share of an edge of the cloth: a small round tip between two points. What is rounder than
 * that is felt by edges.
 */
const ROUND = 0.5;

/**
 * The sharp points and edges of a mesh for cloth whose longest edge is `spacing` m: where it turns outwards sharply, or
 * sharply for the cloth, and along borders. With `bothSides` also where it turns inwards.
 */
export function sharpFeatures(
  mesh: Mesh,
  t: Topology,
  normals: SideNormals,
  spacing: number,
  bothSides: boolean,
): SharpFeature[] {
  const p = mesh.positions;
  const faceNormal = (face: number, axis: number) => normals.faces[face * 3 + axis]!;
  const along = (a: number, b: number, face: number) =>
    [0, 1, 2].reduce((sum, axis) => sum + (p[b * 3 + axis]! - p[a * 3 + axis]!) * faceNormal(face, axis), 0);
  const distance = (a: number, b: number) =>
    Math.sqrt([0, 1, 2].reduce((sum, axis) => sum + (p[b * 3 + axis]! - p[a * 3 + axis]!) ** 2, 0));
  /** Whether a turn, by its cosine, over a length in m is too sharp for the cloth. */
  const isSharp = (cosine: number, over: number) => {
    if (cosine < SHARP) return true;
    const turn = Math.sqrt(Math.max(0, 2 * (1 - cosine)));
    return turn > 0.02 && over < ROUND * spacing * turn;
  };
  const sharpPoint = new Uint8Array(p.length / 3);
  const features: SharpFeature[] = [];
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    const [face, other] = [t.edgeFaces[edge * 2]!, t.edgeFaces[edge * 2 + 1]!];
    let sharp = other < 0;
    if (other >= 0) {
      const far = t.edgeOpposites[edge * 2 + 1]!;
      const outwards = along(a, far, face) < 0;
      const cosine = [0, 1, 2].reduce((sum, axis) => sum + faceNormal(face, axis) * faceNormal(other, axis), 0);
      const wide = Math.min(distance(a, far), distance(b, far), distance(a, t.edgeOpposites[edge * 2]!));
      sharp = (outwards || bothSides) && isSharp(cosine, wide);
    }
    if (!sharp) continue;
    features.push({ ends: [a, b], edge, tried: [sharpPoint[a] === 0, sharpPoint[b] === 0] });
    sharpPoint[a] = sharpPoint[b] = 1;
  }
  // Points where many faces meet that are not sharp one by one, such as the tip of a cone.
  const triangles = mesh.triangles;
  for (let at = 0; at < triangles.length; at++) {
    const point = triangles[at]!;
    if (sharpPoint[point]) continue;
    const face = (at / 3) | 0;
    const next = triangles[face * 3 + ((at + 1) % 3)]!;
    const cosine = [0, 1, 2].reduce((sum, axis) => sum + faceNormal(face, axis) * normals.points[point * 3 + axis]!, 0);
    const outwards =
      [0, 1, 2].reduce(
        (sum, axis) => sum + (p[next * 3 + axis]! - p[point * 3 + axis]!) * normals.points[point * 3 + axis]!,
        0,
      ) < 0;
    if (!(outwards || bothSides) || !isSharp(cosine, distance(point, next))) continue;
    sharpPoint[point] = 1;
    features.push({ ends: [point, point], edge: -1, tried: [true, false] });
  }
  return features;
}
