import * as PullRecord from '@lumbra/kernel/layouts/air/pull';
import type { Pull, Stream } from '../air/airKind';
import type { WindShadow } from '../air/windShadow';
import type { WindWay } from '../air/windWay';
import { applyPose, type Pose } from '../math/pose';
import { apply } from '../math/vector';
import type { SampledCloth } from '../solver/model';

// What air does to all points of a cloth. Written out, without arrays: it is asked several times a frame.

/** Air as it is at one moment, in the world. */
export interface AirNow {
  pose: Pose;
  /** From the world to its own axes. */
  home: Pose;
  flow: Stream | null;
  /** The same everywhere: its flow and its eddies' speed do not ask for the place. */
  even: boolean;
  /** By how much gusts scale the flow. */
  gust: number;
  eddies: { waves: Float64Array; share: number; speedAt: ((x: number, y: number, z: number) => number) | null } | null;
  pull: Pull | null;
  /** Its pose so many s later, by which what it holds is carried along. */
  later: Pose;
  until: number;
  shadow: ShadowNow | null;
}

/** How a wind is kept off: its way, how much of it is kept off at most, and how far behind what bars it, in m. */
export interface ShadowNow {
  way: WindWay;
  share: number;
  reach: number;
}

/** The part of a wind that is kept off each point of a cloth, whose normals are given, x y z. */
export function pointShades(
  of: WindShadow,
  { share, reach }: ShadowNow,
  p: ArrayLike<number>,
  n: ArrayLike<number>,
): Float32Array {
  const shades = new Float32Array(p.length / 3);
  for (let i = 0, at = 0; i < shades.length; i++, at += 3) {
    shades[i] = share * of.shade(p[at]!, p[at + 1]!, p[at + 2]!, n[at]!, n[at + 1]!, n[at + 2]!, reach);
  }
  return shades;
}

/** Adds the velocity of moving air at each point of a cloth at a time in s, less the part that is kept off there. */
export function blowPoints(
  cloth: SampledCloth,
  { pose, home, flow, even, gust, eddies }: AirNow,
  shades: Float32Array | undefined,
  time: number,
): void {
  const { positions, velocity } = cloth;
  const own = new Float64Array(4);
  const count = positions.length / 3;
  const speeds = eddies && new Float32Array(count);
  const { center, rotation: r } = home;
  const { rotation: t } = pose;
  if (even) flow?.(0, 0, 0, own);
  for (let i = 0; i < count; i++) {
    let x = 0,
      y = 0,
      z = 0;
    if (!even) {
      const px = positions[i * 3]!,
        py = positions[i * 3 + 1]!,
        pz = positions[i * 3 + 2]!;
      x = center[0] + (r[0] * px + r[3] * py + r[6] * pz);
      y = center[1] + (r[1] * px + r[4] * py + r[7] * pz);
      z = center[2] + (r[2] * px + r[5] * py + r[8] * pz);
      flow?.(x, y, z, own);
    }
    const factor = shades ? gust * (1 - shades[i]!) : gust;
    const vx = own[0]! * factor,
      vy = own[1]! * factor,
      vz = own[2]! * factor;
    if (speeds) {
      const { share, speedAt } = eddies;
      speeds[i] = speedAt ? speedAt(x, y, z) * factor : share * Math.sqrt(vx * vx + vy * vy + vz * vz);
    }
    velocity[i * 4]! += t[0] * vx + t[3] * vy + t[6] * vz;
    velocity[i * 4 + 1]! += t[1] * vx + t[4] * vy + t[7] * vz;
    velocity[i * 4 + 2]! += t[2] * vx + t[5] * vy + t[8] * vz;
  }
  if (speeds) cloth.stir(eddies.waves, time, speeds);
}

/** What draws a point in numbers of 4 bytes, and where in it they lie. */
const PULL_WORDS = PullRecord.BYTES / 4;
const [ACCELERATION, GRIP, VELOCITY] = [PullRecord.ACCELERATION / 4, PullRecord.GRIP / 4, PullRecord.VELOCITY / 4];

/** Adds what draws or holds each point of a cloth. */
export function pullPoints({ positions, weight, pull }: SampledCloth, air: AirNow, pulls: Pull): void {
  const own = new Float64Array(4);
  for (let i = 0; i < positions.length / 3; i++) {
    const [x, y, z] = applyPose(air.home, [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!]);
    pulls(x, y, z, weight, own);
    const drawn = apply(air.pose.rotation, [own[0]!, own[1]!, own[2]!]);
    const at = i * PULL_WORDS;
    for (let axis = 0; axis < 3; axis++) pull[at + ACCELERATION + axis]! += drawn[axis]!;
    // Of several that hold it, the strongest carries it along.
    if (own[3]! <= pull[at + GRIP]!) continue;
    pull[at + GRIP] = own[3]!;
    const later = applyPose(air.later, [x, y, z]);
    for (let axis = 0; axis < 3; axis++) {
      pull[at + VELOCITY + axis] = (later[axis]! - positions[i * 3 + axis]!) / air.until;
    }
  }
}
