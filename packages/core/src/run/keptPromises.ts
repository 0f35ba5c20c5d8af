import type { FrameStats } from './frame';
import { STRETCHES, type Breach } from './pace';

/** A frame that broke its promise. */
export interface BrokenPromise {
  frame: number;
  /** By what; frames of an older Lumbra do not tell. */
  broke: Breach | null;
  /** Id of the cloth or collider concerned, where there is one. */
  thing: string | null;
  /** That of the collider that leaves no room with it. */
  beside?: string | null;
  /** Stretch as a share, depth or missing room in m, or how many crossings or faces. */
  amount: number;
  substeps: number;
}

/** How a bake kept what its quality promises, and what that cost. */
export interface KeptPromises {
  /** Frames for which something was promised. */
  frames: number;
  /** Those that broke it, and the worst of them: what comes through before what is stretched, and of that the most. */
  broken: number;
  worst: BrokenPromise | null;
  /** Frames that were taken again. */
  retaken: number;
  /** Fewest and most substeps of a frame. */
  fewest: number;
  most: number;
}

/** Sums up the frames of a bake; null where nothing was promised in any. */
export function keptPromises(frames: readonly { frame: number; stats: FrameStats }[]): KeptPromises | null {
  const promised = frames.filter(({ stats }) => stats.kept === true || stats.kept === false);
  if (promised.length === 0) return null;
  const broken = promised.filter(({ stats }) => stats.kept === false);
  const all = broken.map(brokenPromise);
  const worst = all.reduce<BrokenPromise | null>(
    (most, one) => (most === null || weight(one) > weight(most) ? one : most),
    null,
  );
  const counts = promised.map(({ stats }) => stats.substeps ?? 0);
  return {
    frames: promised.length,
    broken: broken.length,
    worst,
    retaken: promised.filter(({ stats }) => (stats.retakes ?? 0) > 0).length,
    fewest: counts.reduce((least, count) => Math.min(least, count), Infinity),
    most: counts.reduce((most, count) => Math.max(most, count), 0),
  };
}

function brokenPromise({ frame, stats }: { frame: number; stats: FrameStats }): BrokenPromise {
  const { broke = null, substeps = 0 } = stats;
  const of = (thing: string | null | undefined, amount: number | undefined): BrokenPromise => ({
    ...{ frame, broke, thing: thing ?? null, amount: amount ?? 0, substeps },
  });
  if (broke === 'crossed') return of(null, stats.crossings);
  if (broke === 'pierced') return of(stats.piercedIn, stats.pierced);
  if (broke === 'deep') return of(stats.deepestIn, stats.deepest);
  if (broke === 'squeezed') {
    const [thing, beside = null] = stats.squeezedBetween ?? [];
    return { ...of(thing, stats.squeezed), beside };
  }
  return of(stats.stretchIn, stats.falseStretch ?? stats.maxStretch);
}

/** What comes through is worse than any stretch, and what cannot be otherwise less bad than what can. */
function weight({ broke, amount }: BrokenPromise): number {
  if (broke === 'squeezed') return amount * 1e-3;
  return STRETCHES.includes(broke) ? amount : 1e6 + amount;
}
