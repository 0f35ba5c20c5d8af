import { fabricPlaces } from '../mesh/fabricPlaces';
import type { Mesh } from '../mesh/mesh';
import type { Ramp } from './masks';

/**
 * The values of a ramp, 0 to 1 per point: 1 at its beginning and 0 at its end, evenly along a straight one, with soft ends in a round
 * one. Distances are measured on the fabric in m. With waves it comes back to 1 after its own length. `phase` shifts it
 * along itself, in shares of its length. Exact arithmetic, so the same everywhere.
 */
export function rampValues(mesh: Mesh, ramp: Ramp, phase: number): Float32Array<ArrayBuffer> {
  const values = upright(mesh, ramp, phase);
  return ramp.inverted ? values.map((value) => 1 - value) : values;
}

function upright(mesh: Mesh, { kind, from, to, waves }: Ramp, phase: number): Float32Array<ArrayBuffer> {
  const { places, width, height } = fabricPlaces(mesh);
  const start = [from[0] * width, from[1] * height] as const;
  const way = [to[0] * width - start[0], to[1] * height - start[1]] as const;
  const square = Math.max(1e-12, way[0] * way[0] + way[1] * way[1]);
  return Float32Array.from({ length: places.length / 2 }, (_, point) => {
    const [u, v] = [places[point * 2]! - start[0], places[point * 2 + 1]! - start[1]];
    const along = kind === 'straight' ? (u * way[0] + v * way[1]) / square : Math.sqrt((u * u + v * v) / square);
    const shifted = along - phase;
    if (waves) return soft(Math.abs(2 * (shifted - Math.floor(shifted)) - 1));
    const share = Math.min(1, Math.max(0, 1 - shifted));
    return kind === 'straight' ? share : soft(share);
  });
}

const soft = (share: number): number => share * share * (3 - 2 * share);
