/** In m: what layers keep of each other in cloth of ordinary spacing, and what they never keep less than. */
const MOST = 0.002;
const LEAST = 0.0002;
const SHARE = 0.2;

/** How far in m the layers of a cloth are best kept apart whose points are so many m apart: farther, and neighbours in it count as layers that may meet. */
export function layerDistanceFor(spacing: number): number {
  const tenths = Math.round(spacing * SHARE * 1e4) / 1e4;
  return Math.min(MOST, Math.max(LEAST, tenths));
}
