import { formatQuantity, type Unit } from '../quantity/units';
import type { FrameStats } from './frame';

// What went wrong in a bake, from the numbers of its frames: each problem with the frames that have it, the worst of
// them, and the place to look at.

export type ProblemKind = 'crossing' | 'pierced' | 'pokeThrough' | 'squeezed' | 'overStretch' | 'speed';

export interface Problem {
  kind: ProblemKind;
  from: number;
  to: number;
  /** The frame in which it is worst, and how bad it is there: a count of places or faces, m, a share, or m/s. */
  worst: number;
  value: number;
  /** x y z in m, where it is known. */
  place: [number, number, number] | null;
  /** Ids of the collider that cloth pokes or passes through, or of both that leave it no room. */
  things: readonly string[];
}

interface Kind {
  title: string;
  /** How bad it is, in words. */
  amount: (value: number) => string;
  /** Problems begin above this. */
  limit: number;
  value: (stats: FrameStats) => number;
  place: (stats: FrameStats) => [number, number, number] | null;
  things: (stats: FrameStats) => readonly (string | null | undefined)[];
}

const [nothing, none] = [() => null, () => []];
const counted = (one: string, many: string) => (value: number) => (value === 1 ? `1 ${one}` : `${value} ${many}`);
const measured = (unit: Unit) => (value: number) => `${formatQuantity(value, unit, 2)} ${unit}`;

/** What is looked for, with limits in SI. */
export const PROBLEM_KINDS: Record<ProblemKind, Kind> = {
  crossing: {
    title: 'Crossing',
    amount: counted('place', 'places'),
    limit: 0,
    value: (s) => s.crossings,
    place: (s) => s.crossingAt,
    things: none,
  },
  pierced: {
    title: 'Pierced',
    amount: counted('face', 'faces'),
    limit: 0,
    value: (s) => s.pierced ?? 0,
    place: (s) => s.piercedAt ?? null,
    things: (s) => [s.piercedIn],
  },
  // A tenth of a millimetre cannot be seen.
  pokeThrough: {
    title: 'Poke-through',
    amount: measured('mm'),
    limit: 1e-4,
    value: (s) => s.deepest,
    place: (s) => s.deepestAt,
    things: (s) => [s.deepestIn],
  },
  squeezed: {
    title: 'No room',
    amount: measured('mm'),
    limit: 1e-4,
    value: (s) => s.squeezed ?? 0,
    place: (s) => s.squeezedAt ?? null,
    things: (s) => s.squeezedBetween ?? [],
  },
  overStretch: {
    title: 'Over-stretch',
    amount: measured('%'),
    limit: 0.03,
    value: (s) => s.falseStretch ?? s.maxStretch,
    place: (s) => s.stretchAt,
    things: none,
  },
  // Faster than anything that only falls and swings in a room.
  speed: {
    title: 'Speed',
    amount: measured('m/s'),
    limit: 12,
    value: (s) => s.fastest,
    place: nothing,
    things: none,
  },
};

/** Frames with a problem that follow each other, with at most this many good ones between, are one problem. */
const GAP = 8;

/** The problems of a bake, worst kinds first, each kind in order of frames. */
export function findProblems(frames: readonly { frame: number; stats: FrameStats }[]): Problem[] {
  return (Object.keys(PROBLEM_KINDS) as ProblemKind[]).flatMap((kind) => findKind(kind, frames));
}

/** What a problem is and with which things, in words. `nameOf` gives the name of a thing by its id. */
export function problemTitle({ kind, things }: Problem, nameOf: (id: string) => string | undefined): string {
  const { title } = PROBLEM_KINDS[kind];
  const names = namesOf(things, nameOf);
  return names ? `${title}, ${names}` : title;
}

/** The names of things, as one says them. */
export function namesOf(things: readonly string[], nameOf: (id: string) => string | undefined): string {
  return things.flatMap((id) => nameOf(id) ?? []).join(' and ');
}

/** In how many frames there is a problem of any kind. */
export function problemFrames(frames: readonly { stats: FrameStats }[]): number {
  const kinds = Object.values(PROBLEM_KINDS);
  return frames.filter(({ stats }) => kinds.some(({ limit, value }) => value(stats) > limit)).length;
}

function findKind(kind: ProblemKind, frames: readonly { frame: number; stats: FrameStats }[]): Problem[] {
  const { limit, value, place, things } = PROBLEM_KINDS[kind];
  const found: Problem[] = [];
  for (const { frame, stats } of frames) {
    const size = value(stats);
    if (!(size > limit)) continue;
    const last = found.at(-1);
    const at = {
      worst: frame,
      value: size,
      place: place(stats),
      things: things(stats).filter((id) => typeof id === 'string'),
    };
    if (last && frame - last.to <= GAP + 1 && last.things.join() === at.things.join()) {
      last.to = frame;
      if (size > last.value) Object.assign(last, at);
    } else found.push({ kind, from: frame, to: frame, ...at });
  }
  return found;
}
