import { cosine, sine } from '../math/trigonometry';
import type { Pleats } from './schema';

/** A row of pleats seen from its end: how the cloth runs to and fro. */
export interface PleatProfile {
  /** How far across it ends, in m; deep knife pleats end under the last fold. */
  width: number;
  /** How wide all of it lies, in m. */
  across: number;
  /** How far along the cloth it is creased, in m, in order. */
  creases: number[];
  /** What of it is seen from its face, from and to so far along the cloth, in m, in order: as wide together as the row lies. All of it where there are no creases. */
  seen: [from: number, to: number][];
  /** Where the cloth is so many m along: across the row, and out of it towards its face. Outside of the row it goes straight on. */
  placeAt: (along: number) => [across: number, out: number];
}

/** How deep pleats can be, as a share of the cloth that each has: so that no more than three layers lie on each other. */
const DEEPEST = { knife: 1 / 3, box: 1 / 6, rolled: 0.39 } as const;
/** The steepest that rolled pleats become, in radians from the row: beyond it they would touch. */
const STEEPEST = 1.9;
/** What is seen of less cloth than this, in m, is not seen. */
const UNSEEN = 1e-6;
/** A rolled pleat is followed in so many steps. */
const STEPS = 128;

/** How deep so many pleats can be along a side of so many m, in m. */
export function deepestPleats({ kind, count }: Pick<Pleats, 'kind' | 'count'>, length: number): number {
  return (DEEPEST[kind] * length) / count;
}

/** How pleats lie along a side of so many m; they must not be deeper than there is cloth for. No length along the cloth changes. */
export function pleatProfile(pleats: Pleats, length: number): PleatProfile {
  return pleats.kind === 'rolled' ? rolled(pleats, length) : creased(pleats, length);
}

/** A place on the way: how far along the cloth, across, and out. */
type Turn = [along: number, across: number, out: number];

/** Straight from crease to crease: back under what came before, and on. */
function creased({ kind, count, depth, room }: Pleats, length: number): PleatProfile {
  const each = length / count;
  const turns: Turn[] = [[0, 0, 0]];
  const go = (by: number, out: number) => {
    const [along, across, before] = turns.at(-1)!;
    const rise = out - before;
    const forward = Math.sqrt(by * by - rise * rise);
    turns.push([along + Math.abs(by), across + (by < 0 ? -forward : forward), out]);
  };
  for (let pleat = 0; pleat < count; pleat++) {
    if (kind === 'knife') {
      // The end of one and the beginning of the next are one run, from under the fold before it up to the next.
      const start = pleat === 0 ? each / 2 : each - depth;
      go(start, room);
      go(-depth, 0);
    } else {
      const panel = each / 2 - depth;
      go(pleat === 0 ? panel / 2 : panel, 0);
      go(-depth, room);
      go(panel, room);
      go(-depth, 0);
    }
  }
  go(length - turns.at(-1)![0], 0);
  return {
    width: turns.at(-1)![1],
    across: Math.max(...turns.map(([, across]) => across)),
    creases: turns.slice(1, -1).map(([along]) => along),
    seen: seenFromFace(turns),
    placeAt: along(turns),
  };
}

/** What of a way to and fro nothing lies on: of two runs that go on the same way, one ends or begins where it comes under the other. */
function seenFromFace(turns: readonly Turn[]): [from: number, to: number][] {
  const runs = turns.slice(1).flatMap((end, i) => (end[1] > turns[i]![1] ? [{ start: turns[i]!, end }] : []));
  const seen = runs.map(({ start, end }): [number, number] => [start[0], end[0]]);
  const at = ({ start, end }: { start: Turn; end: Turn }, across: number): Turn => {
    const share = (across - start[1]) / (end[1] - start[1]);
    return [start[0] + share * (end[0] - start[0]), across, start[2] + share * (end[2] - start[2])];
  };
  runs.slice(1).forEach((next, i) => {
    const run = runs[i]!;
    const [from, to] = [next.start[1], run.end[1]];
    const middle = (from + to) / 2;
    if (at(run, middle)[2] >= at(next, middle)[2]) seen[i + 1]![0] = at(next, to)[0];
    else seen[i]![1] = at(run, from)[0];
  });
  return seen.filter(([from, to]) => to - from > UNSEEN);
}

/** In round waves whose direction swings as a sine: the curve that bends least between its turns (Langbein and Leopold 1966). */
function rolled({ count, depth }: Pleats, length: number): PleatProfile {
  const each = length / count;
  let [low, high] = [0, STEEPEST];
  for (let i = 0; i < 48; i++) {
    const middle = (low + high) / 2;
    if (wave(middle, each)[STEPS / 2]![2] < depth) low = middle;
    else high = middle;
  }
  const one = wave((low + high) / 2, each);
  const [, wide] = one[STEPS]!;
  const turns: Turn[] = [[0, 0, 0]];
  for (let pleat = 0; pleat < count; pleat++) {
    for (const [s, across, out] of one.slice(1)) turns.push([pleat * each + s, pleat * wide + across, out]);
  }
  const width = turns.at(-1)![1];
  return { width, across: width, creases: [], seen: [[0, length]], placeAt: along(turns) };
}

/** One wave of so many m of cloth, that stands up to an angle. */
function wave(steepest: number, each: number): Turn[] {
  const turns: Turn[] = [[0, 0, 0]];
  const step = each / STEPS;
  for (let i = 0; i < STEPS; i++) {
    const [s, across, out] = turns[i]!;
    const angle = steepest * sine((2 * Math.PI * (i + 0.5)) / STEPS);
    turns.push([s + step, across + step * cosine(angle), out + step * sine(angle)]);
  }
  return turns;
}

/** Places on the way between turns. */
function along(turns: readonly Turn[]): PleatProfile['placeAt'] {
  const [length, width] = turns.at(-1)!;
  return (at) => {
    if (at <= 0) return [at, 0];
    if (at >= length) return [width + at - length, 0];
    let [low, high] = [0, turns.length - 1];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (turns[middle]![0] <= at) low = middle;
      else high = middle;
    }
    const [a, b] = [turns[low]!, turns[high]!];
    const share = (at - a[0]) / (b[0] - a[0]);
    return [a[1] + share * (b[1] - a[1]), a[2] + share * (b[2] - a[2])];
  };
}
