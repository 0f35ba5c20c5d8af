import { vec3 } from 'gl-matrix';
import type { Mesh } from '../../../mesh/mesh';
import type { NamedMesh } from '../../objRead';
import { ReadError } from '../../readError';
import { movingMesh } from '../../../mesh/movingMesh';
import { missingNote } from '../missingNote';
import { numbersAt, placeAt, placeTimes } from './placeAt';
import { UsdStage, type UsdSeries } from './usdStage';

/** The most numbers that the frames of a mesh may take. */
const MOST_NUMBERS = 400_000_000;

/**
 * Reads the meshes of a USD layer, in m with y up, with what its samples say of how they move: each sample of a whole frame as it is, frames between samples
 * filled in evenly. Polygons are cut into fans.
 * @throws ReadError with what is wrong, and where
 */
export async function readUsd(bytes: Uint8Array): Promise<{ parts: NamedMesh[]; clips: string[]; notes: string[] }> {
  const stage = await UsdStage.read(bytes);
  const paths = stage.prims('Mesh');
  if (paths.length === 0) throw new ReadError('There is no mesh in the layer.');
  const notes: string[] = [];
  const parts = paths.map((path): NamedMesh => {
    const label = stage.field(path, 'displayName');
    const name = typeof label === 'string' && label !== '' ? label : path.slice(path.lastIndexOf('/') + 1);
    return { name, mesh: readMesh(stage, path, name, notes) };
  });
  const others = ['references', 'payload', 'variantSelection'].reduce((sum, name) => sum + stage.countWith(name), 0);
  if (others > 0) notes.push('What the layer takes from other layers, or leaves to a choice, is left aside.');
  if (stage.prims('Material').length > 0) notes.push('Its pictures and materials are left aside.');
  const clips = [...new Set(parts.flatMap(({ mesh }) => mesh.motion?.clips.map((clip) => clip.name) ?? []))];
  return { parts, clips, notes };
}

function readMesh(stage: UsdStage, path: string, name: string, notes: string[]): Mesh {
  const triangles = readFaces(stage, path, name);
  const points = stage.series(path, 'points');
  const known = points && knownSamples(points);
  if (!known || known.values.length === 0) throw new ReadError(`“${name}” has no points.`);
  const count = known.values[0]!.length;
  known.values.forEach((value, i) => {
    if (value.length === count) return;
    throw new ReadError(
      `“${name}” has ${value.length / 3} points at ${known.times[i]}, but ${count / 3} before: a mesh that moves has the same points in all frames.`,
    );
  });
  const missing = triangles.find((point) => point * 3 >= count);
  if (missing !== undefined)
    throw new ReadError(`“${name}” has a face at point ${missing}, but only ${count / 3} points.`);

  const place = measure(stage);
  const at = (time: number): Mesh => ({
    positions: placed(Float32Array.from(numbersAt(known, time)), placeAt(stage, path, time), place),
    triangles,
  });
  const times = [...new Set([...known.times, ...placeTimes(stage, path)])].sort((a, b) => a - b);
  const [first = 0, last = 0] = [times[0], times.at(-1)];
  if (first === last) return at(first);
  const sampled = times.every(Number.isInteger) ? times : wholeFrames(first, last);
  if (sampled.length * count > MOST_NUMBERS) {
    throw new ReadError(`“${name}” has ${sampled.length} frames of ${count / 3} points, more than fits. Export fewer.`);
  }
  const frames = sampled.map((number) => ({ number }));
  const gap = known.left > 0 ? missingNote(name, frames, known.left) : missingNote(name, frames);
  if (gap) notes.push(gap);
  return movingMesh(sampled.map(at), frames, rateOf(stage));
}

function readFaces(stage: UsdStage, path: string, name: string): Uint32Array {
  const [counts, corners] = ['faceVertexCounts', 'faceVertexIndices'].map((attribute) => stage.series(path, attribute));
  if (!counts || !corners) throw new ReadError(`“${name}” has no faces.`);
  const [each, all] = [counts, corners].map(({ values }) => values[0] as ArrayLike<number>);
  if (corners.values.some((value) => !sameNumbers(value as ArrayLike<number>, all!)))
    throw new ReadError(`“${name}” changes its faces on the way: a mesh that moves has the same faces in all frames.`);
  const triangles: number[] = [];
  let at = 0;
  for (let face = 0; face < each!.length; face++) {
    const size = each![face]!;
    for (let i = 2; i < size; i++) triangles.push(all![at]!, all![at + i - 1]!, all![at + i]!);
    at += size;
  }
  if (at !== all!.length || triangles.some((point) => !(point >= 0)))
    throw new ReadError(`The faces of “${name}” are damaged: ${at} corners are announced, ${all!.length} are there.`);
  // A mesh that says so has its faces the other way round.
  const left = stage.value(path, 'orientation') === 'leftHanded';
  return Uint32Array.from(triangles, (point, i) =>
    left && i % 3 > 0 ? triangles[i + (i % 3 === 1 ? 1 : -1)]! : point,
  );
}

const sameNumbers = (a: ArrayLike<number>, b: ArrayLike<number>): boolean =>
  a.length === b.length && Array.prototype.every.call(a, (value, i) => value === b[i]);

/** The samples that are numbers, and how many are not. */
function knownSamples({ times, values }: UsdSeries): { times: number[]; values: ArrayLike<number>[]; left: number } {
  const kept = values
    .map((value, i) => ({ time: times[i], value: value as ArrayLike<number> }))
    .filter(({ value }) => {
      return value && value.length > 0 && value.length % 3 === 0 && typeof value[0] === 'number';
    });
  return {
    times: kept.flatMap(({ time }) => (time === undefined ? [] : [time])),
    values: kept.map(({ value }) => value),
    left: values.length - kept.length,
  };
}

function wholeFrames(first: number, last: number): number[] {
  const from = Math.ceil(first);
  return Array.from({ length: Math.max(1, Math.floor(last) - from + 1) }, (_, i) => from + i);
}

function rateOf(stage: UsdStage): number {
  const said = stage.field('/', 'timeCodesPerSecond') ?? stage.field('/', 'framesPerSecond');
  return typeof said === 'number' && said > 0 ? said : 24;
}

interface Measure {
  metres: number;
  zUp: boolean;
}

/** In what the layer is, with the defaults of USD: cm, y up. */
function measure(stage: UsdStage): Measure {
  const metres = stage.field('/', 'metersPerUnit');
  return {
    metres: typeof metres === 'number' && metres > 0 ? metres : 0.01,
    zUp: stage.field('/', 'upAxis') === 'Z',
  };
}

/** Points as they are in the layer, in m with y up. */
function placed(positions: Float32Array, place: ReturnType<typeof placeAt>, { metres, zUp }: Measure): Float32Array {
  const point = vec3.create();
  for (let i = 0; i < positions.length; i += 3) {
    vec3.transformMat4(point, [positions[i]!, positions[i + 1]!, positions[i + 2]!], place);
    positions[i] = point[0] * metres;
    positions[i + 1] = (zUp ? point[2] : point[1]) * metres;
    positions[i + 2] = (zUp ? -point[1] : point[2]) * metres;
  }
  return positions;
}
