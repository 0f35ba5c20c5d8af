import type { Mesh } from '../../mesh/mesh';
import { ball } from '../../mesh/shapes/ball';
import { box } from '../../mesh/shapes/box';
import { capsule } from '../../mesh/shapes/capsule';
import { cylinder } from '../../mesh/shapes/cylinder';
import type { ColliderModel } from '../model';

/**
 * The mesh of a round body lies within this many m, or within half a percent of its radius, below its surface. All edges of what is thin for the cloth are sharp to it, and
 * each is met: a rod of 8 mm needs 20 around, where 48 took more than twice the time.
 */
const BELOW = 1e-4;
const MOST_AROUND = 48;
const LEAST_AROUND = 8;
/** How far below the surface of a ball of 1 m radius its mesh of each detail lies, measured at the middles of its faces. */
const BALL_BELOW = [0.206, 0.066, 0.018, 0.0046];
/** The same body gives the same mesh, so that what is known of it need not be found anew for every run. */
const made = new Map<string, Mesh>();
const MOST_MADE = 64;

/**
 * The surface of a collider with an exact body, as a mesh: cloth meets the body by its distance, but what is sharp of it comes up between
 * cloth points, and is met and counted on this. None for the endless plane, and for a mesh, which is its own.
 */
export function exactSurface(collider: ColliderModel): Mesh | null {
  const { kind } = collider;
  if (kind === 'plane' || kind === 'mesh') return null;
  const sizes = kind === 'box' ? collider.size : [collider.radius, 'height' in collider ? collider.height : 0];
  const key = `${kind} ${sizes.join(' ')}`;
  const known = made.get(key) ?? surfaceOf(collider)!;
  // What was asked for last stays longest.
  made.delete(key);
  made.set(key, known);
  if (made.size > MOST_MADE) made.delete(made.keys().next().value!);
  return known;
}

function surfaceOf(collider: ColliderModel): Mesh | null {
  switch (collider.kind) {
    case 'box':
      return box({ size: collider.size });
    case 'cylinder':
      return cylinder({ radius: collider.radius, height: collider.height, segments: segmentsAround(collider.radius) });
    case 'capsule':
      return capsule({ radius: collider.radius, height: collider.height, segments: segmentsAround(collider.radius) });
    case 'ball':
      return ball({ radius: collider.radius, detail: detailOf(collider.radius) });
    default:
      return null;
  }
}

/** Of how many sides a mesh around a radius in m is made: a multiple of four, which a capsule has all around. */
function segmentsAround(radius: number): number {
  // The middle of a side is by r (1 - cos(pi / n)) below the circle, which is no more than r pi^2 / (2 n^2).
  const needed = Math.PI * Math.sqrt(radius / (2 * BELOW));
  return Math.min(MOST_AROUND, Math.max(LEAST_AROUND, Math.ceil(needed / 4) * 4));
}

function detailOf(radius: number): number {
  const found = BALL_BELOW.findIndex((below) => below * radius <= BELOW);
  return found < 0 ? BALL_BELOW.length - 1 : found;
}
