import {
  holdContext,
  holdModels,
  startFrame,
  type Assets,
  type HoldModel,
  type Shot,
  type TieModel,
} from '@lumbra/core';

interface TiedCloth {
  id: string;
  holds: HoldModel[];
  ties: TieModel[];
}

/** Finding the nearest places takes its time, and a document never changes in place. */
const known = new WeakMap<Shot, TiedCloth[]>();

/**
 * Lines from tied points to the places that hold them, as they are shown at a frame: x y z in m, two by two. For what cannot be
 * compiled there are none; the checks say why.
 */
export function tieLines(
  shot: Shot,
  assets: Assets,
  shown: ReadonlyMap<string, Float32Array>,
  frame: number,
): number[] {
  const tied = known.get(shot) ?? tiedCloths(shot, assets);
  known.set(shot, tied);
  const time = (frame - startFrame(shot)) / shot.frameRate;
  const lines: number[] = [];
  for (const { id, holds, ties } of tied) {
    const positions = shown.get(id);
    if (!positions) continue;
    const from = (point: number) => positions.subarray(point * 3, point * 3 + 3);
    for (const { points, placesAt } of holds) {
      const places = placesAt(time);
      points.forEach((point, i) => lines.push(...from(point), ...places.subarray(i * 3, i * 3 + 3)));
    }
    for (const { points, to, corners, weights } of ties) {
      const other = shown.get(to);
      if (!other) continue;
      points.forEach((point, i) => lines.push(...from(point), ...placeOnCloth(other, corners, weights, i)));
    }
  }
  return lines;
}

function tiedCloths(shot: Shot, assets: Assets): TiedCloth[] {
  const frame = startFrame(shot);
  const frameAt = (time: number) => frame + time * shot.frameRate;
  return shot.things.flatMap((thing) => {
    if (thing.role !== 'cloth' || thing.ties.length === 0) return [];
    try {
      const onlyTies = { ...thing, pinSets: [], leashes: [] };
      return [{ id: thing.id, ...holdModels(onlyTies, holdContext(shot, assets, frame, frameAt)) }];
    } catch {
      return [];
    }
  });
}

function placeOnCloth(positions: Float32Array, corners: Uint32Array, weights: Float32Array, i: number): number[] {
  return [0, 1, 2].map((axis) =>
    [0, 1, 2].reduce((sum, at) => sum + weights[i * 3 + at]! * positions[corners[i * 3 + at]! * 3 + axis]!, 0),
  );
}
