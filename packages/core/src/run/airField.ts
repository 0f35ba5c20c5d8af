import { eddyWaves, type EddyNumbers } from '../air/eddies';
import { gustFactor } from '../air/gusts';
import { AIR_KINDS } from '../air/kinds';
import { castShadow, type Caster } from '../air/windShadow';
import { roundWay, straightWay } from '../air/windWay';
import { invertPose } from '../math/pose';
import { apply, type Vector3 } from '../math/vector';
import { pointNormals } from '../mesh/normals';
import { placeBy } from '../mesh/place';
import { activeAir, airNumbersAt, airOf } from '../shot/airThings';
import { poseAt } from '../shot/placement';
import type { AirThing, Cloth, Collider, Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import type { AirField, AirModel, SampledCloth } from '../solver/model';
import { blowPoints, pointShades, pullPoints, type AirNow } from './airAtPoints';
import { carriedAt, isCarriedOver, type Carried } from './carryOver';
import type { FrameAt } from './colliderModel';
import { motionPoints } from './motionPoints';

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
  /** How much of each wind is kept off the points of each cloth, as they are when a frame begins. */
  const shades = new Map<string, Float32Array>();
  const shade = (airs: readonly AirNow[], cloths: readonly SampledCloth[], frame: number) => {
    if (!airs.some(({ shadow }) => shadow)) return;
    const casters = [...obstacles(frame), ...cloths];
    const least = Math.min(...cloths.map(({ spacing }) => spacing));
    const normals = cloths.map(({ positions, triangles }) => pointNormals(positions, triangles));
    airs.forEach(({ shadow }, i) => {
      if (!shadow) return;
      const cast = castShadow(casters, shadow.way, least);
      cloths.forEach((cloth, k) =>
        shades.set(shadeId(things[i]!, cloth), pointShades(cast, shadow, cloth.positions, normals[k]!)),
      );
    });
  };
  return {
    moves,
    pulls,
    sample: (time, cloths, seconds, first) => {
      const at = frameAt?.(time) ?? frame;
      const airs = things.map((thing) => airNow(thing, at, time - preRoll, context));
      if (first) shade(airs, cloths, at);
      for (const cloth of cloths) {
        cloth.velocity.fill(0);
        cloth.pull.fill(0);
        for (const [i, air] of airs.entries()) {
          if (air.pull) pullPoints(cloth, air, air.pull);
          else blowPoints(cloth, air, shades.get(shadeId(things[i]!, cloth)), time - preRoll);
        }
        const own = carried.find(({ id }) => id === cloth.id);
        if (own) addCarried(cloth, carriedAt(shot, own, at, time - preRoll, seconds * shot.frameRate));
      }
    },
  };
}

/** Air at a frame and a time in s since the first frame. */
function airNow(thing: AirThing, frame: number, time: number, { shot, frameAt }: AirContext): AirNow {
  const kind = AIR_KINDS[thing.air.kind];
  const numbers = airNumbersAt(thing, frame);
  const pose = poseAt(shot, thing, frame);
  const share = kind.eddies ? 1 : (numbers['turbulence'] ?? 0);
  const shaded = numbers['shadow'] ?? 0;
  return {
    pose,
    home: invertPose(pose),
    flow: kind.flow?.(numbers) ?? null,
    even: kind.even === true,
    gust: frameAt && 'gustDepth' in numbers ? gustFactor(numbers as Parameters<typeof gustFactor>[0], time) : 1,
    eddies:
      frameAt && share > 0
        ? { waves: eddyWaves(numbers as unknown as EddyNumbers), share, speedAt: kind.eddies?.(numbers) ?? null }
        : null,
    pull: kind.pull?.(numbers) ?? null,
    later: frameAt && kind.pull ? poseAt(shot, thing, frame + LATER) : pose,
    until: LATER / shot.frameRate,
    shadow:
      shaded > 0
        ? {
            way: kind.goesRound ? roundWay(pose) : straightWay(apply(pose.rotation, [0, 0, 1])),
            share: shaded,
            reach: numbers['shadowReach']!,
          }
        : null,
  };
}

function shadeId(thing: AirThing, cloth: SampledCloth): string {
  return `${thing.id} ${cloth.id}`;
}

/** Adds what carrying does to each point of a cloth. */
function addCarried({ positions: p, velocities: v, pull, velocity }: SampledCloth, carry: Carried): void {
  for (let i = 0; i < p.length / 3; i++) {
    const at = { acceleration: i * 8, air: i * 4 };
    carry([p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!], [v[i * 3]!, v[i * 3 + 1]!, v[i * 3 + 2]!], pull, velocity, at);
  }
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
