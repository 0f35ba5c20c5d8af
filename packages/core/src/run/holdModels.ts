import { applyPose, composePoses, invertPose, poseOf, STILL, type Pose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import { boxTree } from '../mesh/boxTree';
import { pointCount, type Mesh } from '../mesh/mesh';
import { nearestPlace, placeOn, type SurfacePlace } from '../mesh/nearestPlace';
import { pointNormals } from '../mesh/normals';
import { placeBy } from '../mesh/place';
import type { Hold, Leash, PinSet, Tie } from '../shot/holdSchemas';
import { pinMotion } from '../shot/holds';
import { holdNumber } from '../shot/keyable';
import { trackOf, valueAt } from '../shot/keys';
import { isMaskKeyed, maskValues } from '../shot/maskValues';
import { carrierPose, poseAt } from '../shot/placement';
import { releaseOf } from '../shot/release';
import type { Cloth, Shot, Thing } from '../shot/schema';
import { shapeMesh, type Assets } from '../shot/shapes';
import { hasSizeKeys, meshAt } from '../shot/shapes/sizeKeys';
import type { HoldModel, TieModel } from '../solver/model';
import type { FrameAt } from './colliderModel';
import { liveTrackOf } from './liveTrack';
import { openShare } from './sewing';
import { motionPoints } from './motionPoints';
import { CompileError } from './sound';

// What holds a cloth, as the solver takes it: pins that stay are points that do not move; all else are places that points are
// drawn to, or ties between cloth and cloth.

export interface HoldContext {
  shot: Shot;
  assets: Assets;
  /** The frame at which the run starts, and how frames go with its time; null where nothing moves. */
  frame: number;
  frameAt: FrameAt | null;
  /** Where the points of a cloth start, x y z in m. */
  startOf: (cloth: Cloth) => Float32Array;
  /** Where the animation that came with a cloth, and what it rides, put its points at a frame. */
  incomingOf: (cloth: Cloth, frame: number) => Float32Array;
}

/** Points that do not move and never give: of pin sets at full strength that neither ride nor are moved. */
export function stillPins(cloth: Cloth): number[] {
  const points = cloth.pinSets.filter((set) => staysPut(cloth, set)).flatMap((set) => set.points);
  return [...new Set(points)].sort((a, b) => a - b);
}

function staysPut(cloth: Cloth, set: PinSet): boolean {
  const keyed = trackOf(cloth, holdNumber(set.id, 'strength')) !== undefined;
  const firm = set.strength === 1 && set.mask === null && set.release === null && !keyed;
  return firm && set.rides === null && pinMotion(cloth, set) === 'stays';
}

/** All that holds a cloth besides its still pins. */
export function holdModels(cloth: Cloth, context: HoldContext): { holds: HoldModel[]; ties: TieModel[] } {
  const moving = cloth.pinSets.filter((set) => set.points.length > 0 && !staysPut(cloth, set));
  const tied = cloth.ties.filter(({ points }) => points.length > 0);
  const toCloth = tied.filter(({ to }) => thingOf(context, to, cloth)?.role === 'cloth');
  return {
    holds: [
      ...moving.map((set) => pinModel(cloth, set, context)),
      ...tied.filter((tie) => !toCloth.includes(tie)).map((tie) => tieToThing(cloth, tie, context)),
      ...cloth.leashes.filter(({ points }) => points.length > 0).map((leash) => leashModel(cloth, leash, context)),
    ],
    ties: toCloth
      .filter(({ to }) => thingOf(context, to, cloth)!.enabled)
      .map((tie) => tieToCloth(cloth, tie, context)),
  };
}

function thingOf({ shot }: HoldContext, id: string, cloth: Cloth): Thing {
  const thing = shot.things.find((candidate) => candidate.id === id);
  if (thing) return thing;
  throw new CompileError(
    `“${cloth.name}” is held by a thing that is no longer in the shot. Choose another one at Hold, or delete that hold.`,
  );
}

/** A keyed number of a hold at a time in s. */
function numberAt(
  cloth: Cloth,
  hold: string,
  number: string,
  { frame, frameAt }: HoldContext,
): (time: number) => number {
  const name = holdNumber(hold, number);
  return (time) => valueAt(cloth, name, frameAt?.(time) ?? frame);
}

/** The same point by point, where cues change it: in the order of the hold's points. */
function numbersAt(
  cloth: Cloth,
  { id, points }: Hold,
  number: string,
  context: HoldContext,
): (time: number) => (i: number) => number {
  const live = liveTrackOf(cloth, holdNumber(id, number));
  const at = numberAt(cloth, id, number, context);
  const { frame, frameAt } = context;
  return (time) => {
    if (live) return (i) => live.valueOf(points[i]!, frameAt?.(time) ?? frame);
    const value = at(time);
    return () => value;
  };
}

/** Strengths of the points of a hold, scaled by its mask. */
function strengths(cloth: Cloth, hold: PinSet | Tie, context: HoldContext): Pick<HoldModel, 'strengthsAt' | 'carried'> {
  const { id, points, mask } = hold;
  const scale = maskScale(cloth, mask, points, context);
  const strengthsAt = numbersAt(cloth, hold, 'strength', context);
  const keyed = trackOf(cloth, holdNumber(id, 'strength')) !== undefined;
  const freeAt = released(cloth, hold, context);
  const firm = !keyed && !scale.changes && !freeAt && strengthsAt(0)(0) === 1;
  const first = scale.at(0);
  return {
    strengthsAt: (time) => {
      const strength = strengthsAt(time);
      const free = freeAt?.(time);
      return scale.at(time).map((value, i) => (free?.[i] ? 0 : value * strength(i)));
    },
    carried: points.filter((_, i) => firm && first[i] === 1),
  };
}

/** Which points of a hold are free at a time in s; null where it never lets go. */
function released(
  cloth: Cloth,
  hold: Hold,
  { assets, frame, frameAt }: HoldContext,
): ((time: number) => boolean[]) | null {
  const release = releaseOf(cloth, hold, shapeMesh(cloth.shape, assets));
  return release && ((time) => release(frameAt?.(time) ?? frame));
}

/** Per point of a hold, 0 to 1 at a time in s; a mask that is missing scales nothing. */
function maskScale(
  cloth: Cloth,
  id: string | null,
  points: readonly number[],
  { assets, frame, frameAt }: HoldContext,
): { at: (time: number) => Float32Array; changes: boolean } {
  const mask = cloth.masks.find((candidate) => candidate.id === id);
  const mesh = shapeMesh(cloth.shape, assets);
  const find = (when: number) => {
    if (!mask) return new Float32Array(points.length).fill(1);
    const values = maskValues(cloth, mask, mesh, when);
    return Float32Array.from(points, (point) => values[point]!);
  };
  if (mask && frameAt && isMaskKeyed(cloth, mask)) return { at: (time) => find(frameAt(time)), changes: true };
  const constant = find(frame);
  return { at: () => constant, changes: false };
}

const at = (positions: ArrayLike<number>, point: number): Vector3 => [
  positions[point * 3]!,
  positions[point * 3 + 1]!,
  positions[point * 3 + 2]!,
];

/** Where a pin set is as a whole at a time in s. */
export interface PinSetPose {
  /** Its middle and turn in the world. */
  pose: Pose;
  /** How what it rides has carried it since the start. */
  carried: Pose;
  /** Its middle where the cloth starts, in m. */
  middle: Vector3;
}

/** @throws CompileError when what it rides is gone */
export function pinSetPose(cloth: Cloth, set: PinSet, context: HoldContext): (time: number) => PinSetPose {
  const { shot, frame, frameAt } = context;
  const base = basePlaces(cloth, set, context);
  const first = middleOf(base(0));
  const own = set.rides === cloth.id;
  const carrier = set.rides === null || own ? null : thingOf(context, set.rides, cloth);
  const carriedBack = carrier ? invertPose(poseAt(shot, carrier, frame)) : STILL;
  const [moveAt, turnAt] = ['move', 'turn'].map((what) => vectorAt(cloth, set.id, what, context));
  return (time) => {
    const carried = carrier ? composePoses(poseAt(shot, carrier, frameAt?.(time) ?? frame), carriedBack) : STILL;
    const middle = own ? middleOf(base(time)) : first;
    const move = moveAt!(time);
    const center: Vector3 = [middle[0] + move[0], middle[1] + move[1], middle[2] + move[2]];
    return { pose: composePoses(carried, poseOf(center, turnAt!(time))), carried, middle };
  };
}

function middleOf(places: Float32Array): Vector3 {
  const count = places.length / 3;
  const sums: [number, number, number] = [0, 0, 0];
  places.forEach((value, i) => (sums[i % 3]! += value));
  return [sums[0] / count, sums[1] / count, sums[2] / count];
}

/** Where the points of a pin set are at a time in s before the set is moved: where the cloth starts, or where its own animation goes. */
function basePlaces(
  cloth: Cloth,
  { points, rides }: Pick<PinSet, 'points' | 'rides'>,
  context: HoldContext,
): (time: number) => Float32Array {
  if (rides === cloth.id) return incomingPlaces(cloth, points, context);
  const start = pick(context.startOf(cloth), points);
  return () => start;
}

/**
 * Where the animation that came with a cloth puts points of it at a time in s. Without one they stay where the cloth starts, carried
 * along by what it rides.
 */
function incomingPlaces(cloth: Cloth, points: readonly number[], context: HoldContext): (time: number) => Float32Array {
  const { shot, frame, frameAt } = context;
  if (cloth.motion) {
    return remembered((time) => pick(context.incomingOf(cloth, frameAt?.(time) ?? frame), points));
  }
  const start = pick(context.startOf(cloth), points);
  const back = invertPose(carrierPose(shot, cloth, frame));
  return remembered((time) => {
    const carried = composePoses(carrierPose(shot, cloth, frameAt?.(time) ?? frame), back);
    return Float32Array.from(points.flatMap((_, i) => [...applyPose(carried, at(start, i))]));
  });
}

/** The outward normals of where the animation that came with a cloth puts it, at points of it at a time in s. */
function incomingNormals(
  cloth: Cloth,
  points: readonly number[],
  context: HoldContext,
): (time: number) => Float32Array {
  const mesh = shapeMesh(cloth.shape, context.assets);
  const all = Array.from({ length: pointCount(mesh) }, (_, point) => point);
  const placesAt = incomingPlaces(cloth, all, context);
  return remembered((time) => pick(pointNormals(placesAt(time), mesh.triangles), points));
}

function pick(positions: Float32Array, points: readonly number[]): Float32Array {
  return Float32Array.from(points.flatMap((point) => [...positions.subarray(point * 3, point * 3 + 3)]));
}

function vectorAt(cloth: Cloth, hold: string, what: string, context: HoldContext): (time: number) => Vector3 {
  const axes = ['x', 'y', 'z'].map((axis) => numberAt(cloth, hold, `${what}.${axis}`, context));
  return (time) => [axes[0]!(time), axes[1]!(time), axes[2]!(time)];
}

function pinModel(cloth: Cloth, set: PinSet, context: HoldContext): HoldModel {
  const base = basePlaces(cloth, set, context);
  const setPoseAt = pinSetPose(cloth, set, context);
  const gatherAt = vectorAt(cloth, set.id, 'gather', context);
  const placesAt = (time: number) => {
    const { pose, middle } = setPoseAt(time);
    const gather = gatherAt(time);
    const places = base(time);
    const all = new Float32Array(set.points.length * 3);
    set.points.forEach((_, i) => {
      const off = [0, 1, 2].map((axis) => (places[i * 3 + axis]! - middle[axis]!) * gather[axis]!);
      all.set(applyPose(pose, off as unknown as Vector3), i * 3);
    });
    return all;
  };
  return { points: set.points, placesAt: remembered(placesAt), ...strengths(cloth, set, context) };
}

/** Where the surface of a thing is at a frame, and its faces. */
function surfaceOf(
  thing: Thing,
  { shot, assets, frame }: HoldContext,
  cloth: Cloth,
): { mesh: Mesh; at: (frame: number) => Mesh } {
  if (!('shape' in thing)) {
    throw new CompileError(
      `“${cloth.name}” is tied to ${thing.name}, which has no surface. Let its pins ride it instead.`,
    );
  }
  const mesh = meshAt(thing, assets, frame);
  const motion = 'motion' in thing ? thing.motion : null;
  return {
    mesh,
    at: (now) => {
      const sized = hasSizeKeys(thing) ? meshAt(thing, assets, now).positions : null;
      const positions = sized ?? motionPoints(mesh, motion, shot.frameRate, now);
      return placeBy({ ...mesh, positions }, poseAt(shot, thing, now));
    },
  };
}

function nearestPlaces(surface: Mesh, places: readonly Vector3[], cloth: Cloth): SurfacePlace[] {
  const tree = boxTree(surface);
  return places.map((place) => {
    const found = nearestPlace(surface, tree, place);
    if (!found) throw new CompileError(`“${cloth.name}” is tied to a thing without faces. Tie it to another one.`);
    return found;
  });
}

/** Points that keep their place on the surface of a thing, as it moves and changes its shape. */
function tieToThing(cloth: Cloth, tie: Tie, context: HoldContext): HoldModel {
  const { frame, frameAt, startOf } = context;
  const { mesh, at: surfaceAt } = surfaceOf(thingOf(context, tie.to, cloth), context, cloth);
  const start = startOf(cloth);
  const places = tie.points.map((point) => at(start, point));
  const first = surfaceAt(frame);
  const nearest = nearestPlaces(first, places, cloth);
  // How each point lies off its place, in the axes of the face, so that it turns with it.
  const offsets = nearest.map((place, i) => {
    const axes = faceAxes(first, place.face);
    const foot = placeOn(first.positions, mesh.triangles, place);
    const away = [0, 1, 2].map((axis) => places[i]![axis]! - foot[axis]!);
    return axes.map((axis) => axis[0] * away[0]! + axis[1] * away[1]! + axis[2] * away[2]!) as unknown as Vector3;
  });
  const standOffAt = standOffs(cloth, tie, context);
  const starts = Float32Array.from(offsets, (offset) =>
    Math.sqrt(offset.reduce((sum, value) => sum + value * value, 0)),
  );
  const openAt = openOf(tie, context);
  const placesAt = (time: number) => {
    const surface = surfaceAt(frameAt?.(time) ?? frame);
    const standOff = tie.keepsDistance ? null : standOffAt(time);
    const open = openAt(time);
    const all = new Float32Array(places.length * 3);
    nearest.forEach((place, i) => {
      const foot = placeOn(surface.positions, mesh.triangles, place);
      const axes = faceAxes(surface, place.face);
      const offset =
        standOff === null ? offsets[i]! : scaledTo(offsets[i]!, standOff[i]! + open * (starts[i]! - standOff[i]!));
      for (let axis = 0; axis < 3; axis++) {
        all[i * 3 + axis] =
          foot[axis]! + axes[0]![axis]! * offset[0] + axes[1]![axis]! * offset[1] + axes[2]![axis]! * offset[2];
      }
    });
    return all;
  };
  return { points: tie.points, placesAt: remembered(placesAt), ...strengths(cloth, tie, context) };
}

/** Per point of a tie, the distance in m that it keeps at a time in s where it does not keep the one that it starts with. */
function standOffs(cloth: Cloth, tie: Tie, context: HoldContext): (time: number) => Float32Array {
  const standOffAt = numberAt(cloth, tie.id, 'standOff', context);
  const scale = maskScale(cloth, tie.standOffMask, tie.points, context);
  return (time) => {
    const standOff = standOffAt(time);
    return scale.at(time).map((value) => value * standOff);
  };
}

/** How far a tie that is drawn in is still open at a time in s: from 1 to 0; 0 where it is not drawn in. */
function openOf({ drawnIn }: Tie, { shot }: HoldContext): (time: number) => number {
  return (time) => (drawnIn > 0 ? openShare((time * shot.frameRate) / drawnIn) : 0);
}

/** Along the first edge, across it in the face, and along the normal; unit vectors. */
function faceAxes({ positions: p, triangles }: Mesh, face: number): Vector3[] {
  const [a, b, c] = [0, 1, 2].map((corner) => at(p, triangles[face * 3 + corner]!)) as [Vector3, Vector3, Vector3];
  const along = unit([b[0] - a[0], b[1] - a[1], b[2] - a[2]]);
  const normal = unit(cross(along, [c[0] - a[0], c[1] - a[1], c[2] - a[2]]));
  return [along, cross(normal, along), normal];
}

function cross(a: Vector3, b: Vector3): Vector3 {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

function unit(v: Vector3): Vector3 {
  const size = Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
  return size > 0 ? [v[0] / size, v[1] / size, v[2] / size] : [0, 0, 0];
}

/** An offset of a wanted length; what lies on the surface is moved along its normal. */
function scaledTo(offset: Vector3, length: number): Vector3 {
  const size = Math.sqrt(offset[0] * offset[0] + offset[1] * offset[1] + offset[2] * offset[2]);
  if (size < 1e-5) return [0, 0, length];
  return [(offset[0] / size) * length, (offset[1] / size) * length, (offset[2] / size) * length];
}

function tieToCloth(cloth: Cloth, tie: Tie, context: HoldContext): TieModel {
  const other = thingOf(context, tie.to, cloth) as Cloth;
  const { startOf, assets } = context;
  const mesh = shapeMesh(other.shape, assets);
  const start = startOf(cloth);
  const nearest = nearestPlaces(
    { positions: startOf(other), triangles: mesh.triangles },
    tie.points.map((point) => at(start, point)),
    cloth,
  );
  // Layers keep their distance by themselves: a shorter tie would fight with that.
  const least = (cloth.selfContact.thickness + other.selfContact.thickness) / 2;
  const own = Float32Array.from(nearest, ({ distance }) => distance);
  const standOffAt = standOffs(cloth, tie, context);
  const openAt = openOf(tie, context);
  const lengthsAt = (time: number) => {
    if (tie.keepsDistance) return own;
    const open = openAt(time);
    return standOffAt(time).map((standOff, i) => standOff + open * (own[i]! - standOff));
  };
  return {
    points: tie.points,
    to: other.id,
    corners: Uint32Array.from(nearest.flatMap(({ face }) => [...mesh.triangles.subarray(face * 3, face * 3 + 3)])),
    weights: Float32Array.from(nearest.flatMap(({ weights }) => [...weights])),
    lengthsAt: (time) => lengthsAt(time).map((length) => Math.max(least, length)),
    strengthsAt: strengths(cloth, tie, context).strengthsAt,
  };
}

/** Points that stray from where the cloth's own animation puts them no farther than their leash. */
function leashModel(cloth: Cloth, leash: Leash, context: HoldContext): HoldModel {
  const distancesAt = numbersAt(cloth, leash, 'distance', context);
  const scale = maskScale(cloth, leash.mask, leash.points, context);
  const freeAt = released(cloth, leash, context);
  const full = new Float32Array(leash.points.length).fill(1);
  return {
    points: leash.points,
    placesAt: incomingPlaces(cloth, leash.points, context),
    ...(leash.neverBehind && { normalsAt: incomingNormals(cloth, leash.points, context) }),
    strengthsAt: (time) => {
      const free = freeAt?.(time);
      return free ? full.map((value, i) => (free[i] ? 0 : value)) : full;
    },
    carried: [],
    slackAt: (time) => {
      const distance = distancesAt(time);
      return scale.at(time).map((value, i) => value * distance(i));
    },
  };
}

/** The last two results are remembered: a frame begins where the one before it ended. */
function remembered(placesAt: (time: number) => Float32Array): (time: number) => Float32Array {
  let known: { time: number; places: Float32Array }[] = [];
  return (time) => {
    const found = known.find((entry) => entry.time === time);
    if (found) return found.places;
    const places = placesAt(time);
    known = [...known.slice(-1), { time, places }];
    return places;
  };
}
