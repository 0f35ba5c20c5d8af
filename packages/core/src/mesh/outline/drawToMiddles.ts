import type { Borders } from './borders';
import { centroids } from './centroids';

/** Points are drawn no nearer to a border than this share of the spacing. */
export const NEAREST_BORDER = 0.4;

/**
 * Draws points towards the middle of the triangles around them, or beyond it.
 *
 * @param places u v of each point; changed
 * @param drawn the first of those that are drawn, and the one after the last
 * @param share of the way to the middle
 */
export function drawToMiddles(
  places: Float64Array,
  triangles: Uint32Array,
  [from, to]: readonly [number, number],
  borders: Borders,
  spacing: number,
  share: number,
): void {
  const middles = centroids(places, triangles, from, to);
  for (let point = from; point < to; point++) {
    const u = places[point * 2]!;
    const v = places[point * 2 + 1]!;
    const toU = u + share * (middles[(point - from) * 2]! - u);
    const toV = v + share * (middles[(point - from) * 2 + 1]! - v);
    // Across a hollow of the border it must not be drawn out.
    if (borders.isNear(toU, toV) && borders.distance([toU, toV]) < NEAREST_BORDER * spacing) continue;
    places[point * 2] = toU;
    places[point * 2 + 1] = toV;
  }
}
