import {
  holdContext,
  holdModels,
  startFrame,
  type Assets,
  type HoldModel,
  type Shot,
  type TieModel,
} from '@lumbra/core';

/** What a tie holds a cloth to. */
export interface TiedCloth {
  id: string;
  holds: HoldModel[];
  ties: TieModel[];
}

/** Lines from tied points to the places that hold them, as they are shown at a frame: x y z in m, two by two. */
export function tieLines(
  tied: readonly TiedCloth[],
  shot: Shot,
  shown: ReadonlyMap<string, Float32Array>,
  frame: number,
): number[] {
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

/**
 * The ties of a shot one by one, since finding the nearest places of each takes its time. Those that cannot be compiled are left out; the checks say
 * why.
 */
export function* tiedCloths(shot: Shot, assets: Assets): Generator<TiedCloth> {
  const frame = startFrame(shot);
  const frameAt = (time: number) => frame + time * shot.frameRate;
  for (const thing of shot.things) {
    if (thing.role !== 'cloth') continue;
    for (const tie of thing.ties) {
      try {
        const onlyThis = { ...thing, pinSets: [], leashes: [], ties: [tie] };
        yield { id: thing.id, ...holdModels(onlyThis, holdContext(shot, assets, frame, frameAt)) };
      } catch {
        continue;
      }
    }
  }
}

function placeOnCloth(positions: Float32Array, corners: Uint32Array, weights: Float32Array, i: number): number[] {
  return [0, 1, 2].map((axis) =>
    [0, 1, 2].reduce((sum, at) => sum + weights[i * 3 + at]! * positions[corners[i * 3 + at]! * 3 + axis]!, 0),
  );
}
