import { asPolygon, distance, isInside, signedArea, type FlatPlace, type PathNode } from './path';

/** Outlines smaller than this have no area, in m². */
export const LEAST_AREA = 1e-8;

/** A curve is looked at in so many chords, and where they cross in so many: what comes near a long curve may lie beyond a long chord of it. */
const CHORDS = 12;
const MORE_CHORDS = 96;

/** Why a piece cannot be cut: a sentence for the artist; undefined where it can be. */
export function outlineProblem(
  outline: readonly PathNode[],
  holes: readonly (readonly PathNode[])[],
): string | undefined {
  if (outline.length < 2) return 'the outline needs at least two nodes';
  return problemOf(outline, holes, CHORDS) && problemOf(outline, holes, MORE_CHORDS);
}

function problemOf(
  outline: readonly PathNode[],
  holes: readonly (readonly PathNode[])[],
  chords: number,
): string | undefined {
  const loops = [outline, ...holes].map((nodes) => asPolygon(nodes, chords));
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

interface Side {
  /** Which polygon it is of, and which side of it. */
  of: readonly FlatPlace[];
  at: number;
  p: FlatPlace;
  q: FlatPlace;
  left: number;
  right: number;
}

/**
 * Whether two polygons, or one with itself, cross or touch anywhere but where neighbours meet. A line is swept over the sides from left to right, so that only
 * those are compared that it passes at once.
 */
export function crossing(a: readonly FlatPlace[], b: readonly FlatPlace[]): boolean {
  const same = a === b;
  // Folded back onto itself.
  if (same && a.some((p, i) => foldsBack(p, a[(i + 1) % a.length]!, a[(i + 2) % a.length]!))) return true;
  const sides = (same ? [a] : [a, b]).flatMap((of) =>
    of.map((p, at): Side => {
      const q = of[(at + 1) % of.length]!;
      return { of, at, p, q, left: Math.min(p[0], q[0]), right: Math.max(p[0], q[0]) };
    }),
  );
  let passed: Side[] = [];
  for (const side of sides.sort((one, other) => one.left - other.left)) {
    passed = passed.filter(({ right }) => right >= side.left);
    if (passed.some((other) => comesTogether(side, other, same))) return true;
    passed.push(side);
  }
  return false;
}

function comesTogether({ of, at, p, q }: Side, other: Side, same: boolean): boolean {
  if ((other.of === of) !== same) return false;
  const apart = Math.abs(at - other.at);
  if (same && (apart === 1 || apart === of.length - 1)) return false;
  if (Math.min(p[1], q[1]) > Math.max(other.p[1], other.q[1])) return false;
  if (Math.max(p[1], q[1]) < Math.min(other.p[1], other.q[1])) return false;
  return meet(p, q, other.p, other.q);
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
