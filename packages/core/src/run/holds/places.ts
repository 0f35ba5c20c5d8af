import { applyPose, composePoses, invertPose } from '../../math/pose';
import type { Vector3 } from '../../math/vector';
import { pointCount } from '../../mesh/mesh';
import { pointNormals } from '../../mesh/normals';
import type { PinSet } from '../../shot/holdSchemas';
import { carrierPose } from '../../shot/placement';
import type { Cloth } from '../../shot/schema';
import { shapeMesh } from '../../shot/shapes';
import type { HoldContext } from './context';

// Where the points of a hold are before it does anything to them.

/** The place of a point, x y z in m. */
export const pointAt = (positions: ArrayLike<number>, point: number): Vector3 => [
  positions[point * 3]!,
  positions[point * 3 + 1]!,
  positions[point * 3 + 2]!,
];

/** Where the points of a pin set are at a time in s before the set is moved: where the cloth starts, or where its own animation goes. */
export function basePlaces(
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
export function incomingPlaces(
  cloth: Cloth,
  points: readonly number[],
  context: HoldContext,
): (time: number) => Float32Array {
  const { shot, frame, frameAt } = context;
  if (cloth.motion) {
    return remembered((time) => pick(context.incomingOf(cloth, frameAt?.(time) ?? frame), points));
  }
  const start = pick(context.startOf(cloth), points);
  const back = invertPose(carrierPose(shot, cloth, frame));
  return remembered((time) => {
    const carried = composePoses(carrierPose(shot, cloth, frameAt?.(time) ?? frame), back);
    return Float32Array.from(points.flatMap((_, i) => [...applyPose(carried, pointAt(start, i))]));
  });
}

/** The outward normals of where the animation that came with a cloth puts it, at points of it at a time in s. */
export function incomingNormals(
  cloth: Cloth,
  points: readonly number[],
  context: HoldContext,
): (time: number) => Float32Array {
  const mesh = shapeMesh(cloth.shape, context.assets);
  const all = Array.from({ length: pointCount(mesh) }, (_, point) => point);
  const placesAt = incomingPlaces(cloth, all, context);
  return remembered((time) => pick(pointNormals(placesAt(time), mesh.triangles), points));
}

/** The places of some points, in their order. */
export function pick(positions: Float32Array, points: readonly number[]): Float32Array {
  return Float32Array.from(points.flatMap((point) => [...positions.subarray(point * 3, point * 3 + 3)]));
}

/** The last two results are remembered: a frame begins where the one before it ended. */
export function remembered(placesAt: (time: number) => Float32Array): (time: number) => Float32Array {
  let known: { time: number; places: Float32Array }[] = [];
  return (time) => {
    const found = known.find((entry) => entry.time === time);
    if (found) return found.places;
    const places = placesAt(time);
    known = [...known.slice(-1), { time, places }];
    return places;
  };
}
