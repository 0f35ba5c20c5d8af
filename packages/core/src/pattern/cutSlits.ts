import type { FlatPlace } from '../mesh/outline/path';

/** A slit is as wide as this, in m: its lips begin apart, so that contact knows which is on which side. */
export const SLIT = 5e-4;

/** A flat mesh while it is cut. */
export interface FlatMesh {
  places: Float64Array;
  triangles: Uint32Array;
}

/**
 * Cuts a flat mesh open along rows of its points, whose edges it has. Where faces around a point no longer hang together the point becomes
 * several, added at the end; both lips are drawn a little apart.
 *
 * @param rows points along each slit, in order
 * @returns the mesh that is open there
 */
export function cutSlits({ places, triangles }: FlatMesh, rows: readonly (readonly number[])[]): FlatMesh {
  if (rows.length === 0) return { places, triangles };
  const cut = new Set(rows.flatMap((row) => row.slice(1).map((point, i) => keyOf(row[i]!, point))));
  const facesOf = new Map<number, number[]>();
  const points = new Set(rows.flat());
  triangles.forEach((point, corner) => {
    if (points.has(point)) facesOf.set(point, [...(facesOf.get(point) ?? []), Math.floor(corner / 3)]);
  });
  const open = triangles.slice();
  const added: FlatPlace[] = [];
  const moved = places.slice();
  const place = (point: number): FlatPlace => [places[point * 2]!, places[point * 2 + 1]!];
  for (const [point, faces] of facesOf) {
    const groups = groupsAround(triangles, point, faces, cut);
    if (groups.length < 2) continue;
    groups.forEach((group, i) => {
      const [du, dv] = intoFaces(triangles, group, point, place);
      const [u, v] = place(point);
      const lip: FlatPlace = [u + (du * SLIT) / 2, v + (dv * SLIT) / 2];
      if (i === 0) return moved.set(lip, point * 2);
      const own = places.length / 2 + added.length;
      added.push(lip);
      for (const face of group) {
        for (let corner = face * 3; corner < face * 3 + 3; corner++)
          if (triangles[corner] === point) open[corner] = own;
      }
    });
  }
  return { places: Float64Array.from([...moved, ...added.flat()]), triangles: open };
}

/** The faces around a point in groups that hang together by edges that are not cut. */
function groupsAround(
  triangles: Uint32Array,
  point: number,
  faces: readonly number[],
  cut: ReadonlySet<string>,
): number[][] {
  const others = (face: number) =>
    [0, 1, 2].map((corner) => triangles[face * 3 + corner]!).filter((other) => other !== point);
  const left = new Set(faces);
  const groups: number[][] = [];
  for (const first of faces) {
    if (!left.delete(first)) continue;
    const group = [first];
    for (const face of group) {
      for (const next of left) {
        const shared = others(face).find((other) => others(next).includes(other));
        if (shared === undefined || cut.has(keyOf(point, shared))) continue;
        left.delete(next);
        group.push(next);
      }
    }
    groups.push(group);
  }
  return groups;
}

/** The direction from a point into faces around it: towards their middles. */
function intoFaces(
  triangles: Uint32Array,
  faces: readonly number[],
  point: number,
  place: (point: number) => FlatPlace,
): FlatPlace {
  const [u, v] = place(point);
  let [x, y] = [0, 0];
  for (const face of faces) {
    const corners = [0, 1, 2].map((corner) => place(triangles[face * 3 + corner]!));
    const area = Math.abs(
      (corners[1]![0] - corners[0]![0]) * (corners[2]![1] - corners[0]![1]) -
        (corners[1]![1] - corners[0]![1]) * (corners[2]![0] - corners[0]![0]),
    );
    for (const [p, q] of corners) [x, y] = [x + area * (p - u), y + area * (q - v)];
  }
  const size = Math.sqrt(x * x + y * y) || 1;
  return [x / size, y / size];
}

function keyOf(a: number, b: number): string {
  return a < b ? `${a} ${b}` : `${b} ${a}`;
}
