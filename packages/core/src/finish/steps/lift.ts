import { z } from 'zod';
import { treeOf } from '../../mesh/boxTree';
import type { Mesh } from '../../mesh/mesh';
import { nearestPlace, placeOn, type SurfacePlace } from '../../mesh/nearestPlace';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { sideNormals } from '../../mesh/sideNormals';
import { topology } from '../../mesh/topology';
import { quantity } from '../../quantity/quantity';
import { id } from '../../shot/ids';
import { finishStep, masked, sameFaces } from '../finishStep';

/** What lies deeper in a thing than this, in m, is left: it lies on the other side of something thin, and is not too near. */
const DEEPEST = 0.03;
/** Weights below this count as nothing: the nearest place is on a side or a corner. */
const NOTHING = 1e-9;

export const lift = finishStep({
  label: 'Lift',
  help: 'Takes what lies too near a thing, or in it, off its surface: after subdividing and smoothing, cloth may cut its corners.',
  masked: true,
  follows: true,
  schema: z.strictObject({
    kind: z.literal('lift'),
    thing: id.nullable().default(null).describe('Id of the thing that cloth is lifted off.'),
    distance: quantity({
      label: 'Distance',
      help: 'Points nearer than this are taken off to it.',
      unit: 'mm',
      min: 0,
      max: 0.1,
      default: 0.002,
      step: 0.0005,
      keyable: true,
    }),
  }),
  things: { thing: 'Off' },
  build: (mesh, { thing }, { meshes }) => {
    if (thing === null) throw new RangeError('Lift: choose the thing that the cloth is to be lifted off.');
    if (!meshes.has(thing)) throw new RangeError('Lift: that thing is no longer in the shot. Choose another.');
    return sameFaces(mesh, (positions, { distance }, mask, things) => {
      const surface = things.get(thing) ?? meshes.get(thing)!;
      if (surface.triangles.length === 0) return positions;
      return masked(positions, lifted(positions, surface, distance), mask);
    });
  },
});

function lifted(positions: Float32Array, surface: Mesh, distance: number): Float32Array {
  const tree = treeOf(surface);
  const out = positions.slice();
  for (let at = 0; at < out.length; at += 3) {
    const point = [positions[at]!, positions[at + 1]!, positions[at + 2]!] as const;
    const near = nearestPlace(surface, tree, point, Math.max(distance, DEEPEST));
    if (!near) continue;
    const foot = placeOn(surface.positions, surface.triangles, near);
    const normal = normalAt(surface, near);
    const away = point.map((value, axis) => value - foot[axis]!) as [number, number, number];
    const outside = away[0] * normal[0]! + away[1] * normal[1]! + away[2] * normal[2]! >= 0;
    if (outside && near.distance >= distance) continue;
    // Along the way to the surface, outwards; on the surface itself along its normal.
    const size = (outside ? 1 : -1) * near.distance;
    const along = near.distance > 1e-7 ? away.map((value) => value / size) : normal;
    for (let axis = 0; axis < 3; axis++) out[at + axis] = foot[axis]! + distance * along[axis]!;
  }
  return out;
}

const normalsOf = oncePerMesh((mesh) => sideNormals(mesh, topology(mesh)));

/** Which way is outside at the nearest place of a surface: the normal of its face, side or corner. */
function normalAt(mesh: Mesh, { face, weights }: SurfacePlace): number[] {
  const normals = normalsOf(mesh);
  const none = weights.map((weight) => weight < NOTHING);
  const count = none.filter(Boolean).length;
  const of = (all: Float64Array, i: number) => [all[i * 3]!, all[i * 3 + 1]!, all[i * 3 + 2]!];
  if (count === 2) return of(normals.points, mesh.triangles[face * 3 + none.indexOf(false)]!);
  // The side across from the corner that has no weight begins at the next one.
  if (count === 1) return of(normals.edges, topology(mesh).faceEdges[face * 3 + ((none.indexOf(true) + 1) % 3)]!);
  return of(normals.faces, face);
}
