import type { Vector3 } from '../../math/vector';

/** How many control points a lattice has along x, y and z. */
export type Counts = readonly [x: number, y: number, z: number];

/** The most control points along an axis. */
export const MOST_CONTROLS = 8;

/** What a control point is called: its count along x, y and z from 1. */
export const controlName = (at: Counts): string => at.map((i) => i + 1).join(' ');

/** The place of a control point in the list of all: x goes fastest, then y. */
export const controlIndex = ([x, y]: Counts, at: Counts): number => at[0] + x * (at[1] + y * at[2]);

/** How far along each axis the control points are, in the order of the list. */
export function controlPlaces([x, y, z]: Counts): Counts[] {
  return Array.from({ length: x * y * z }, (_, i) => [i % x, Math.floor(i / x) % y, Math.floor(i / (x * y))]);
}

/**
 * How far control points are moved, x y z each, of a lattice that has other counts than the one for which they were given. More points make the
 * same bend (raising the degree of Bézier curves, Farin 2002 “Curves and Surfaces for CAGD”, 5.1); fewer come as near to it as their own places do.
 */
export function resampled(offsets: readonly number[], from: Counts, to: Counts): readonly number[] {
  if (from.every((count, axis) => count === to[axis])) return offsets;
  let [now, counts] = [[...offsets], from];
  for (const axis of [0, 1, 2] as const) {
    const next = counts.map((count, i) => (i === axis ? to[axis] : count)) as unknown as Counts;
    const out = new Array<number>(next[0] * next[1] * next[2] * 3).fill(0);
    for (const at of controlPlaces(next)) {
      if (at[axis] > 0) continue;
      const place = (all: Counts, i: number) =>
        controlIndex(all, at.map((own, other) => (other === axis ? i : own)) as unknown as Counts) * 3;
      for (let part = 0; part < 3; part++) {
        const line = Array.from({ length: counts[axis] }, (_, i) => now[place(counts, i) + part]!);
        resampledLine(line, to[axis]).forEach((value, i) => (out[place(next, i) + part] = value));
      }
    }
    [now, counts] = [out, next];
  }
  return now;
}

function resampledLine(line: number[], count: number): number[] {
  if (count < line.length) {
    return Array.from({ length: count }, (_, i) => {
      const at = (i / (count - 1)) * (line.length - 1);
      const first = Math.min(line.length - 2, Math.floor(at));
      return line[first]! + (at - first) * (line[first + 1]! - line[first]!);
    });
  }
  let now = line;
  while (now.length < count) {
    const degree = now.length;
    now = Array.from({ length: degree + 1 }, (_, i) => {
      const share = i / degree;
      return share * (now[i - 1] ?? 0) + (1 - share) * (now[i] ?? 0);
    });
  }
  return now;
}

/** A lattice as its step has it. */
export interface LatticeBox {
  /** The middle of the box from the middle of the area of the cloth, in m. */
  x: number;
  y: number;
  z: number;
  width: number;
  height: number;
  depth: number;
  counts: Counts;
  /** How far each control point is moved, x y z in m, in the order of the list. */
  points: readonly number[];
}

/** How far each control point is moved, x y z each, in m; not at all where the lattice does not say it for all of them. */
export function movesOf({ counts, points }: Pick<LatticeBox, 'counts' | 'points'>): readonly number[] {
  const length = counts[0] * counts[1] * counts[2] * 3;
  return points.length === length ? points : new Array<number>(length).fill(0);
}

/** Where control points are, in m, with the middle of the area of the cloth at `middle`: where they stood, and where they are moved to. */
export function placedControls(
  box: LatticeBox,
  middle: Vector3,
): { counts: Counts; still: Vector3[]; moved: Vector3[] } {
  const { counts } = box;
  const moves = movesOf(box);
  const size = [box.width, box.height, box.depth];
  const centre = [box.x, box.y, box.z].map((own, axis) => own + middle[axis]!);
  const still = controlPlaces(counts).map((at) =>
    at.map((i, axis) => centre[axis]! + (i / (counts[axis]! - 1) - 0.5) * size[axis]!),
  ) as unknown as Vector3[];
  const moved = still.map((place, i) =>
    place.map((value, axis) => value + moves[i * 3 + axis]!),
  ) as unknown as Vector3[];
  return { counts, still, moved };
}
