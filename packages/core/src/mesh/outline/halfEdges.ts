import type Delaunator from 'delaunator';

/** Triangles, three points each, and of each of their edges the same edge of the other triangle, -1 for none. */
export type Triangulation = Pick<Delaunator<ArrayLike<number>>, 'triangles' | 'halfedges'>;

/** The edge that comes after one in its triangle. */
export function next(half: number): number {
  return half % 3 === 2 ? half - 2 : half + 1;
}

/** The edge that comes before one in its triangle. */
export function previous(half: number): number {
  return half % 3 === 0 ? half + 2 : half - 1;
}

/**
 * Turns an edge between two triangles to their far points. The turned edge stands before `half` in its triangle, and before what was its other half; these and
 * those after them are now the four edges around it.
 */
export function turnEdge({ triangles, halfedges }: Triangulation, half: number): void {
  const other = halfedges[half]!;
  const [before, after] = [previous(half), previous(other)];
  const [far, farOther] = [triangles[before]!, triangles[after]!];
  triangles[half] = farOther;
  triangles[other] = far;
  const link = (p: number, q: number) => {
    halfedges[p] = q;
    if (q !== -1) halfedges[q] = p;
  };
  const [left, right] = [halfedges[after]!, halfedges[before]!];
  link(half, left);
  link(other, right);
  link(before, after);
}
