import * as Pull from '@lumbra/kernel/layouts/air/pull';
import { addEddies } from '../air/eddies';
import { scaleOf } from '../fabric/faceScales';
import type { Vector3 } from '../math/vector';
import { valueAt } from '../shot/keys';
import type { Shot } from '../shot/schema';
import { meanSpacing } from '../mesh/meanSpacing';
import { shapeMesh, type Assets } from '../shot/shapes';
import type { SampledCloth } from '../solver/model';
import { airModel } from './airField';
import { activeCloths, AIR_DENSITY, startFrame } from './compile';
import { faceScales } from './faceScales';

/** How a cloth lies at a frame, x y z in m, and how it lay a frame before; where that is not known, it counts as still. */
export interface PressedCloth {
  id: string;
  positions: Float32Array;
  before: Float32Array | null;
}

/**
 * How hard air presses on cloth at a frame, point by point in Pa, as a run that is there would have it: half the density times drag across times the square of
 * the speed against it, in the share that meets it head on; the mean of the faces around a point, by area. Without sign: which side it
 * is pressed on is seen by the arrows.
 */
export function airPressure(
  shot: Shot,
  assets: Assets,
  frame: number,
  pressed: readonly PressedCloth[],
): Map<string, Float32Array> {
  const first = startFrame(shot);
  const time = (frame - first) / shot.frameRate;
  const frameAt = (at: number) => first + at * shot.frameRate;
  const { windAt, field } = airModel({ shot, assets, frame: first, frameAt });
  const wind = windAt(time);
  const cloths = activeCloths(shot).flatMap((cloth) => {
    const own = pressed.find(({ id }) => id === cloth.id);
    const mesh = shapeMesh(cloth.shape, assets);
    if (!own || own.positions.length !== mesh.positions.length) return [];
    const { positions, before } = own;
    const known = before?.length === positions.length ? before : positions;
    const velocities = positions.map((value, i) => (value - known[i]!) * shot.frameRate);
    const count = positions.length / 3;
    const sampled: SampledCloth = {
      ...{
        id: cloth.id,
        positions,
        velocities,
        triangles: mesh.triangles,
        spacing: meanSpacing(mesh),
        weight: cloth.fabric.weight,
      },
      velocity: new Float32Array(count * 4),
      pull: new Float32Array(count * (Pull.BYTES / 4)),
      stir: (waves, at, speeds) => speeds.forEach((speed, i) => stirPoint(sampled, i, waves, at, speed)),
    };
    return [{ cloth, sampled, scales: faceScales(cloth, assets, frame) }];
  });
  field?.sample(
    time,
    cloths.map(({ sampled }) => sampled),
    1 / shot.frameRate,
    true,
  );
  return new Map(
    cloths.map(({ cloth, sampled, scales }) => {
      const across = valueAt(cloth, 'fabric.airAcross', frame);
      const shareOf = (face: number) => across * scaleOf(scales, 'airAcross', face);
      return [cloth.id, pointPressure(sampled, wind, shareOf)];
    }),
  );
}

/** Adds eddies of a speed to the velocity of the air at a point. */
function stirPoint({ positions, velocity }: SampledCloth, i: number, waves: Float64Array, at: number, speed: number) {
  const [x, y, z] = positions.subarray(i * 3, i * 3 + 3) as unknown as Vector3;
  const eddy = new Float64Array(3);
  addEddies(waves, x, y, z, at, speed, eddy);
  for (let axis = 0; axis < 3; axis++) velocity[i * 4 + axis]! += eddy[axis]!;
}

function pointPressure(
  { positions: p, velocities, velocity: field, triangles }: SampledCloth,
  wind: readonly number[],
  dragOf: (face: number) => number,
): Float32Array {
  const count = p.length / 3;
  const [sums, areas] = [new Float64Array(count), new Float64Array(count)];
  for (let face = 0; face < triangles.length / 3; face++) {
    const corners = [0, 1, 2].map((corner) => triangles[face * 3 + corner]!);
    const [i, j, k] = corners as [number, number, number];
    const [u, v, against] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
    for (let axis = 0; axis < 3; axis++) {
      u[axis] = p[j * 3 + axis]! - p[i * 3 + axis]!;
      v[axis] = p[k * 3 + axis]! - p[i * 3 + axis]!;
      const own = corners.reduce((sum, point) => sum + velocities[point * 3 + axis]! - field[point * 4 + axis]!, 0) / 3;
      against[axis] = own - wind[axis]!;
    }
    const normal = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!];
    const size = Math.sqrt(normal.reduce((sum, value) => sum + value * value, 0));
    if (!(size > 1e-14)) continue;
    const speed = Math.sqrt(against.reduce((sum, value) => sum + value * value, 0));
    const headOn = Math.abs(against.reduce((sum, value, axis) => sum + value * normal[axis]!, 0)) / size;
    const pressure = 0.5 * AIR_DENSITY * dragOf(face) * speed * headOn;
    for (const point of corners) {
      sums[point]! += pressure * size;
      areas[point]! += size;
    }
  }
  return Float32Array.from(sums, (sum, point) => (areas[point]! > 0 ? sum / areas[point]! : 0));
}
