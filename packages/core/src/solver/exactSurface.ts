import type { Mesh } from '../mesh/mesh';
import { ball } from '../mesh/shapes/ball';
import { box } from '../mesh/shapes/box';
import { capsule } from '../mesh/shapes/capsule';
import { cylinder } from '../mesh/shapes/cylinder';
import type { ColliderModel } from './model';

/** Fine enough that the mesh of a round body lies within half a percent of its radius below its surface. */
const AROUND = 48;
const BALL_DETAIL = 3;

/**
 * The surface of a collider with an exact body, as a mesh: cloth meets the body by its distance, but what is sharp of it comes up between
 * cloth points, and is met and counted on this. None for the endless plane, and for a mesh, which is its own.
 */
export function exactSurface(collider: ColliderModel): Mesh | null {
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
