import { asPolygon, distance, isInside, signedArea, type FlatPlace, type PathNode } from './path';

/** Outlines smaller than this have no area, in m². */
export const LEAST_AREA = 1e-8;

/** Why a piece cannot be cut: a sentence for the artist; undefined where it can be. */
export function outlineProblem(
  outline: readonly PathNode[],
  holes: readonly (readonly PathNode[])[],
): string | undefined {
  if (outline.length < 2) return 'the outline needs at least two nodes';
  const loops = [outline, ...holes].map((nodes) => asPolygon(nodes, 12));
  const [border, ...inner] = loops as [FlatPlace[], ...FlatPlace[][]];
  if (Math.abs(signedArea(border)) < LEAST_AREA) return 'the outline has no area';
  if (crossing(border, border)) return 'the outline crosses itself';
  for (const [i, hole] of inner.entries()) {
    const name = `hole ${i + 1}`;
    if (hole.length < 3 || Math.abs(signedArea(hole)) < LEAST_AREA) return `${name} has no area`;
    if (crossing(hole, hole)) return `${name} crosses itself`;
    if (crossing(border, hole)) return `${name} touches the outline`;
    if (!isInside(border, hole[0]!)) return `${name} lies outside of the outline`;
    for (const [j, other] of inner.slice(0, i).entries()) {
      if (crossing(other, hole) || isInside(other, hole[0]!) || isInside(hole, other[0]!))
        return `${name} and hole ${j + 1} overlap`;
    }
  }
  return undefined;
}

/** Whether two polygons, or one with itself, cross or touch anywhere but where neighbours meet. */
function crossing(a: readonly FlatPlace[], b: readonly FlatPlace[]): boolean {
  const same = a === b;
  for (let i = 0; i < a.length; i++) {
    const [p, q] = [a[i]!, a[(i + 1) % a.length]!];
    // Folded back onto itself.
    if (same && foldsBack(p, q, a[(i + 2) % a.length]!)) return true;
    const [u0, u1] = p[0] < q[0] ? [p[0], q[0]] : [q[0], p[0]];
    const [v0, v1] = p[1] < q[1] ? [p[1], q[1]] : [q[1], p[1]];
    for (let j = same ? i + 2 : 0; j < b.length; j++) {
      if (same && (j + 1) % a.length === i) continue;
      const [r, s] = [b[j]!, b[(j + 1) % b.length]!];
      if ((r[0] < u0 && s[0] < u0) || (r[0] > u1 && s[0] > u1)) continue;
      if ((r[1] < v0 && s[1] < v0) || (r[1] > v1 && s[1] > v1)) continue;
      if (meet(p, q, r, s)) return true;
    }
  }
  return false;
}

function turn(a: FlatPlace, b: FlatPlace, c: FlatPlace): number {
  return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
}

/** Whether two straight pieces from p to q and from r to s cross or touch. */
export function meet(p: FlatPlace, q: FlatPlace, r: FlatPlace, s: FlatPlace): boolean {
  const [a, b, c, d] = [turn(r, s, p), turn(r, s, q), turn(p, q, r), turn(p, q, s)];
  return a * b <= 0 && c * d <= 0 && !(a === 0 && b === 0 && c === 0 && d === 0 && !overlap(p, q, r, s));
}

/** Whether two pieces of the same line have places in common. */
function overlap(p: FlatPlace, q: FlatPlace, r: FlatPlace, s: FlatPlace): boolean {
  const axis = Math.abs(q[0] - p[0]) > Math.abs(q[1] - p[1]) ? 0 : 1;
  return (
    Math.max(p[axis], q[axis]) >= Math.min(r[axis], s[axis]) && Math.max(r[axis], s[axis]) >= Math.min(p[axis], q[axis])
  );
}

function foldsBack(p: FlatPlace, q: FlatPlace, r: FlatPlace): boolean {
  if (distance(p, q) === 0) return true;
  const along = (q[0] - p[0]) * (r[0] - q[0]) + (q[1] - p[1]) * (r[1] - q[1]);
  return along < 0 && Math.abs(turn(p, q, r)) < 1e-12;
}
