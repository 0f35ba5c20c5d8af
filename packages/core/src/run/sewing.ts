import { closedSeams } from '../mesh/closeSeams';
import { pointCount } from '../mesh/mesh';
import type { Shot } from '../shot/schema';
import type { ClothModel, HoldModel, Model, TieModel } from '../solver/model';
import { CLOSED, seamGaps } from '../solver/layers/seamWebs';
import type { SolverState } from '../solver/solver';

// Seams in a run. While they are open their points are drawn together by ties that grow shorter, and contact lets them; then they are one, and the run goes on with a
// model in which the seam is part of the mesh: bending goes across, and contact knows no seam. What is told of a run keeps the points of the pieces.

/** Whether seams of a model have to be drawn together first. */
export function hasOpenSeams({ cloths }: Model): boolean {
  return cloths.some(isOpen);
}

/** How many frames after the beginning of a run its seams are closed. */
export function closingFrames({ things }: Shot): number {
  const frames = things.map((thing) =>
    thing.role === 'cloth' && thing.enabled && thing.given === null && thing.shape.kind === 'pattern'
      ? thing.shape.closing
      : 0,
  );
  return Math.max(0, ...frames);
}

/** Whether anything is sewn. */
export function hasSeams({ cloths }: Model): boolean {
  return cloths.some(({ rest }) => rest.sewn !== undefined);
}

function isOpen({ rest, positions }: ClothModel): boolean {
  return rest.sewn !== undefined && seamGaps(rest.sewn, positions).some((gap) => gap > CLOSED);
}

/** Points of a seam are drawn to as near as this, in m, before they become one: what is around them never passes itself, so it keeps a little room. */
const TOGETHER = 4e-5;

/**
 * A model whose open seams are drawn together, from its beginning to so many s later. Meanwhile cloth has no weight, unless it is to fall: a shirt would have
 * fallen off what it is sewn around.
 */
export function drawingTogether(model: Model, closedAfter: number): Model {
  return {
    ...model,
    cloths: model.cloths.map((cloth) => {
      const { sewn } = cloth.rest;
      if (!sewn) return cloth;
      const points = Array.from(sewn.keys()).filter((point) => sewn[point] !== point);
      const gaps = seamGaps(sewn, cloth.positions);
      const starts = Float32Array.from(points, (point) => gaps[point]!);
      const seam: TieModel = {
        points,
        to: cloth.id,
        corners: Uint32Array.from(points.flatMap((point) => [sewn[point]!, sewn[point]!, sewn[point]!])),
        weights: Float32Array.from(points.flatMap(() => [1, 0, 0])),
        lengthsAt: (time) => starts.map((start) => Math.max(TOGETHER, start * openShare(time / closedAfter))),
        strengthsAt: () => new Float32Array(points.length).fill(1),
      };
      const weightless = !cloth.falls && isOpen(cloth);
      return { ...cloth, weightless, ties: [...(cloth.ties ?? []), seam] };
    }),
  };
}

/** How far a seam is still open at a share of the time that it takes: from 1 to 0, slowly at both ends. */
export function openShare(share: number): number {
  const t = Math.min(1, Math.max(0, share));
  return 1 - t * t * (3 - 2 * t);
}

/** The same model with all seams closed: sewn points are one, at the mean of where they start. */
export function withSeamsClosed(model: Model): Model {
  const pointOf = new Map(model.cloths.map(({ id, rest }) => [id, closedSeams(rest)?.pointOf]));
  return { ...model, cloths: model.cloths.map((cloth) => closedCloth(cloth, pointOf)) };
}

