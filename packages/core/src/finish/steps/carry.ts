import { z } from 'zod';
import { boxTree } from '../../mesh/boxTree';
import type { Mesh } from '../../mesh/mesh';
import { nearestPlace } from '../../mesh/nearestPlace';
import { pointNormals } from '../../mesh/normals';
import { id } from '../../shot/ids';
import { finishStep } from '../finishStep';

export const carry = finishStep({
  label: 'Carry',
  help: 'Another mesh goes along with the cloth and is shown in its place: a detailed one, or one of a piece with what does not move. It is bound where both are when the shot starts.',
  schema: z.strictObject({
    kind: z.literal('carry'),
    thing: id.nullable().default(null).describe('Id of the thing whose mesh follows.'),
  }),
  things: { thing: 'Mesh' },
  standsIn: true,
  build: (mesh, { thing }, { at, meshes }) => {
    if (thing === null) throw new RangeError('Carry: choose the mesh that is to follow the cloth.');
    const carried = meshes.get(thing);
    if (!carried) throw new RangeError('Carry: the mesh that was to follow is no longer in the shot. Choose another.');
    if (mesh.triangles.length === 0) throw new RangeError('Carry: the cloth has no faces that a mesh could follow.');
    const bound = bind(mesh, at, carried);
    return {
      mesh: carried,
      place: (positions) => placeBound(mesh, positions, bound),
      carry: (values) =>
        Float32Array.from(bound.faces, (face, i) => {
          let sum = 0;
          for (let corner = 0; corner < 3; corner++)
            sum += bound.weights[i * 3 + corner]! * values[mesh.triangles[face * 3 + corner]!]!;
          return sum;
        }),
    };
  },
});

/** Where points are on a surface, and off it. */
interface Bound {
  /** The face of each point, and how its corners weigh in. */
  faces: Uint32Array;
  weights: Float32Array;
  /** Off that place, in m: along the face's first side, across it, and along the normal there. */
  offsets: Float64Array;
}

function bind(mesh: Mesh, at: Float32Array, carried: Mesh): Bound {
  const surface: Mesh = { positions: at, triangles: mesh.triangles };
  const tree = boxTree(surface);
  const count = carried.positions.length / 3;
  const bound: Bound = {
    faces: new Uint32Array(count),
    weights: new Float32Array(count * 3),
    offsets: new Float64Array(count * 3),
  };
  const normals = pointNormals(at, mesh.triangles, undefined, mesh.sewn);
  const axes = new Float64Array(12);
  for (let i = 0; i < count; i++) {
    const [x, y, z] = [carried.positions[i * 3]!, carried.positions[i * 3 + 1]!, carried.positions[i * 3 + 2]!];
    const { face, weights } = nearestPlace(surface, tree, [x, y, z])!;
    bound.faces[i] = face;
    bound.weights.set(weights, i * 3);
    axesAt(mesh, at, normals, bound, i, axes);
    const [dx, dy, dz] = [x - axes[9]!, y - axes[10]!, z - axes[11]!];
    for (let axis = 0; axis < 3; axis++) {
      bound.offsets[i * 3 + axis] = dx * axes[axis * 3]! + dy * axes[axis * 3 + 1]! + dz * axes[axis * 3 + 2]!;
    }
  }
  return bound;
}

/** Where bound points are when those of the surface are at `positions`. */
function placeBound(mesh: Mesh, positions: Float32Array, bound: Bound): Float32Array {
  const normals = pointNormals(positions, mesh.triangles, undefined, mesh.sewn);
  const out = new Float32Array(bound.faces.length * 3);
  const axes = new Float64Array(12);
  for (let i = 0; i < bound.faces.length; i++) {
    axesAt(mesh, positions, normals, bound, i, axes);
    for (let axis = 0; axis < 3; axis++) {
      let sum = axes[9 + axis]!;
      for (let k = 0; k < 3; k++) sum += bound.offsets[i * 3 + k]! * axes[k * 3 + axis]!;
      out[i * 3 + axis] = sum;
    }
  }
  return out;
}

/**
 * Three directions at the place of a point, square to each other, then the place itself: along the face's first side, across, and the normal. That is
 * the mean of the corners' normals, so that what lies off the surface does not jump from face to face.
 */
function axesAt(
  { triangles }: Mesh,
  positions: Float32Array,
  normals: Float32Array,
  { faces, weights }: Bound,
  i: number,
  out: Float64Array,
): void {
  const face = faces[i]!;
  out.fill(0);
  for (let corner = 0; corner < 3; corner++) {
    const from = triangles[face * 3 + corner]! * 3;
    const weight = weights[i * 3 + corner]!;
    for (let axis = 0; axis < 3; axis++) {
      out[6 + axis]! += weight * normals[from + axis]!;
      out[9 + axis]! += weight * positions[from + axis]!;
    }
  }
  makeUnit(out, 6);
  const [a, b] = [triangles[face * 3]! * 3, triangles[face * 3 + 1]! * 3];
  let along = 0;
  for (let axis = 0; axis < 3; axis++) along += (positions[b + axis]! - positions[a + axis]!) * out[6 + axis]!;
  for (let axis = 0; axis < 3; axis++) {
    out[axis] = positions[b + axis]! - positions[a + axis]! - along * out[6 + axis]!;
  }
  makeUnit(out, 0);
  for (let axis = 0; axis < 3; axis++) {
    const [next, last] = [(axis + 1) % 3, (axis + 2) % 3];
    out[3 + axis] = out[6 + next]! * out[last]! - out[6 + last]! * out[next]!;
  }
}

function makeUnit(v: Float64Array, at: number): void {
  const size = Math.sqrt(v[at]! ** 2 + v[at + 1]! ** 2 + v[at + 2]! ** 2);
  if (size > 0) for (let axis = 0; axis < 3; axis++) v[at + axis]! /= size;
}
