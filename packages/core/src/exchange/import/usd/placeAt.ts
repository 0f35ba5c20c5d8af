import { mat4, quat, type vec3 } from 'gl-matrix';
import { ReadError } from '../../readError';
import { parentOf, type UsdSeries, type UsdStage } from './usdStage';

const RADIANS = Math.PI / 180;

/** All times at which something of a prim’s place, or of what it is under, is said. */
export function placeTimes(stage: UsdStage, path: string): number[] {
  const own = stage.words(path, 'xformOpOrder').flatMap((op) => stage.series(path, op)?.times ?? []);
  return path === '' ? [] : [...own, ...placeTimes(stage, parentOf(path))];
}

/** From a prim’s own axes to those of the layer at a time: its operations in their order, within those of what it is under. @throws ReadError for an operation that is not known */
export function placeAt(stage: UsdStage, path: string, time: number): mat4 {
  const place = mat4.create();
  if (path === '') return place;
  for (const written of stage.words(path, 'xformOpOrder')) {
    if (written === '!resetXformStack!') return mat4.multiply(place, mat4.create(), ownPlace(stage, path, time));
  }
  return mat4.multiply(place, placeAt(stage, parentOf(path), time), ownPlace(stage, path, time));
}

function ownPlace(stage: UsdStage, path: string, time: number): mat4 {
  const place = mat4.create();
  for (const written of stage.words(path, 'xformOpOrder')) {
    if (written === '!resetXformStack!') continue;
    const op = written.replace('!invert!', '');
    const series = stage.series(path, op);
    if (!series) continue;
    const step = operation(op, numbersAt(series, time), path);
    if (op !== written) mat4.invert(step, step);
    mat4.multiply(place, place, step);
  }
  return place;
}

function operation(op: string, numbers: number[], path: string): mat4 {
  const kind = op.split(':')[1] ?? '';
  const [x = 0, y = 0, z = 0, w = 1] = numbers;
  const out = mat4.create();
  switch (kind) {
    case 'translate':
      return mat4.fromTranslation(out, [x, y, z]);
    case 'scale':
      return mat4.fromScaling(out, [x, y, z]);
    case 'orient':
      return mat4.fromQuat(out, quat.normalize(quat.create(), [x, y, z, w]));
    case 'transform':
      // Rows there are columns here, and vectors stand on the other side: the numbers are in the same order.
      return mat4.copy(out, numbers as unknown as mat4);
  }
  const axes = /^rotate([XYZ]{1,3})$/.exec(kind)?.[1];
  if (!axes) throw new ReadError(`“${path}” is placed by “${op}”, which Lumbra does not know.`);
  // The first axis that is named turns first.
  for (const axis of [...axes].reverse()) {
    const unit: vec3 = [axis === 'X' ? 1 : 0, axis === 'Y' ? 1 : 0, axis === 'Z' ? 1 : 0];
    const angle = axes.length === 1 ? x : { X: x, Y: y, Z: z }[axis as 'X' | 'Y' | 'Z'];
    mat4.rotate(out, out, angle * RADIANS, unit);
  }
  return out;
}

/** The numbers of a series at a time: in between evenly, before and after as at its ends. */
export function numbersAt({ times, values }: UsdSeries, time: number): number[] {
  const list = (value: unknown) => (typeof value === 'number' ? [value] : Array.from(value as ArrayLike<number>));
  let after = times.findIndex((one) => one >= time);
  if (times.length === 0 || after === 0) return list(values[0]);
  if (after < 0) return list(values.at(-1));
  if (times[after] === time) return list(values[after]);
  after = Math.max(1, after);
  const share = (time - times[after - 1]!) / (times[after]! - times[after - 1]!);
  const to = list(values[after]);
  return list(values[after - 1]).map((value, i) => value + (to[i]! - value) * share);
}
