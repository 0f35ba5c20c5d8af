import { arcTangent } from '../math/trigonometry';
import { cross, dot, length, minus, type Vector3 } from '../math/vector';
import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';
import { isDiagonal } from './fourSided';

/** A row goes on by an edge that leaves its straight way by no more than this, in radians: 25 degrees. */
const STRAIGHT = 0.44;

/**
 * The row of edges that goes straight on from an edge at either of its ends: to a border, or round to where it began. Straight is what has as much cloth
 * on its left as on its right, so that rows go round a tube and end at the corner of a box; from an edge of the border, all along that to its next corners.
 * Edges that only cut a four-sided face in two are no way on, unless the row began with one.
 *
 * @returns indices of edges, in the order of the row
 */
export function edgeRow(mesh: Mesh, edge: number): number[] {
  const { edgePoints } = topology(mesh);
  const [first, last] = [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!];
  const forth = follow(mesh, edge, last);
  // Round to where it began: there is nothing before it.
  if (forth.closed) return [edge, ...forth.edges];
  return [...follow(mesh, edge, first).edges.reverse(), edge, ...forth.edges];
}

/** The edges after one, from its end at a point. */
function follow(mesh: Mesh, start: number, from: number): { edges: number[]; closed: boolean } {
  const { edgePoints } = topology(mesh);
  const edges: number[] = [];
  const seen = new Set([start]);
  let [edge, point] = [start, from];
  for (;;) {
    const next = straightOn(mesh, edge, point);
    if (next === start) return { edges, closed: true };
    if (next < 0 || seen.has(next)) return { edges, closed: false };
    seen.add(next);
    edges.push(next);
    point = edgePoints[next * 2]! === point ? edgePoints[next * 2 + 1]! : edgePoints[next * 2]!;
    edge = next;
  }
}

/** The edge that goes on from one at a point most nearly straight; -1 where none does. */
function straightOn(mesh: Mesh, edge: number, point: number): number {
  const { edgeFaces } = topology(mesh);
  const fan = turnAround(mesh, edge, point);
  const inside = edgeFaces[edge * 2 + 1]! >= 0;
  const { whole, at } = fan;
  // An inner row ends at the border, and the border follows itself.
  if (inside && !fan.closed) return -1;
  const straight = inside ? whole / 2 : Math.PI;
  const cuts = isDiagonal(mesh, edge);
  const candidates = inside ? at.filter(({ edge: other }) => cuts || !isDiagonal(mesh, other)) : at.slice(-1);
  let [best, off] = [-1, STRAIGHT];
  for (const { edge: other, angle } of candidates) {
    const away = Math.abs(angle - straight);
    if (away <= off) [best, off] = [other, away];
  }
  return best;
}

/** The other edges at a point, in the order round it from one, each with the angle of all faces on the way to it. */
function turnAround(
  mesh: Mesh,
  edge: number,
  point: number,
): { at: { edge: number; angle: number }[]; whole: number; closed: boolean } {
  const { edgeFaces, edgePoints, faceEdges } = topology(mesh);
  const at: { edge: number; angle: number }[] = [];
  let [face, now, angle] = [edgeFaces[edge * 2]!, edge, 0];
  for (;;) {
    const next = [0, 1, 2]
      .map((side) => faceEdges[face * 3 + side]!)
      .find((one) => one !== now && (edgePoints[one * 2] === point || edgePoints[one * 2 + 1] === point))!;
    angle += angleBetween(mesh, point, otherEnd(edgePoints, now, point), otherEnd(edgePoints, next, point));
    if (next === edge) return { at, whole: angle, closed: true };
    // A mesh whose faces meet by more than two comes back to where it was.
    if (at.some((one) => one.edge === next)) return { at, whole: angle, closed: false };
    at.push({ edge: next, angle });
    const [one, other] = [edgeFaces[next * 2]!, edgeFaces[next * 2 + 1]!];
    face = one === face ? other : one;
    now = next;
    if (face < 0) return { at, whole: angle, closed: false };
  }
}

function otherEnd(edgePoints: Uint32Array, edge: number, point: number): number {
  return edgePoints[edge * 2]! === point ? edgePoints[edge * 2 + 1]! : edgePoints[edge * 2]!;
}

function angleBetween({ positions: p }: Mesh, at: number, one: number, other: number): number {
  const place = (point: number): Vector3 => [p[point * 3]!, p[point * 3 + 1]!, p[point * 3 + 2]!];
  const [a, b] = [minus(place(one), place(at)), minus(place(other), place(at))];
  return arcTangent(length(cross(a, b)), dot(a, b));
}
