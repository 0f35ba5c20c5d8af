import Delaunator from 'delaunator';
import { centroids } from './centroids';

// A square of evenly spread points in no preferred direction, which goes on into itself on all sides. It is drawn once, for spacing 1, and laid out
// over every piece: what is off the borders is then as even as it will become, and only what is beside them is left to be fitted.

/** The tile is as wide as this, in spacings. */
export const TILE = 48;
/** Area that a point has where all triangles have equal sides, over the square of their length. */
const SHARE = Math.sqrt(3) / 2;
/** Points as near to the border of the tile as this are there on its other side too. */
const MARGIN = 4;
/** Rounds in which points go to the middle of what is around them: beyond it, so that it takes fewer; the last ones not. */
const ROUNDS = 28;
const FARTHER = 1.6;
const LAST = 10;

/** After these rounds, one of two points that are nearer to each other than this is left out. */
const EVENED = [20, 23];
const CROWDED = 0.65;

let known: Float64Array | null = null;

/**
 * Places of the tile: points of an evenly spread sequence (Roberts 2018, the plastic number), each drawn to the middle of the triangles around it
 * (Chen and Holst 2011, centroidal patch triangulations).
 *
 * @returns u v of each, from 0 to `TILE`, those beside each other mostly one after the other
 */
export function evenTile(): Float64Array {
  known ??= drawn();
  return known;
}

function drawn(): Float64Array {
  const count = Math.round((TILE * TILE) / SHARE);
  let places: Float64Array = new Float64Array(count * 2);
  for (let i = 0; i < count; i++) {
    places[i * 2] = TILE * ((0.5 + i * 0.7548776662466927) % 1);
    places[i * 2 + 1] = TILE * ((0.5 + i * 0.5698402909980532) % 1);
  }
  for (let round = 0; round < ROUNDS; round++) {
    const { all, own } = goneOn(places);
    const { triangles } = new Delaunator(all);
    if (EVENED.includes(round)) {
      places = thinned(all, own, triangles);
      continue;
    }
    const middles = centroids(all, triangles, 0, places.length / 2);
    const share = round < ROUNDS - LAST ? FARTHER : 1;
    for (let i = 0; i < places.length; i++) {
      const to = places[i]! + share * (middles[i]! - places[i]!);
      places[i] = to < 0 ? to + TILE : to >= TILE ? to - TILE : to;
    }
  }
  return inRows(places);
}

/** With what lies beside the tile, as the tiles around it have it; and which point of the tile each is. */
function goneOn(places: Float64Array): { all: Float64Array; own: number[] } {
  const all = [...places];
  const own = Array.from({ length: places.length / 2 }, (_, point) => point);
  for (let i = 0; i < places.length; i += 2) {
    for (let du = -TILE; du <= TILE; du += TILE) {
      for (let dv = -TILE; dv <= TILE; dv += TILE) {
        const [u, v] = [places[i]! + du, places[i + 1]! + dv];
        const near = u > -MARGIN && u < TILE + MARGIN && v > -MARGIN && v < TILE + MARGIN;
        if (!near || (du === 0 && dv === 0)) continue;
        all.push(u, v);
        own.push(i / 2);
      }
    }
  }
  return { all: Float64Array.from(all), own };
}

/** The places of the tile without one of two that are too near each other. */
function thinned(all: Float64Array, own: readonly number[], triangles: Uint32Array): Float64Array {
  const left = new Set<number>();
  for (let i = 0; i < triangles.length; i++) {
    const [a, b] = [triangles[i]!, triangles[i % 3 === 2 ? i - 2 : i + 1]!];
    const [p, q] = [own[a]!, own[b]!];
    if (left.has(p) || left.has(q)) continue;
    const [du, dv] = [all[a * 2]! - all[b * 2]!, all[a * 2 + 1]! - all[b * 2 + 1]!];
    if (Math.sqrt(du * du + dv * dv) < CROWDED) left.add(Math.max(p, q));
  }
  const count = Math.max(...own) + 1;
  return all.slice(0, count * 2).filter((_, i) => !left.has(i >> 1));
}

/** In rows of a few spacings, each from left to right. */
function inRows(places: Float64Array): Float64Array {
  const rowOf = (point: number) => Math.floor(places[point * 2 + 1]! / 3);
  const order = Array.from({ length: places.length / 2 }, (_, point) => point);
  order.sort((a, b) => rowOf(a) - rowOf(b) || places[a * 2]! - places[b * 2]! || a - b);
  return Float64Array.from(order.flatMap((point) => [places[point * 2]!, places[point * 2 + 1]!]));
}