function closedCloth(cloth: ClothModel, pointsOf: ReadonlyMap<string, Uint32Array | undefined>): ClothModel {
  const closed = closedSeams(cloth.rest);
  const ties = cloth.ties?.map((tie) => {
    const other = pointsOf.get(tie.to);
    return {
      ...tie,
      points: closed ? tie.points.map((point) => closed.pointOf[point]!) : tie.points,
      corners: other ? tie.corners.map((point) => other[point]!) : tie.corners,
    };
  });
  if (!closed) return ties ? { ...cloth, ties } : cloth;
  const { mesh, pointOf } = closed;
  const own = (points: readonly number[]) => points.map((point) => pointOf[point]!);
  const hold = (one: HoldModel): HoldModel => ({ ...one, points: own(one.points), carried: own(one.carried) });
  return {
    ...cloth,
    rest: mesh,
    pointOf,
    positions: meanOfSewn(cloth.positions, pointOf, pointCount(mesh), 3),
    held: [...new Set(own(cloth.held))].sort((a, b) => a - b),
    ...(cloth.holds && { holds: cloth.holds.map(hold) }),
    ...(ties && { ties }),
  };
}

/** The mean over the points that have become one, of so many numbers a point; by weight where weights are given. */
function meanOfSewn(
  values: ArrayLike<number>,
  pointOf: Uint32Array,
  count: number,
  size: number,
  weightOf: (point: number) => number = () => 1,
): Float32Array<ArrayBuffer> {
  const sums = new Float64Array(count * size);
  const weights = new Float64Array(count);
  pointOf.forEach((to, point) => {
    const weight = weightOf(point);
    weights[to]! += weight;
    for (let i = 0; i < size; i++) sums[to * size + i]! += values[point * size + i]! * weight;
  });
  return Float32Array.from(sums, (sum, i) => sum / weights[Math.floor(i / size)]!);
}

/** Whether two shots sew the same points together, so that one can go on where the other is. */
export function sewnAlike(a: Model, b: Model): boolean {
  return (
    a.cloths.length === b.cloths.length &&
    a.cloths.every(({ rest: { sewn } }, i) => {
      const other = b.cloths[i]!.rest.sewn;
      if (!sewn || !other) return sewn === other;
      return sewn.length === other.length && sewn.every((first, point) => first === other[point]);
    })
  );
}

/** Whether a state is one with closed seams, by how many points it has: time does not tell, for a run may be stopped in the frame that begins by closing them. */
export function isClosed({ cloths }: Model, { arrays }: SolverState): boolean {
  const points = cloths.reduce((sum, { rest }) => sum + pointCount(closedSeams(rest)?.mesh ?? rest), 0);
  // Places, rounding and velocities, four numbers each, of these and of the idle point.
  return arrays.length === (points + 1) * 12;
}

/** As heavy as what does not move counts, in kg. */
const IMMOVABLE = 1e9;

/**
 * The state of a run with open seams as one of the same cloths with closed ones: what becomes one keeps its momentum, or stays where one of it is held.
 *
 * @param open its model, in the order of the state
 * @param fresh the state of a solver with closed seams, for all else
 */
export function closedState(open: Model, state: SolverState, fresh: SolverState): SolverState {
  const [from, to] = [state.arrays.length / 3, fresh.arrays.length / 3];
  const arrays = Float32Array.from(fresh.arrays);
  let [first, firstClosed] = [0, 0];
  for (const { rest } of open.cloths) {
    const count = pointCount(rest);
    const closed = closedSeams(rest);
    const closedCount = closed ? pointCount(closed.mesh) : count;
    const pointOf = closed?.pointOf ?? Uint32Array.from({ length: count }, (_, i) => i);
    const inverseMass = (point: number) => state.arrays[(first + point) * 4 + 3]!;
    for (let which = 0; which < 3; which++) {
      const own = state.arrays.subarray(which * from + first * 4, which * from + (first + count) * 4);
      const mean = meanOfSewn(own, pointOf, closedCount, 4, (point) =>
        inverseMass(point) > 0 ? 1 / inverseMass(point) : IMMOVABLE,
      );
      arrays.set(mean, which * to + firstClosed * 4);
    }
    first += count;
    firstClosed += closedCount;
  }
  return { ...fresh, time: state.time, speed: state.speed, arrays };
}
