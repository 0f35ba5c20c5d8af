import { cosine, sine } from '../math/trigonometry';
import { quantity } from '../quantity/quantity';

// Turbulence as a sum of waves in all directions, each of which moves air across its own direction, so that no air is made or lost
// anywhere (Kraichnan 1970 “Diffusion by a random velocity field”). Exact arithmetic: same seed, same bits, on any machine.

/** Numbers of turbulent air. */
export const eddyNumbers = {
  eddySize: quantity({
    label: 'Eddy size',
    help: 'Across one eddy: so far away air blows, on the mean, neither along nor against.',
    unit: 'm',
    min: 0.02,
    max: 50,
    default: 0.6,
    step: 'ratio',
    group: 'Turbulence',
  }),
  eddyPace: quantity({
    label: 'Pace',
    help: 'How fast eddies travel and change. A third of the wind’s own speed looks natural.',
    unit: 'm/s',
    min: 0,
    max: 50,
    default: 1.5,
    step: 0.05,
    group: 'Turbulence',
  }),
  eddySeed: quantity({
    label: 'Seed',
    help: 'Another number gives other eddies of the same kind.',
    unit: '',
    min: 0,
    max: 9999,
    default: 1,
    step: 1,
    whole: true,
    group: 'Turbulence',
  }),
};

/** How strong eddies in a wind are. */
export const eddyShare = {
  turbulence: quantity({
    label: 'Turbulence',
    help: 'Speed of the eddies, as a share of the wind’s. 10 % over open water, 30 % between houses.',
    unit: '%',
    min: 0,
    max: 2,
    default: 0,
    step: 0.01,
    keyable: true,
    group: 'Turbulence',
  }),
};

export interface EddyNumbers {
  eddySize: number;
  eddyPace: number;
  eddySeed: number;
}

/** Waves of one field. More cost time, fewer are seen to repeat. */
export const WAVES = 32;
/** Of one wave: wave number x y z in 1/m, direction of the air x y z, turns a second, turns at the start. */
export const WAVE_NUMBERS = 8;
/** Wave numbers of a field lie between these shares of the middle one, evenly. */
const SLOWEST = 0.65;
const FASTEST = 1.35;

/**
 * Waves of eddies whose air has a mean speed of 1 m/s (root mean square). The same numbers give the same waves.
 * The correlation of the velocities at two places falls to zero at `eddySize`.
 */
export function eddyWaves({ eddySize, eddyPace, eddySeed }: EddyNumbers): Float64Array {
  const chance = chanceOf(eddySeed);
  const waves = new Float64Array(WAVES * WAVE_NUMBERS);
  const turn = 2 * Math.PI * chance();
  const middle = zeroOfCorrelation() / eddySize;
  const places = shuffled(WAVES, chance);
  for (let i = 0; i < WAVES; i++) {
    // Directions evenly over the ball, in a spiral from pole to pole, so that no seed has a direction that is favoured.
    const up = 1 - (2 * i + 1) / WAVES;
    const across = Math.sqrt(1 - up * up);
    const around = turn + i * GOLDEN_ANGLE;
    const [c, s] = [cosine(around), sine(around)];
    const size = middle * waveShare(places[i]!);
    // Across it: two directions that are square to the wave and to each other.
    const about = 2 * Math.PI * chance();
    const [ca, sa] = [cosine(about), sine(about)];
    const amplitude = Math.sqrt(2 / WAVES);
    const air = [ca * -s + sa * up * c, ca * c + sa * up * s, -sa * across];
    const wave = [across * c, across * s, up];
    const at = i * WAVE_NUMBERS;
    for (let axis = 0; axis < 3; axis++) {
      // In turns, so that a table of one turn serves.
      waves[at + axis] = (wave[axis]! * size) / (2 * Math.PI);
      waves[at + 3 + axis] = air[axis]! * amplitude;
    }
    waves[at + 6] = ((chance() < 0.5 ? -1 : 1) * size * eddyPace) / (2 * Math.PI);
    waves[at + 7] = chance();
  }
  return waves;
}

/** Adds the velocity of eddies of `speed` m/s at a place in m and a time in s to the first three of `out`. */
export function addEddies(
  waves: Float64Array,
  x: number,
  y: number,
  z: number,
  time: number,
  speed: number,
  out: Float64Array,
): void {
  let vx = 0,
    vy = 0,
    vz = 0;
  for (let at = 0; at < waves.length; at += WAVE_NUMBERS) {
    const turns = waves[at]! * x + waves[at + 1]! * y + waves[at + 2]! * z + waves[at + 6]! * time + waves[at + 7]!;
    const place = (turns - Math.floor(turns)) * TABLE_STEPS;
    const step = Math.floor(place);
    const height = TABLE[step]! + (TABLE[step + 1]! - TABLE[step]!) * (place - step);
    vx += waves[at + 3]! * height;
    vy += waves[at + 4]! * height;
    vz += waves[at + 5]! * height;
  }
  out[0]! += speed * vx;
  out[1]! += speed * vy;
  out[2]! += speed * vz;
}

const GOLDEN_ANGLE = 2.399963229728653;
const TABLE_STEPS = 4096;
/** Sine over one turn; between its steps a line is within 3e-7. */
const TABLE = Float64Array.from({ length: TABLE_STEPS + 2 }, (_, i) => sine((2 * Math.PI * i) / TABLE_STEPS));

/** Wave number of the i-th wave as a share of the middle one. */
function waveShare(i: number): number {
  return SLOWEST + ((FASTEST - SLOWEST) * (i + 0.5)) / WAVES;
}

let zero = 0;

/** Where the correlation of the field first is zero, in 1 / its middle wave number. That of a wave of number k over r is sin(kr)/(kr). */
function zeroOfCorrelation(): number {
  if (zero > 0) return zero;
  const correlation = (r: number) => {
    let sum = 0;
    for (let i = 0; i < WAVES; i++) sum += sine(waveShare(i) * r) / (waveShare(i) * r);
    return sum;
  };
  let [low, high] = [2, 4];
  for (let n = 0; n < 50; n++) {
    const half = (low + high) / 2;
    if (correlation(half) > 0) low = half;
    else high = half;
  }
  return (zero = low);
}

/** Numbers from 0 to below 1 that look like chance and are the same everywhere (mulberry32, in whole numbers). */
function chanceOf(seed: number): () => number {
  let state = (seed + 1) | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

function shuffled(count: number, chance: () => number): number[] {
  const places = Array.from({ length: count }, (_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const other = Math.floor(chance() * (i + 1));
    [places[i], places[other]] = [places[other]!, places[i]!];
  }
  return places;
}
