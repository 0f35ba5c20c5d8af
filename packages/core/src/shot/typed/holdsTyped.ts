import { placeBy } from '../../mesh/place';
import type { Mesh } from '../../mesh/mesh';
import { pointsNear } from '../../select/pointsNear';
import { spots } from '../../select/spots';
import { createPinSet, createTie } from '../create';
import type { PinSet, Tie } from '../holdSchemas';
import { poseAt } from '../placement';
import type { Cloth, Shot, Thing } from '../schema';
import { borderPoints, cornerPoints, sidePoints } from '../selectPoints';
import { shapeMesh, type Assets } from '../shapes';
import { meshAt } from '../shapes/sizeKeys';

// What holds a typed cloth, in words: “pinned corners”, “pinned 5 along far side”, “pinned 5 × 6 spots”, “tied far side to Yard”, “tied near to Hoop”.

/** Points of a cloth by the words for them, as the Hold station has them. */
const PLACES: Record<string, (mesh: Mesh) => number[]> = {
  'far side': (mesh) => sidePoints(mesh, 'top'),
  'near side': (mesh) => sidePoints(mesh, 'bottom'),
  'left side': (mesh) => sidePoints(mesh, 'start'),
  'right side': (mesh) => sidePoints(mesh, 'end'),
  corners: cornerPoints,
  border: borderPoints,
};
const SPOTS = /^(\d{1,2})\s*(?:×|x|by)\s*(\d{1,2})(?:\s+spots?)?$/i;
const ALONG = /^(\d{1,3})\s+(?:points?\s+)?along\s+(.+)$/i;
/** Spots take the points around their middle, so that they pull no spike. In spacings. */
const SPOT_RADIUS = 1.25;
/** “near” takes what is within so many m. */
const NEAR = 0.02;

export const PINNED_PLACES = [...Object.keys(PLACES), '5 along far side', '4 × 3 spots'];
export const TIED_PLACES = [...Object.keys(PLACES), 'near'].map((place) => `${place} to`);

/** What a part of the line holds, once the cloth is there: it may depend on where that lies. */
export type TypedPins = (cloth: Cloth) => PinSet[];
export type TypedTies = (cloth: Cloth) => Tie[];

/** @throws Error with a sentence for the artist */
export function typedPins(text: string): TypedPins {
  const points = pointsAt(text, 'pinned');
  return (cloth) => [createPinSet({ name: 'Pins 1', points: points(cloth) })];
}

/**
 * “far side to Yard”: a tie to that thing. “near to Hoop”: a tie to each thing of that name, also with a number behind it, of what lies at
 * it where the run starts.
 * @throws Error with a sentence for the artist
 */
export function typedTies(text: string, shot: Shot, assets: Assets): TypedTies {
  const [, where, to] = /^(.*?)\s+to\s+(.*)$/i.exec(text) ?? [];
  if (!where || !to) throw new Error(`Say what is tied to what, for example “tied far side to ${anExample(shot)}”.`);
  const things = where.toLowerCase() === 'near' ? allNamed(to, shot) : [thingNamed(to, shot, 'tied to')];
  const surfaces = things.filter((thing) => 'shape' in thing);
  if (surfaces.length === 0) throw new Error(`“${things[0]!.name}” has no surface to be tied to.`);
  const points = where.toLowerCase() === 'near' ? null : pointsAt(where, 'tied');
  return (cloth) => {
    const start = shot.firstFrame - shot.preRoll;
    const there = points ? null : placeBy(shapeMesh(cloth.shape, assets), poseAt(shot, cloth, start)).positions;
    const ties = surfaces.flatMap((thing) => {
      const held = points
        ? points(cloth)
        : pointsNear(there!, placeBy(meshAt(thing, assets, start), poseAt(shot, thing, start)), NEAR);
      return held.length > 0 ? { points: held, to: thing.id } : [];
    });
    if (ties.length === 0) throw new Error(`Nothing of it lies within ${NEAR * 1000} mm of ${surfaces[0]!.name}.`);
    return ties.map((tie, i) => createTie({ ...tie, name: `Tie ${i + 1}` }));
  };
}

/** The thing of a name, whatever its capitals. @throws Error with a sentence for the artist */
export function thingNamed(name: string, shot: Shot, what: string): Thing {
  const wanted = name.trim().toLowerCase();
  const found = shot.things.find((thing) => thing.name.toLowerCase() === wanted);
  if (found) return found;
  const known = shot.things.map((thing) => thing.name).slice(0, 8);
  throw new Error(
    known.length === 0
      ? `There is no “${name}” yet, nor anything else that it could be ${what}.`
      : `There is no “${name}”. Here are ${known.join(', ')}${shot.things.length > 8 ? ' and others' : ''}.`,
  );
}

function allNamed(name: string, shot: Shot): Thing[] {
  const wanted = name.trim().toLowerCase();
  const found = shot.things.filter((thing) => thing.name.toLowerCase().replace(/ \d+$/, '') === wanted);
  return found.length > 0 ? found : [thingNamed(name, shot, 'tied to')];
}

function pointsAt(text: string, what: string): (cloth: Cloth) => number[] {
  const wanted = text.trim().toLowerCase();
  const rows = SPOTS.exec(wanted);
  const [, count, side] = ALONG.exec(wanted) ?? [];
  // “far” is enough for the far side.
  const place = PLACES[side ?? wanted] ?? PLACES[`${side ?? wanted} side`];
  if ((!rows && !place) || ['corners', 'border'].includes(side ?? ''))
    throw new Error(`“${what} ${text}” is not known: ${PINNED_PLACES.join(', ')}.`);
  return ({ shape }) => {
    const mesh = shapeMesh(shape, new Map());
    const radius = SPOT_RADIUS * ('spacing' in shape ? shape.spacing : 0);
    const all = place ? place(mesh) : spots(mesh, Number(rows![1]), Number(rows![2]), radius);
    const points = count ? evenly(all, Number(count)) : all;
    if (points.length === 0) throw new Error(`This shape has no ${wanted} to hold.`);
    return points;
  };
}

/** So many of some points, from the first to the last. */
function evenly(points: readonly number[], count: number): number[] {
  if (count >= points.length) return [...points];
  const share = (points.length - 1) / Math.max(1, count - 1);
  return Array.from({ length: count }, (_, i) => points[Math.round(i * share)]!);
}

function anExample(shot: Shot): string {
  return shot.things.find((thing) => 'shape' in thing)?.name ?? 'Yard';
}
