import { placeAt, parameterAt, sidesOf, type FlatPlace } from '../mesh/outline/path';
import { apart, type Vector3 } from '../math/vector';
import { layPlace } from './layPiece';
import { freeSides } from './editPattern';
import { sewnRuns } from './sewnRuns';
import { findStretch, loopsOfPiece } from './stretches';
import type { Pattern, Piece, Seam, Stretch } from './schema';

/** A border that turns less than this at a node, as the tangent of the angle, goes on smoothly there. */
const SMOOTH = 0.35;
/** Sides are compared at so many places. */
const PLACES = 9;

/** A seam that could be, and how far apart its borders are at most, in m. */
export interface ProposedSeam extends Omit<Seam, 'id'> {
  apart: number;
}

/** Borders of one piece count as brought together where they are less than this share as far apart as they are cut. */
const BROUGHT = 0.5;

interface Candidate {
  stretch: Stretch;
  /** In the axes of the cloth, and on the piece. */
  places: Vector3[];
  flat: Vector3[];
}

/**
 * Every two borders that lie within so many m of each other all along become a seam, the nearest first, each side once. Sides that follow each other on
 * both borders make one seam. Of a piece's own sides those that meet in a corner are left alone.
 */
export function autoSeam(pattern: Pick<Pattern, 'pieces' | 'seams'>, within: number): ProposedSeam[] {
  const sides = freeSides(pattern).map((stretch) => candidate(pattern, stretch));
  const pairs: (ProposedSeam & { i: number; j: number })[] = [];
  for (const [i, one] of sides.entries()) {
    for (let j = i + 1; j < sides.length; j++) {
      const other = sides[j]!;
      const same = one.stretch.piece === other.stretch.piece;
      if (same && meet(one.stretch, other.stretch)) continue;
      const facing = farthest(one.places, [...other.places].reverse());
      const alike = farthest(one.places, other.places);
      const apart = Math.min(facing, alike);
      // Borders of one piece are near each other as it is cut; they are meant only where it is laid so that they come nearer.
      if (same && apart > BROUGHT * farthest(one.flat, turnedAs(other.flat, alike < facing))) continue;
      if (apart <= within) pairs.push({ a: one.stretch, b: other.stretch, turned: alike < facing, apart, i, j });
    }
  }
  pairs.sort((p, q) => p.apart - q.apart || p.i - q.i || p.j - q.j);
  const taken = new Set<number>();
  const chosen: ProposedSeam[] = [];
  for (const { i, j, a, b, turned, apart } of pairs) {
    if (taken.has(i) || taken.has(j)) continue;
    taken.add(i).add(j);
    chosen.push({ a, b, turned, apart });
  }
  return joined(chosen, pattern.pieces);
}

function candidate({ pieces }: Pick<Pattern, 'pieces'>, stretch: Stretch): Candidate {
  return { stretch, places: placesAlong(pieces, stretch), flat: placesAlong(pieces, stretch, { flat: true }) };
}

function turnedAs(places: readonly Vector3[], alike: boolean): readonly Vector3[] {
  return alike ? places : [...places].reverse();
}

/** Places along a stretch in the axes of its cloth, or `flat` on its piece, even by length; none where it is gone. */
export function placesAlong(
  pieces: readonly Piece[],
  stretch: Stretch,
  { flat = false, count = PLACES } = {},
): Vector3[] {
  const found = findStretch(pieces, stretch);
  if (!found) return [];
  const { piece, loop } = found;
  const all = sidesOf(loopsOfPiece(piece)[loop]!);
  const runs = sewnRuns(found);
  const length = runs.reduce((sum, run) => sum + run.length, 0);
  const lay = flat ? (u: number, v: number): Vector3 => [u, v, 0] : layPlace(piece);
  return Array.from({ length: count }, (_, i) => {
    let left = (length * i) / (count - 1);
    let at = 0;
    while (at + 1 < runs.length && left > runs[at]!.length) left -= runs[at++]!.length;
    const run = runs[at]!;
    const side = all[run.side]!;
    const share = run.from + Math.min(1, left / Math.max(run.length, 1e-12)) * (run.to - run.from);
    return lay(...placeAt(side, parameterAt(side, share)));
  });
}

/** Whether two stretches lie so in the stage that both begin together; else they face each other, as borders beside each other do. */
export function beginTogether(pieces: readonly Piece[], a: Stretch, b: Stretch): boolean {
  const [one, other] = [placesAlong(pieces, a), placesAlong(pieces, b)];
  return mean(one, other) < mean(one, [...other].reverse());
}

function mean(a: readonly Vector3[], b: readonly Vector3[]): number {
  return a.reduce((sum, p, i) => sum + apart(p, b[i]!), 0);
}

function meet(a: Stretch, b: Stretch): boolean {
  return a.to === b.from || a.from === b.to;
}

function farthest(a: readonly Vector3[], b: readonly Vector3[]): number {
  return a.reduce((most, p, i) => Math.max(most, apart(p, b[i]!)), 0);
}

/** Seams that go on in one another without a corner, made one. */
function joined(seams: readonly ProposedSeam[], pieces: readonly Piece[]): ProposedSeam[] {
  const all = [...seams];
  for (let again = true; again;) {
    again = false;
    for (const one of all) {
      const next = all.find((other) => other !== one && goesOn(one, other, pieces));
      if (!next) continue;
      const a = { ...one.a, to: next.a.to };
      const b = one.turned ? { ...one.b, to: next.b.to } : { ...one.b, from: next.b.from };
      // All around and back to the beginning would be a border with itself.
      if (a.from === a.to || b.from === b.to) continue;
      all.splice(all.indexOf(next), 1);
      all[all.indexOf(one)] = { a, b, turned: one.turned, apart: Math.max(one.apart, next.apart) };
      again = true;
      break;
    }
  }
  return all;
}

function goesOn(one: ProposedSeam, next: ProposedSeam, pieces: readonly Piece[]): boolean {
  if (one.turned !== next.turned || one.a.piece !== next.a.piece || one.b.piece !== next.b.piece) return false;
  if (one.a.to !== next.a.from || isCorner(pieces, one.a.piece, one.a.to)) return false;
  return one.turned ? one.b.to === next.b.from : one.b.from === next.b.to;
}

/** Whether a border turns at a node rather than going on smoothly. */
function isCorner(pieces: readonly Piece[], piece: string, node: string): boolean {
  const own = pieces.find(({ id }) => id === piece);
  const nodes = own && loopsOfPiece(own).find((loop) => loop.some(({ id }) => id === node));
  if (!nodes) return true;
  const i = nodes.findIndex(({ id }) => id === node);
  const [at, last, next] = [nodes[i]!, nodes.at(i - 1)!, nodes[(i + 1) % nodes.length]!];
  const arrives = (place: FlatPlace | null, from: FlatPlace): FlatPlace =>
    place ? [-place[0], -place[1]] : [at.at[0] - from[0], at.at[1] - from[1]];
  const p = arrives(at.before, last.at);
  const q: FlatPlace = at.after ?? [next.at[0] - at.at[0], next.at[1] - at.at[1]];
  const turn = p[0] * q[1] - p[1] * q[0];
  const along = p[0] * q[0] + p[1] * q[1];
  return along <= 0 || Math.abs(turn) > SMOOTH * along;
}
