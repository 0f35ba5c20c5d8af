import type { Stream, Pull } from '../air/airKind';
import { addEddies, eddyWaves, type EddyNumbers } from '../air/eddies';
import { gustFactor } from '../air/gusts';
import { AIR_KINDS } from '../air/kinds';
import { castShadow, type Caster, type WindShadow } from '../air/windShadow';
import { applyPose, invertPose, type Pose } from '../math/pose';
import { apply, type Vector3 } from '../math/vector';
import { pointNormals } from '../mesh/normals';
import { placeBy } from '../mesh/place';
import { activeAir, airNumbersAt, airOf } from '../shot/airThings';
import { poseAt } from '../shot/placement';
import type { AirThing, Cloth, Collider, Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import type { AirField, AirModel, SampledCloth } from '../solver/model';
import { carriedAt, isCarriedOver, type Carried } from './carryOver';
import type { FrameAt } from './colliderModel';
import { motionPoints } from './motionPoints';

/** Air as it is at one moment, in the world. */
interface AirNow {
  pose: Pose;
  /** From the world to its own axes. */
  home: Pose;
  flow: Stream | null;
  /** By how much gusts scale the flow. */
  gust: number;
  eddies: { waves: Float64Array; share: number; speedAt: ((x: number, y: number, z: number) => number) | null } | null;
  pull: Pull | null;
  /** Its pose so many s later, by which what it holds is carried along. */
  later: Pose;
  until: number;
  shadow: { of: WindShadow; share: number; reach: number } | null;
}

/** How far ahead, in frames, the motion of what holds cloth is looked at. */
const LATER = 0.25;

export interface AirContext {
  shot: Shot;
  assets: Assets;
  frame: number;
  /** Null while settling: air then neither gusts nor swirls, and stands where it is. */
  frameAt: FrameAt | null;
}

/** What the air of a shot does, split into the wind that is the same everywhere and all else. */
export function airModel(context: AirContext): Pick<AirModel, 'windAt' | 'field'> {
  const { shot, frame, frameAt } = context;
  const winds = activeAir(shot);
  const isEven = (thing: AirThing) => AIR_KINDS[thing.air.kind].even === true && !isUneven(thing);
  const even = winds.filter(isEven);
  const uneven = winds.filter((thing) => !isEven(thing));
  const preRoll = shot.preRoll / shot.frameRate;
  const scratch = new Float64Array(4);
  const windAt = (time: number): Vector3 => {
    const at = frameAt?.(time) ?? frame;
    let sum: Vector3 = [0, 0, 0];
    for (const thing of even) {
      const now = airNow(thing, at, time - preRoll, context);
      now.flow!(0, 0, 0, scratch);
      const turned = apply(now.pose.rotation, [scratch[0]!, scratch[1]!, scratch[2]!]);
      sum = [sum[0] + now.gust * turned[0], sum[1] + now.gust * turned[1], sum[2] + now.gust * turned[2]];
    }
    return sum;
  };
  const carried = frameAt
    ? shot.things.filter(
        (thing): thing is Cloth => thing.role === 'cloth' && thing.enabled && isCarriedOver(shot, thing),
      )
    : [];
  if (uneven.length === 0 && carried.length === 0) return { windAt };
  return { windAt, field: airField(uneven, carried, preRoll, context) };
}

/** Whether a wind that blows everywhere is changed by place all the same: by its eddies, or by what stands in it. */
function isUneven(thing: AirThing): boolean {
  return ['air.turbulence', 'air.shadow'].some(
    (number) =>
      airOf(thing)[number.slice(4)]! > 0 ||
      thing.keys.some((track) => track.number === number && track.knots.some(({ value }) => value > 0)),
  );
}

function airField(
  things: readonly AirThing[],
  carried: readonly Cloth[],
  preRoll: number,
  context: AirContext,
): AirField {
  const { shot, frame, frameAt } = context;
  const pulls = carried.length > 0 || things.some(({ air }) => AIR_KINDS[air.kind].pull);
  const moves = carried.length > 0 || things.some(({ air }) => !AIR_KINDS[air.kind].pull);
  const obstacles = obstaclesOf(context);
  /** What stands in each wind, as it is when a frame begins. */
  const shadows = new Map<string, WindShadow>();
  return {
    moves,
    pulls,
    sample: (time, cloths, seconds, first) => {
      const at = frameAt?.(time) ?? frame;
      if (first) shadows.clear();
      const shadowOf = (thing: AirThing, along: Vector3) => {
        const known = shadows.get(thing.id) ?? castShadow([...obstacles(at), ...cloths], along);
        shadows.set(thing.id, known);
        return known;
      };
      const airs = things.map((thing) => airNow(thing, at, time - preRoll, context, shadowOf));
      for (const cloth of cloths) {
        sampleCloth(cloth, airs, time - preRoll);
        const own = carried.find(({ id }) => id === cloth.id);
        if (own) addCarried(cloth, carriedAt(shot, own, at, time - preRoll, seconds * shot.frameRate));
      }
    },
  };
}

/** Air at a frame and a time in s since the first frame. */
function airNow(
  thing: AirThing,
  frame: number,
  time: number,
  { shot, frameAt }: AirContext,
  shadowOf?: (thing: AirThing, along: Vector3) => WindShadow,
): AirNow {
  const kind = AIR_KINDS[thing.air.kind];
  const numbers = airNumbersAt(thing, frame);
  const pose = poseAt(shot, thing, frame);
  const share = kind.eddies ? 1 : (numbers['turbulence'] ?? 0);
  const shaded = numbers['shadow'] ?? 0;
  return {
    pose,
    home: invertPose(pose),
    flow: kind.flow?.(numbers) ?? null,
    gust: frameAt && 'gustDepth' in numbers ? gustFactor(numbers as Parameters<typeof gustFactor>[0], time) : 1,
    eddies:
      frameAt && share > 0
        ? { waves: eddyWaves(numbers as unknown as EddyNumbers), share, speedAt: kind.eddies?.(numbers) ?? null }
        : null,
    pull: kind.pull?.(numbers) ?? null,
    later: frameAt && kind.pull ? poseAt(shot, thing, frame + LATER) : pose,
    until: LATER / shot.frameRate,
    shadow:
      shadowOf && shaded > 0
        ? {
            of: shadowOf(thing, apply(pose.rotation, [0, 0, 1])),
            share: shaded,
            reach: numbers['shadowReach']!,
          }
        : null,
  };
}

/** Writes what air does to each point of a cloth. Written out: it goes over all points, several times a frame. */
function sampleCloth(cloth: SampledCloth, airs: readonly AirNow[], time: number): void {
  const { positions, triangles, weight, velocity, pull } = cloth;
  const normals = airs.some(({ shadow }) => shadow) ? pointNormals(positions, triangles) : null;
  const own = new Float64Array(4);
  const eddy = new Float64Array(3);
  velocity.fill(0);
  pull.fill(0);
  for (let i = 0; i < positions.length / 3; i++) {
    const px = positions[i * 3]!,
      py = positions[i * 3 + 1]!,
      pz = positions[i * 3 + 2]!;
    for (let k = 0; k < airs.length; k++) {
      const air = airs[k]!;
      const { center, rotation: r } = air.home;
      const x = center[0] + (r[0] * px + r[3] * py + r[6] * pz);
      const y = center[1] + (r[1] * px + r[4] * py + r[7] * pz);
      const z = center[2] + (r[2] * px + r[5] * py + r[8] * pz);
      if (air.pull) {
        air.pull(x, y, z, weight, own);
        addTurned(air.pose, own, 1, pull, i * 8);
        // Of several that hold it, the strongest carries it along.
        if (own[3]! > pull[i * 8 + 3]!) {
          pull[i * 8 + 3] = own[3]!;
          const later = applyPose(air.later, [x, y, z]);
          for (let axis = 0; axis < 3; axis++)
            pull[i * 8 + 4 + axis] = (later[axis]! - positions[i * 3 + axis]!) / air.until;
        }
        continue;
      }
      own.fill(0);
      air.flow?.(x, y, z, own);
      let factor = air.gust;
      if (air.shadow) {
        const { of, share, reach } = air.shadow;
        const at = i * 3;
        factor *= 1 - share * of.shade(px, py, pz, normals![at]!, normals![at + 1]!, normals![at + 2]!, reach);
      }
      if (air.eddies) {
        const { waves, share, speedAt } = air.eddies;
        const speed =
          speedAt?.(x, y, z) ?? share * Math.sqrt(own[0]! * own[0]! + own[1]! * own[1]! + own[2]! * own[2]!);
        if (speed > 0) {
          eddy.fill(0);
          addEddies(waves, px, py, pz, time, speed * factor, eddy);
          for (let axis = 0; axis < 3; axis++) velocity[i * 4 + axis]! += eddy[axis]!;
        }
      }
      addTurned(air.pose, own, factor, velocity, i * 4);
    }
  }
}

/** Adds what carrying does to each point of a cloth. */
function addCarried({ positions: p, velocities: v, pull, velocity }: SampledCloth, carry: Carried): void {
  for (let i = 0; i < p.length / 3; i++) {
    const at = { acceleration: i * 8, air: i * 4 };
    carry([p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!], [v[i * 3]!, v[i * 3 + 1]!, v[i * 3 + 2]!], pull, velocity, at);
  }
}

function addTurned({ rotation: r }: Pose, own: Float64Array, factor: number, out: Float32Array, at: number): void {
  const x = own[0]! * factor,
    y = own[1]! * factor,
    z = own[2]! * factor;
  out[at]! += r[0] * x + r[3] * y + r[6] * z;
  out[at + 1]! += r[1] * x + r[4] * y + r[7] * z;
  out[at + 2]! += r[2] * x + r[5] * y + r[8] * z;
}

/** The surfaces of colliders at a frame; the endless ground keeps no wind off. */
function obstaclesOf({ shot, assets }: AirContext): (frame: number) => Caster[] {
  const colliders = shot.things.filter(
    (thing): thing is Collider => thing.role === 'collider' && thing.enabled && thing.shape.kind !== 'ground',
  );
  return (frame) =>
    colliders.map((collider) => {
      const mesh = meshAt(collider, assets, frame);
      const positions = motionPoints(mesh, collider.motion, shot.frameRate, frame);
      return placeBy({ ...mesh, positions }, poseAt(shot, collider, frame));
    });
}
