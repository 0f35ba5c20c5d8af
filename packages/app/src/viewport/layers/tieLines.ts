import {
  holdContext,
  holdModels,
  startFrame,
  type Assets,
  type HoldModel,
  type Shot,
  type TieModel,
} from '@lumbra/core';

/** A tie is drawn by no more lines than this. */
const MOST_LINES = 24;

/** What a tie holds a cloth to. */
export interface TiedCloth {
  id: string;
  /** Where the points of the cloth start, x y z in m. */
  start: Float32Array;
  holds: HoldModel[];
  ties: TieModel[];
}

/**
 * Lines from tied points to the places that hold them, as they are shown at a frame: x y z in m, two by two. Cloth that is not there yet at that frame is
 * shown where it starts, and so are its lines: elsewhere they would lead to where what holds it has gone since.
 */
export function tieLines(
  tied: readonly TiedCloth[],
  shot: Shot,
  shown: ReadonlyMap<string, Float32Array>,
  frame: number,
): number[] {
  const lines: number[] = [];
  for (const { id, start, holds, ties } of tied) {
    const positions = shown.get(id);
    if (!positions) continue;
    const starts = start.every((value, i) => value === positions[i]);
    const time = starts ? 0 : (frame - startFrame(shot)) / shot.frameRate;
    const from = (point: number) => positions.subarray(point * 3, point * 3 + 3);
    for (const { points, placesAt } of holds) {
      const places = placesAt(time);
      for (const i of some(points.length)) lines.push(...from(points[i]!), ...places.subarray(i * 3, i * 3 + 3));
    }
    for (const { points, to, corners, weights } of ties) {
      const other = shown.get(to);
      if (!other) continue;
      for (const i of some(points.length)) lines.push(...from(points[i]!), ...placeOnCloth(other, corners, weights, i));
    }
  }
  return lines;
}

/**
 * The ties of a shot one by one, since finding the nearest places of each takes its time. Of what is drawn in the place is that to which it is drawn. Those that cannot be compiled are left out; the checks say
 * why.
 */
export function* tiedCloths(shot: Shot, assets: Assets): Generator<TiedCloth> {
  const frame = startFrame(shot);
  const context = holdContext(shot, assets, frame, (time) => frame + time * shot.frameRate);
  for (const thing of shot.things) {
    if (thing.role !== 'cloth') continue;
    for (const tie of thing.ties) {
      try {
        const onlyThis = { ...thing, pinSets: [], leashes: [], ties: [{ ...tie, drawnIn: 0 }] };
        yield { id: thing.id, start: context.startOf(thing), ...holdModels(onlyThis, context) };
      } catch {
        continue;
      }
    }
  }
}

/** Indices of the points of a tie that have a line: all, or evenly among them as many as can be told apart. */
function some(count: number): number[] {
  const shown = Math.min(count, MOST_LINES);
  return Array.from({ length: shown }, (_, n) => Math.round((n * (count - 1)) / Math.max(1, shown - 1)));
}

function placeOnCloth(positions: Float32Array, corners: Uint32Array, weights: Float32Array, i: number): number[] {
  return [0, 1, 2].map((axis) =>
    [0, 1, 2].reduce((sum, at) => sum + weights[i * 3 + at]! * positions[corners[i * 3 + at]! * 3 + axis]!, 0),
  );
}
