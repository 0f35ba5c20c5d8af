import { applyPose, invertPose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import { borderPlaces } from '../mesh/borderPlaces';
import { treeOf } from '../mesh/boxTree';
import { nearestPlace } from '../mesh/nearestPlace';
import { placesAlong } from '../pattern/autoSeam';
import { cutPiece } from '../pattern/cutPiece';
import { freeSides } from '../pattern/editPattern';
import type { Stretch } from '../pattern/schema';
import { sewnAsFolded } from '../pattern/sewAsFolded';
import { sewnPointsOfStretch } from '../pattern/sewnPoints';
import { sideCounts } from '../pattern/sideCounts';
import { findStretch } from '../pattern/stretches';
import type { Tie } from '../shot/holdSchemas';
import { startFrame } from './compile';
import { poseAt } from '../shot/placement';
import type { Cloth, Shot, Thing } from '../shot/schema';
import type { Assets, PatternShape } from '../shot/shapes';
import { meshAt } from '../shot/shapes/sizeKeys';
import { motionPoints } from './motionPoints';

/** A border that could be sewn to a thing. */
export interface ProposedTie {
  stretch: Stretch;
  /** Id of the thing. */
  to: string;
  /** To its surface, or to its border where that is as near. */
  along: Tie['along'];
  /** How far it is from the thing's surface at most, in m. */
  apart: number;
}

/** A border counts as being as near as the surface where it is within so many m of that. */
const AS_NEAR = 1e-4;

export type Surfaced = Extract<Thing, { shape: unknown }>;

/**
 * Borders of a pattern that lie within so many m of the surface of a thing all along, at a frame: each with the nearest of those things. What is sewn, or
 * tied all along already, is left alone.
 */
export function autoTies(
  shot: Shot,
  cloth: Cloth & { shape: PatternShape },
  assets: Assets,
  within: number,
  frame: number,
): ProposedTie[] {
  const pose = poseAt(shot, cloth, frame);
  const surfaces = shot.things.flatMap((thing) =>
    (thing.role === 'collider' || thing.role === 'scenery') && thing.enabled && thing.shape.kind !== 'ground'
      ? nearTo(shot, thing, assets, frame)
      : [],
  );
  if (surfaces.length === 0) return [];
  const tied = new Set(cloth.ties.flatMap(({ points }) => points));
  const found: ProposedTie[] = [];
  for (const stretch of freeSides(cloth.shape)) {
    const places = placesAlong(cloth.shape.pieces, stretch).map((place) => applyPose(pose, place));
    let best: ProposedTie | null = null;
    for (const { id, distance, borderDistance } of surfaces) {
      let apart = 0;
      for (const place of places) {
        apart = Math.max(apart, distance(place));
        if (apart > Math.min(within, best?.apart ?? Infinity)) break;
      }
      if (apart > within || apart >= (best?.apart ?? Infinity)) continue;
      best = { stretch, to: id, along: borderDistance(places) <= apart + AS_NEAR ? 'border' : 'surface', apart };
    }
    if (best && !pointsAlong(cloth.shape, stretch).every((point) => tied.has(point))) found.push(best);
  }
  return found;
}

/** Whether a stretch of border lies as near to the border of a thing as to its surface, so that it is meant to be sewn along that. */
export function sewsAlong(
  shot: Shot,
  cloth: Cloth & { shape: PatternShape },
  assets: Assets,
  stretch: Stretch,
  to: Surfaced,
): Tie['along'] {
  const frame = startFrame(shot);
  const pose = poseAt(shot, cloth, frame);
  const places = placesAlong(cloth.shape.pieces, stretch).map((place) => applyPose(pose, place));
  const [near] = to.shape.kind === 'ground' ? [] : nearTo(shot, to, assets, frame);
  if (!near) return 'surface';
  return near.borderDistance(places) <= Math.max(...places.map(near.distance)) + AS_NEAR ? 'border' : 'surface';
}

interface Near {
  /** Id of the thing. */
  id: string;
  /** How far a place of the world is from its surface, in m. */
  distance: (place: Vector3) => number;
  /** How far places of the world are from its borders at most, in m; infinite where it has none. */
  borderDistance: (places: readonly Vector3[]) => number;
}

function nearTo(shot: Shot, thing: Surfaced, assets: Assets, frame: number): Near[] {
  if (thing.shape.kind === 'mesh' && !assets.has(thing.shape.asset)) return [];
  const still = meshAt(thing, assets, frame);
  const motion = 'motion' in thing ? thing.motion : null;
  const mesh = motion ? { ...still, positions: motionPoints(still, motion, shot.frameRate, frame) } : still;
  const back = invertPose(poseAt(shot, thing, frame));
  const own = (place: Vector3) => applyPose(back, place);
  const tree = treeOf(mesh);
  return [
    {
      id: thing.id,
      distance: (place) => nearestPlace(mesh, tree, own(place))?.distance ?? Infinity,
      borderDistance: (places) => {
        const found = borderPlaces(mesh, places.map(own), null);
        return found ? Math.max(...found.map(({ distance }) => distance)) : Infinity;
      },
    },
  ];
}

/** The points of a stretch that are sewn to a thing, counted through the mesh of its pattern. */
export function pointsAlong(given: PatternShape, stretch: Stretch): number[] {
  const shape = sewnAsFolded(given);
  const place = findStretch(shape.pieces, stretch);
  if (!place) return [];
  const counts = sideCounts(shape);
  let first = 0;
  for (const piece of shape.pieces) {
    const cut = cutPiece(piece, shape, counts);
    if (piece === place.piece) return sewnPointsOfStretch(place, cut, counts).map((point) => first + point);
    first += cut.places.length / 2;
  }
  return [];
}
