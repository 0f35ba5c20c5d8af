import { sine } from '../math/trigonometry';
import { applyPose, composePoses, invertPose } from '../math/pose';
import { apply, type Vector3 } from '../math/vector';
import { valueAt } from '../shot/keys';
import { isMoved, poseAt } from '../shot/placement';
import type { Cloth, Shot, Thing } from '../shot/schema';

// How much of its carrier's motion a cloth feels. What it is not to feel is taken from it as a body force: free of all else, its points would
// go along with the carrier, turn with it, and the air with them.

/** How far apart in frames places are looked at to know how fast a carrier moves. */
const NEAR = 0.02;
/** By how much the sways of neighbouring seeds, and both directions, are out of step, in turns. */
const SEED_TURNS = 0.381966;

/** What a cloth is carried by: what it rides, else what the first of its pin sets rides. */
export function carrierOf(shot: Shot, cloth: Cloth): Thing | null {
  const id = cloth.parent ?? cloth.pinSets.find(({ rides }) => rides !== null && rides !== cloth.id)?.rides ?? null;
  return shot.things.find((thing) => thing.id === id) ?? null;
}

/** Whether a cloth feels less than all of its carrier's motion, or sways, at any frame. */
export function isCarriedOver(shot: Shot, cloth: Cloth): boolean {
  const any = (number: string, is: (value: number) => boolean, constant: number) => {
    const track = cloth.keys.find((candidate) => candidate.number === number);
    return track ? track.knots.some(({ value }) => is(value)) : is(constant);
  };
  const sways = any('carry.sway', (value) => value > 0, cloth.carry.sway);
  const carrier = carrierOf(shot, cloth);
  return (
    sways || (carrier !== null && isMoved(shot, carrier) && any('carry.share', (value) => value < 1, cloth.carry.share))
  );
}

/** What carrying does to a point at a place in m that moves so fast in m/s: adds an acceleration in m/s², and how fast the air goes along, in m/s. */
export interface Carried {
  (
    place: Vector3,
    velocity: Vector3,
    acceleration: Float32Array,
    air: Float32Array,
    at: { acceleration: number; air: number },
  ): void;
}

/** Carrying at a frame and a time in s since the first one, over the next `frames` frames. */
export function carriedAt(shot: Shot, cloth: Cloth, frame: number, time: number, frames: number): Carried {
  const felt = valueAt(cloth, 'carry.share', frame);
  const sway = swayAt(cloth, frame, time);
  const carrier = carrierOf(shot, cloth);
  if (felt === 1 || !carrier || !isMoved(shot, carrier)) {
    return (_place, _velocity, acceleration, _air, at) => addTo(acceleration, at.acceleration, sway, 1);
  }
  const pose = (at: number) => poseAt(shot, carrier, at);
  const seconds = frames / shot.frameRate;
  const speedAt = (at: number) => {
    const [before, after] = [pose(at - NEAR), pose(at + NEAR)];
    const on = composePoses(after, invertPose(before));
    const middle = pose(at);
    const back = composePoses(before, invertPose(middle));
    const span = (2 * NEAR) / shot.frameRate;
    // Of what goes along with the carrier and is at a place at that frame.
    return (place: Vector3): Vector3 => {
      const from = applyPose(back, place);
      return scaled(minus(applyPose(on, from), from), 1 / span);
    };
  };
  const [now, then] = [speedAt(frame), speedAt(frame + frames)];
  const onwards = composePoses(pose(frame + frames), invertPose(pose(frame)));
  const spared = 1 - felt;
  return (place, velocity, acceleration, air, at) => {
    const carried = now(place);
    // Its own motion goes on as it would beside a carrier that stands still, turned with the carrier.
    const own = minus(velocity, carried);
    const there = applyPose(onwards, plus(place, scaled(own, seconds)));
    const wanted = plus(then(there), apply(onwards.rotation, own));
    addTo(acceleration, at.acceleration, scaled(minus(wanted, velocity), spared / seconds), 1);
    addTo(acceleration, at.acceleration, sway, 1);
    addTo(air, at.air, carried, spared);
  };
}

/** The sway of a cloth, level, in m/s²: two waves each way whose periods do not divide each other. */
function swayAt(cloth: Cloth, frame: number, time: number): Vector3 {
  const { swayPeriod, swaySeed } = cloth.carry;
  const strength = valueAt(cloth, 'carry.sway', frame);
  if (strength === 0) return [0, 0, 0];
  const wave = (offset: number) => {
    const turn = 2 * Math.PI * (time / swayPeriod + swaySeed * SEED_TURNS + offset);
    return 0.65 * sine(turn) + 0.35 * sine(turn * 2.37 + 1.1);
  };
  return [strength * wave(0), 0, strength * wave(SEED_TURNS)];
}

const plus = (a: Vector3, b: Vector3): Vector3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
const minus = (a: Vector3, b: Vector3): Vector3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const scaled = (a: Vector3, by: number): Vector3 => [a[0] * by, a[1] * by, a[2] * by];

function addTo(out: Float32Array, at: number, value: Vector3, by: number): void {
  for (let axis = 0; axis < 3; axis++) out[at + axis]! += by * value[axis]!;
}
