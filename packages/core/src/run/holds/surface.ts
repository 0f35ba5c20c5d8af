import { cross, direction, type Vector3 } from '../../math/vector';
import { treeOf } from '../../mesh/boxTree';
import type { Mesh } from '../../mesh/mesh';
import { borderPlaces } from '../../mesh/borderPlaces';
import { nearestPlace, type SurfacePlace } from '../../mesh/nearestPlace';
import { placeBy } from '../../mesh/place';
import { borderRun } from '../../select/borderRun';
import type { Tie } from '../../shot/holdSchemas';
import { poseAt } from '../../shot/placement';
import type { Cloth, Thing } from '../../shot/schema';
import { shapeMesh } from '../../shot/shapes';
import { hasSizeKeys, meshAt } from '../../shot/shapes/sizeKeys';
import { motionPoints } from '../motionPoints';
import { CompileError } from '../sound';
import type { HoldContext } from './context';
import { pointAt } from './places';

/** Where the surface of a thing is at a frame, and its faces. */
export interface MovingSurface {
  mesh: Mesh;
  at: (frame: number) => Mesh;
}

/** The surface of what a cloth is tied to. @throws CompileError where it has none */
export function surfaceOf(thing: Thing, { shot, assets, frame }: HoldContext, cloth: Cloth): MovingSurface {
  if (!('shape' in thing)) {
    throw new CompileError(
      `“${cloth.name}” is tied to ${thing.name}, which has no surface. Let its pins ride it instead.`,
    );
  }
  const mesh = meshAt(thing, assets, frame);
  const motion = 'motion' in thing ? thing.motion : null;
  return {
    mesh,
    at: (now) => {
      const sized = hasSizeKeys(thing) ? meshAt(thing, assets, now).positions : null;
      const positions = sized ?? motionPoints(mesh, motion, shot.frameRate, now);
      return placeBy({ ...mesh, positions }, poseAt(shot, thing, now));
    },
  };
}

/**
 * The places of a surface to which the points of a tie belong, in their order: each the nearest, or on the nearest border.
 * @throws CompileError where there are no faces, or no border
 */
export function tiedPlaces(
  cloth: Cloth,
  tie: Tie,
  { startOf, assets }: HoldContext,
  to: Thing,
  surface: Mesh,
): SurfacePlace[] {
  const start = startOf(cloth);
  const places = tie.points.map((point) => pointAt(start, point));
  if (tie.along === 'border') {
    const run = borderRun(shapeMesh(cloth.shape, assets), tie.points);
    const found = borderPlaces(surface, places, run);
    if (found) return found;
    throw new CompileError(
      `“${cloth.name}” is tied to the border of ${to.name}, which has none. Choose its surface at Hold instead, in “${tie.name}”.`,
    );
  }
  const tree = treeOf(surface);
  return places.map((place) => {
    const found = nearestPlace(surface, tree, place);
    if (!found) throw new CompileError(`“${cloth.name}” is tied to a thing without faces. Tie it to another one.`);
    return found;
  });
}

/** Along the first edge of a face, across it in the face, and along the normal; unit vectors. */
export function faceAxes({ positions, triangles }: Mesh, face: number): Vector3[] {
  const [a, b, c] = [0, 1, 2].map((corner) => pointAt(positions, triangles[face * 3 + corner]!)) as [
    ...[Vector3, Vector3, Vector3],
  ];
  const along = unit([b[0] - a[0], b[1] - a[1], b[2] - a[2]]);
  const normal = unit(cross(along, [c[0] - a[0], c[1] - a[1], c[2] - a[2]]));
  return [along, cross(normal, along), normal];
}

function unit(v: Vector3): Vector3 {
  return direction(v) ?? [0, 0, 0];
}
