import type { Mesh } from '../../mesh/mesh';
import type { Topology } from '../../mesh/topology';
import { cross, dot, length, type Vector3 } from '../../math/vector';

// Faces of closed seams lie at different places of the fabric. To look across such an edge, the other face is turned about it into the plane of the first.

/**
 * Where the far point of a face lies when the face is laid beside an edge from `start` to `end`, on the other side than `own`.
 * a, b and c are the same edge and the far point, as the face itself has them. All in a plane of the fabric, z unused.
 */
export function unfolded(
  edge: readonly [Vector3, Vector3],
  own: Vector3,
  [a, b, c]: readonly [Vector3, Vector3, Vector3],
): Vector3 {
  const [start, end] = edge;
  const [e, f, to] = [minus(b, a), minus(c, a), minus(end, start)];
  const square = Math.max(dot(e, e), 1e-18);
  const along = dot(e, f) / square;
  const height = length(cross(e, f)) / Math.sqrt(square);
  const size = Math.max(length(to), 1e-12);
  const away = minus(own, start);
  const side = to[0] * away[1] - to[1] * away[0] > 0 ? -1 : 1;
  return [
    start[0] + along * to[0] - (side * height * to[1]) / size,
    start[1] + along * to[1] + (side * height * to[0]) / size,
    0,
  ];
}

/**
 * Where points around a face lie in its plane, when the faces beyond its edges are turned flat one after the other, as far as they are wanted.
 *
 * @param start the face that lies as it is on the fabric
 * @param wanted whether a face is to be turned flat, of which this is the point that is not yet placed
 */
export function unfoldedAround(
  rest: Mesh,
  t: Topology,
  start: number,
  wanted: (face: number, far: number) => boolean,
): Map<number, Vector3> {
  const places = new Map<number, Vector3>();
  for (let i = 0; i < 3; i++) {
    const point = rest.triangles[start * 3 + i]!;
    places.set(point, cornerPlace(rest, start, point));
  }
  const seen = new Set([start]);
  const pending = [start];
  for (let face = pending.shift(); face !== undefined; face = pending.shift()) {
    for (let i = 0; i < 3; i++) {
      const edge = t.faceEdges[face * 3 + i]!;
      const side = t.edgeFaces[edge * 2] === face ? 1 : 0;
      const other = t.edgeFaces[edge * 2 + side]!;
      const far = t.edgeOpposites[edge * 2 + side]!;
      if (other < 0 || seen.has(other) || !wanted(other, far)) continue;
      seen.add(other);
      pending.push(other);
      if (places.has(far)) continue;
      const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
      const own = t.edgeOpposites[edge * 2 + 1 - side]!;
      const flap = [a, b, far].map((point) => cornerPlace(rest, other, point)) as [Vector3, Vector3, Vector3];
      places.set(far, unfolded([places.get(a)!, places.get(b)!], places.get(own)!, flap));
    }
  }
  return places;
}

/** Where a point of a face lies on the fabric, as that face has it. */
export function cornerPlace({ triangles, cornerMaterial }: Mesh, face: number, point: number): Vector3 {
  const at = face * 3 + [0, 1, 2].find((i) => triangles[face * 3 + i] === point)!;
  return [cornerMaterial![at * 2]!, cornerMaterial![at * 2 + 1]!, 0];
}

function minus(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}
