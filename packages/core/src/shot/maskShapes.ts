import { fabricPlaces } from '../mesh/fabricPlaces';
import type { Mesh } from '../mesh/mesh';
import { topology } from '../mesh/topology';

// Ways to make the values of a mask, a byte a point: 255 is 100 %.

/** Soft noise of a size in m over the fabric; the same seed gives the same mask. Value noise with two finer layers. */
export function noiseMask(mesh: Mesh, size: number, seed: number): Uint8Array<ArrayBuffer> {
  const { places } = fabricPlaces(mesh);
  return Uint8Array.from({ length: places.length / 2 }, (_, point) => {
    let [sum, weight] = [0, 0];
    for (let layer = 0; layer < 3; layer++) {
      const scale = 2 ** layer / Math.max(1e-6, size);
      const share = 0.5 ** layer;
      sum += share * valueNoise(places[point * 2]! * scale, places[point * 2 + 1]! * scale, seed + layer);
      weight += share;
    }
    return byte(sum / weight);
  });
}

/** Each point becomes the mean of itself and its neighbours, so many times. */
export function blurMask(mesh: Mesh, values: Uint8Array, times: number): Uint8Array<ArrayBuffer> {
  const { edgePoints } = topology(mesh);
  let from = Float32Array.from(values);
  for (let n = 0; n < times; n++) {
    const sums = from.slice();
    const counts = new Uint16Array(from.length).fill(1);
    for (let edge = 0; edge < edgePoints.length; edge += 2) {
      const [a, b] = [edgePoints[edge]!, edgePoints[edge + 1]!];
      sums[a]! += from[b]!;
      sums[b]! += from[a]!;
      counts[a]!++;
      counts[b]!++;
    }
    from = sums.map((sum, i) => sum / counts[i]!);
  }
  return Uint8Array.from(from, Math.round);
}

export type MaskCombination = 'multiply' | 'largest' | 'smallest' | 'take away';

/** Two masks of the same mesh as one. */
export function combineMasks(a: Uint8Array, b: Uint8Array, how: MaskCombination): Uint8Array<ArrayBuffer> {
  const with2 = (x: number, y: number) => {
    if (how === 'multiply') return Math.round((x * y) / 255);
    if (how === 'largest') return Math.max(x, y);
    return how === 'smallest' ? Math.min(x, y) : Math.max(0, x - y);
  };
  return Uint8Array.from(a, (value, i) => with2(value, b[i] ?? 0));
}

function valueNoise(x: number, y: number, seed: number): number {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [s, t] = [smooth(x - i), smooth(y - j)];
  const at = (di: number, dj: number) => hashed(i + di, j + dj, seed);
  return (at(0, 0) * (1 - s) + at(1, 0) * s) * (1 - t) + (at(0, 1) * (1 - s) + at(1, 1) * s) * t;
}

/** A number from 0 to 1 that whole numbers scatter into. */
function hashed(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(seed + 1, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 0xffffffff;
}

function smooth(share: number): number {
  const inside = Math.min(1, Math.max(0, share));
  return inside * inside * (3 - 2 * inside);
}

function byte(share: number): number {
  return Math.round(255 * Math.min(1, Math.max(0, share)));
}
