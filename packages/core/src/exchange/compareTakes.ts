import type { Vector3 } from '../math/vector';
import type { HandedCloth, HandedTake } from './formats/format';
import { ReadError } from './readError';

/** How far a cloth of one motion is from the same cloth of another. */
export interface ClothDifference {
  /** Of the cloth of the first motion. */
  id: string;
  name: string;
  /** The greatest distance between a point and the same point there, in m, in which frame of the first motion, and where. */
  greatest: number;
  frame: number;
  place: Vector3;
  /** The mean distance over all points and frames, in m. */
  mean: number;
}

export interface TakeDifference {
  cloths: ClothDifference[];
  /** Frames that were compared; and how many there are in the first and in the second motion. */
  compared: number;
  frames: [first: number, second: number];
}

/**
 * Compares two motions frame by frame, the first frame of one with the first of the other, as their frames come. Cloths are the same where they have the
 * same name, or else the same number of points and faces.
 * @throws ReadError where a cloth of the first is not in the second, or has another mesh there
 */
export async function compareTakes(first: HandedTake, second: HandedTake): Promise<TakeDifference> {
  const pairs = first.cloths.map((cloth) => {
    const other = partnerOf(cloth, second.cloths);
    return {
      other: second.cloths.indexOf(other),
      sum: 0,
      count: 0,
      greatest: -1,
      frame: 0,
      place: [0, 0, 0] as Vector3,
    };
  });
  const [here, there] = [first.frames[Symbol.asyncIterator](), second.frames[Symbol.asyncIterator]()];
  let compared = 0;
  const frames: [number, number] = [0, 0];
  for (;;) {
    const [one, two] = [await here.next(), await there.next()];
    if (!one.done) frames[0]++;
    if (!two.done) frames[1]++;
    if (one.done && two.done) break;
    if (one.done || two.done) continue;
    compared++;
    pairs.forEach((pair, i) => {
      const [own, far] = [one.value.positions[i]!, two.value.positions[pair.other]!];
      for (let at = 0; at < own.length; at += 3) {
        const [x, y, z] = [own[at]!, own[at + 1]!, own[at + 2]!];
        const distance = Math.hypot(x - far[at]!, y - far[at + 1]!, z - far[at + 2]!);
        pair.sum += distance;
        pair.count++;
        if (distance > pair.greatest)
          Object.assign(pair, { greatest: distance, frame: one.value.frame, place: [x, y, z] });
      }
    });
  }
  return {
    compared,
    frames,
    cloths: first.cloths.map(({ id, name }, i) => {
      const { greatest, frame, place, sum, count } = pairs[i]!;
      return { id, name, greatest: Math.max(0, greatest), frame, place, mean: count > 0 ? sum / count : 0 };
    }),
  };
}

function partnerOf(cloth: HandedCloth, others: readonly HandedCloth[]): HandedCloth {
  const named = others.find(({ name }) => name === cloth.name);
  if (named && isSame(cloth, named)) return named;
  const alike = others.filter((other) => isSame(cloth, other));
  if (!named && alike.length === 1) return alike[0]!;
  const own = countsOf(cloth);
  if (named)
    throw new ReadError(`${cloth.name} has ${own} here, and ${countsOf(named)} in the cache: it is another mesh.`);
  if (alike.length > 1)
    throw new ReadError(
      `The cache has no ${cloth.name}, and several meshes of ${own}: which one is meant cannot be known.`,
    );
  throw new ReadError(`The cache has no ${cloth.name}, and no mesh of ${own}.`);
}

const isSame = (a: HandedCloth, b: HandedCloth): boolean =>
  a.mesh.positions.length === b.mesh.positions.length && a.mesh.triangles.length === b.mesh.triangles.length;

const countsOf = ({ mesh }: HandedCloth): string =>
  `${mesh.positions.length / 3} points and ${mesh.triangles.length / 3} faces`;
