import type { FrameStats } from './frame';

/** How a bake kept what its quality promises, and what that cost. */
export interface KeptPromises {
  /** Frames for which something was promised. */
  frames: number;
  /** Those that broke it, and the one with the largest stretch among them. */
  broken: number;
  worst: number | null;
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
  const stretch = ({ stats }: (typeof frames)[number]) => stats.falseStretch ?? stats.maxStretch;
  const worst = broken.reduce<(typeof frames)[number] | null>(
    (most, one) => (most === null || stretch(one) > stretch(most) ? one : most),
    null,
  );
  const counts = promised.map(({ stats }) => stats.substeps ?? 0);
  return {
    frames: promised.length,
    broken: broken.length,
    worst: worst?.frame ?? null,
    retaken: promised.filter(({ stats }) => (stats.retakes ?? 0) > 0).length,
    fewest: counts.reduce((least, count) => Math.min(least, count), Infinity),
    most: counts.reduce((most, count) => Math.max(most, count), 0),
  };
}
