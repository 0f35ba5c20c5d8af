import { apply, type Matrix3, type Vector3 } from '../../math/vector';
import type { Pose } from '../../math/pose';
import { bounds, size } from '../bounds';
import { principalAxes } from './principalAxes';

// Simple shapes around a mesh: the tightest of the ones that its axes give. All points lie inside, to rounding.

export interface FittedBox {
  pose: Pose;
  size: Vector3;
}
export interface FittedRound {
  pose: Pose;
  radius: number;
  /** Along the pose's y, in m. */
  height: number;
}

/** The box around points: along the mesh's own axes, or along its principal ones where that is smaller. */
export function fitBox(positions: Float32Array): FittedBox {
  const candidates = turns(positions).map((rotation) => boxAlong(positions, rotation));
  return smallest(candidates, ({ size: [x, y, z] }) => x * y * z);
}

/** The ball around points: its centre is drawn to the farthest point in ever smaller steps (Badoiu and Clarkson 2003). */
export function fitBall(positions: Float32Array): { center: Vector3; radius: number } {
  const box = bounds(positions)!;
  const center = box.low.map((low, axis) => (low + box.high[axis]!) / 2) as [number, number, number];
  for (let step = 1; step <= 400; step++) {
    const far = farthest(positions, center);
    for (let axis = 0; axis < 3; axis++) center[axis]! += (positions[far * 3 + axis]! - center[axis]!) / (step + 1);
  }
  const far = farthest(positions, center) * 3;
  const away = [0, 1, 2].map((axis) => positions[far + axis]! - center[axis]!);
  return { center, radius: Math.sqrt(away[0]! ** 2 + away[1]! ** 2 + away[2]! ** 2) };
}

/** The cylinder around points, along whichever axis makes it smallest. */
export function fitCylinder(positions: Float32Array): FittedRound {
  return smallest(rounds(positions, false), ({ radius, height }) => radius * radius * height);
}

/** The capsule around points, along whichever axis makes it smallest; its height is from end to end. */
export function fitCapsule(positions: Float32Array): FittedRound {
  return smallest(rounds(positions, true), ({ radius, height }) => radius * radius * (height - (2 / 3) * radius));
}

function smallest<T>(candidates: readonly T[], volume: (candidate: T) => number): T {
  return candidates.reduce((best, candidate) => (volume(candidate) < volume(best) * 0.999 ? candidate : best));
}

function turns(positions: Float32Array): Matrix3[] {
  return [[1, 0, 0, 0, 1, 0, 0, 0, 1], principalAxes(positions)];
}

/** The points in the axes of a turn. */
function along(positions: Float32Array, r: Matrix3): Float64Array {
  const turned = new Float64Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    for (let axis = 0; axis < 3; axis++)
      turned[i + axis] = r[axis * 3]! * x + r[axis * 3 + 1]! * y + r[axis * 3 + 2]! * z;
  }
  return turned;
}

function boxAlong(positions: Float32Array, rotation: Matrix3): FittedBox {
  const box = bounds(along(positions, rotation))!;
  const middle = box.low.map((low, axis) => (low + box.high[axis]!) / 2) as unknown as Vector3;
  return { pose: { center: apply(rotation, middle), rotation }, size: size(box) };
}

/** Cylinders or capsules along each axis of each turn. */
function rounds(positions: Float32Array, roundEnds: boolean): FittedRound[] {
  return turns(positions).flatMap((r) => {
    const own = along(positions, r);
    const box = bounds(own)!;
    const middle = box.low.map((low, axis) => (low + box.high[axis]!) / 2);
    return [0, 1, 2].map((axis) => {
      const [u, w] = [(axis + 1) % 3, (axis + 2) % 3];
      const distances = new Float64Array(own.length / 3);
      let radius = 0;
      for (let i = 0; i < distances.length; i++) {
        const [du, dw] = [own[i * 3 + u]! - middle[u]!, own[i * 3 + w]! - middle[w]!];
        distances[i] = Math.sqrt(du * du + dw * dw);
        radius = Math.max(radius, distances[i]!);
      }
      let half = (box.high[axis]! - box.low[axis]!) / 2;
      if (roundEnds) {
        // How far the middle of a round end must lie out, so that each point is inside it.
        let reach = 0;
        for (let i = 0; i < distances.length; i++) {
          const up = Math.abs(own[i * 3 + axis]! - middle[axis]!);
          reach = Math.max(reach, up - Math.sqrt(Math.max(0, radius * radius - distances[i]! ** 2)));
        }
        half = reach + radius;
      }
      // The columns of the turn, with the chosen axis as y.
      const column = (k: number): Vector3 => [r[k * 3]!, r[k * 3 + 1]!, r[k * 3 + 2]!];
      const rotation: Matrix3 = [...column(w), ...column(axis), ...column(u)];
      return { pose: { center: apply(r, middle as unknown as Vector3), rotation }, radius, height: 2 * half };
    });
  });
}

function farthest(positions: Float32Array, from: Vector3): number {
  let [best, bestSquare] = [0, -1];
  for (let i = 0; i < positions.length; i += 3) {
    const square =
      (positions[i]! - from[0]) ** 2 + (positions[i + 1]! - from[1]) ** 2 + (positions[i + 2]! - from[2]) ** 2;
    if (square > bestSquare) [best, bestSquare] = [i / 3, square];
  }
  return best;
}
