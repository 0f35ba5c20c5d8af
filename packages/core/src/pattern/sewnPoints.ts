import type { CutPiece } from './cutPiece';
import { distance, sideLength, sidesOf } from '../mesh/outline/path';
import { TOUCH } from './innerLines';
import { sewnRuns } from './sewnRuns';
import type { sideCounts } from './sideCounts';
import { findStretch, loopsOfPiece, sideKey, type StretchPlace } from './stretches';
import type { Pattern, Seam } from './schema';

/** The points of a stretch in order, counted within its piece; its end too, unless it is a whole border. */
export function pointsOfStretch(
  { piece, loop, sides, whole }: StretchPlace,
  cut: CutPiece,
  counts: ReadonlyMap<string, number>,
): number[] {
  const { first, count } = cut.loops[loop]!;
  const start = cut.firstOfSide[loop]![sides[0]!]!;
  const length = sides.reduce((sum, side) => sum + counts.get(sideKey(piece.id, loop, side))!, 0);
  return Array.from({ length: whole ? length : length + 1 }, (_, i) => first + ((start - first + i) % count));
}

/** The points of a stretch that are sewn where it is sewn to something else than a border of its pattern: none that lie under a pleat. */
export function sewnPointsOfStretch(place: StretchPlace, cut: CutPiece, counts: ReadonlyMap<string, number>): number[] {
  const points = pointsOfStretch(place, cut, counts);
  const runs = sewnRuns(place);
  if (runs.every(({ from, to }) => from === 0 && to === 1)) return points;
  const all = sidesOf(loopsOfPiece(place.piece)[place.loop]!);
  let first = 0;
  return place.sides.flatMap((side, i) => {
    const count = counts.get(sideKey(place.piece.id, place.loop, side))!;
    const own = points.slice(first, i === place.sides.length - 1 ? undefined : first + count);
    first += count;
    const [from, length] = [all[side]!.from.at, sideLength(all[side]!)];
    return own.filter((point) => {
      const far = distance([cut.places[point * 2]!, cut.places[point * 2 + 1]!], from);
      return runs.some((run) => run.side === side && far > run.from * length - TOUCH && far < run.to * length + TOUCH);
    });
  });
}

/** Which points a seam brings together, counted through all pieces, in the order of its first stretch. */
export function seamPairs(
  seam: Seam,
  { pieces }: Pick<Pattern, 'pieces'>,
  cuts: readonly CutPiece[],
  firsts: readonly number[],
  counts: ReturnType<typeof sideCounts>,
): [number, number][] {
  const stretches = [findStretch(pieces, seam.a), findStretch(pieces, seam.b)];
  const [a, b] = stretches.map((stretch) => {
    if (!stretch) return [];
    const at = pieces.indexOf(stretch.piece);
    return pointsOfStretch(stretch, cuts[at]!, counts).map((point) => firsts[at]! + point);
  }) as [number[], number[]];
  const whole = stretches.every((stretch) => stretch?.whole);
  const n = Math.min(a.length, b.length);
  const partner = (i: number) => (seam.turned ? i : whole ? (n - i) % n : n - 1 - i);
  return Array.from({ length: n }, (_, i): [number, number] => [a[i]!, b[partner(i)]!]);
}

/** Per point the first of all points that it is sewn to, itself where it is sewn to none. */
export function sewnTogether(count: number, pairs: readonly (readonly [number, number])[]): Uint32Array {
  const of = Uint32Array.from({ length: count }, (_, i) => i);
  const root = (point: number): number => {
    let at = point;
    while (of[at] !== at) at = of[at] = of[of[at]!]!;
    return at;
  };
  for (const [a, b] of pairs) {
    const [p, q] = [root(a), root(b)];
    of[Math.max(p, q)] = Math.min(p, q);
  }
  return of.map((_, point) => root(point));
}
