import type { Mesh } from '../../mesh/mesh';
import { ball } from '../../mesh/shapes/ball';
import { box } from '../../mesh/shapes/box';
import { capsule } from '../../mesh/shapes/capsule';
import { cylinder } from '../../mesh/shapes/cylinder';
import type { ColliderModel } from '../model';

/** Fine enough that the mesh of a round body lies within half a percent of its radius below its surface. */
const AROUND = 48;
const BALL_DETAIL = 3;
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
      return cylinder({ radius: collider.radius, height: collider.height, segments: AROUND });
    case 'capsule':
      return capsule({ radius: collider.radius, height: collider.height, segments: AROUND });
    case 'ball':
      return ball({ radius: collider.radius, detail: BALL_DETAIL });
    default:
      return null;
  }
}
