import { meet } from '../mesh/outline/outlineProblem';
import {
  asPolygon,
  distance,
  isInside,
  isStraight,
  samplesOf,
  type BorderSide,
  type FlatPlace,
} from '../mesh/outline/path';
import { innerLines, TOUCH } from './innerLines';
import type { Piece } from './schema';
import { loopsOfPiece } from './stretches';

/** A curve is looked at in so many pieces. */
const CHORDS = 16;
/** Lines shorter than this, in m, are none. */
const SHORTEST = 1e-3;

/** Why the lines on a piece cannot be had: a sentence for the artist; undefined where they can. Each runs inside, from border to border at most. */
export function linesProblem(piece: Piece): string | undefined {
  if (piece.lines.length === 0) return undefined;
  const [border, ...holes] = loopsOfPiece(piece).map((nodes) => asPolygon(nodes, CHORDS * 2)) as [
    FlatPlace[],
    ...FlatPlace[][],
  ];
  const all = innerLines(piece);
  const courses = all.map(({ sides }) => courseOf(sides));
  for (const [i, { ends }] of all.slice(0, piece.lines.length).entries()) {
    const name = `line ${i + 1}`;
    const course = courses[i]!;
    if (course.reduce((sum, place, n) => sum + (n > 0 ? distance(place, course[n - 1]!) : 0), 0) < SHORTEST)
      return `${name} has no length`;
    if (crossesItself(course)) return `${name} crosses itself`;
    // Its ends may lie on a border; what is between may not.
    const within = shortened(course, ends[0] !== null, ends[1] !== null);
    for (const loop of [border, ...holes]) {
      const closed = [...loop, loop[0]!];
      if (meets(within, closed)) return `${name} crosses ${loop === border ? 'the outline' : 'a hole'}`;
    }
    const middle = within[Math.floor(within.length / 2)]!;
    const at = within.length > 2 ? middle : between(within[0]!, within[1]!);
    if (!isInside(border, at)) return `${name} lies outside of the outline`;
    if (holes.some((hole) => isInside(hole, at))) return `${name} lies in a hole`;
    for (let j = 0; j < all.length; j++) {
      if (j === i || (j < i && j < piece.lines.length)) continue;
      if (meets(course, courses[j]!))
        return `${name} crosses ${j < piece.lines.length ? `line ${j + 1}` : 'a crease of its pleats'}`;
    }
  }
  return undefined;
}

function courseOf(sides: readonly BorderSide[]): FlatPlace[] {
  return [...sides.flatMap((side) => samplesOf(side, isStraight(side) ? 1 : CHORDS)), sides.at(-1)!.to.at];
}

function shortened(course: readonly FlatPlace[], first: boolean, last: boolean): FlatPlace[] {
  const own = [...course];
  const inwards = (from: FlatPlace, to: FlatPlace): FlatPlace => {
    const share = Math.min(0.4, (3 * TOUCH) / Math.max(distance(from, to), 1e-12));
    return [from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])];
  };
  if (first) own[0] = inwards(course[0]!, course[1]!);
  if (last) own[own.length - 1] = inwards(course.at(-1)!, course.at(-2)!);
  return own;
}

function between(a: FlatPlace, b: FlatPlace): FlatPlace {
  return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
}

function meets(a: readonly FlatPlace[], b: readonly FlatPlace[]): boolean {
  for (let i = 1; i < a.length; i++)
    for (let j = 1; j < b.length; j++) if (cross(a[i - 1]!, a[i]!, b[j - 1]!, b[j]!)) return true;
  return false;
}

function crossesItself(course: readonly FlatPlace[]): boolean {
  for (let i = 1; i < course.length; i++)
    for (let j = i + 2; j < course.length; j++)
      if (cross(course[i - 1]!, course[i]!, course[j - 1]!, course[j]!)) return true;
  return false;
}

/** Whether two straight pieces cross or touch; those of one straight line, which rounding makes cross anywhere on it, where they overlap. */
function cross(p: FlatPlace, q: FlatPlace, r: FlatPlace, s: FlatPlace): boolean {
  const near = ([0, 1] as const).every(
    (axis) =>
      Math.max(p[axis], q[axis]) >= Math.min(r[axis], s[axis]) &&
      Math.max(r[axis], s[axis]) >= Math.min(p[axis], q[axis]),
  );
  return near && meet(p, q, r, s);
}
