import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import type { Mesh } from '../../mesh/mesh';
import { eachClosePair } from '../closePairs';
import { finishStep } from '../finishStep';
import { cornersOf, limitStencil, loopLevel } from '../loop';
import { pulledBack } from '../pulledBack';
import { applyStencil, type Stencil } from '../stencil';

/** More faces than this are more than a machine can draw. */
const MOST_FACES = 4_000_000;

/** Rounds after which the surface is within a fiftieth of what it was away from the points. */
const ROUNDS = 8;

export const subdivide = finishStep({
  label: 'Subdivide',
  help: 'Finer, rounder faces; borders become curves, and corners stay.',
  schema: z.strictObject({
    kind: z.literal('subdivide'),
    times: quantity({
      label: 'Times',
      help: 'Each time makes four faces of one.',
      unit: '',
      min: 1,
      max: 3,
      default: 1,
      step: 1,
      whole: true,
    }),
    keepsPoints: z
      .boolean()
      .default(true)
      .describe('Whether the surface goes through the simulated points, so that it is not drawn into what it lies on.'),
    keepsApart: z
      .boolean()
      .default(true)
      .describe('Whether layers that lie close stay as flat there as it takes for them not to go through each other.'),
  }),
  words: { keepsPoints: 'goes through the simulated points', keepsApart: 'layers stay apart' },
  build: (mesh, { times }) => {
    const faces = (mesh.triangles.length / 3) * 4 ** times;
    if (faces > MOST_FACES) {
      throw new RangeError(
        `Subdivided ${times} times it would have ${(faces / 1e6).toFixed(1)} million faces, and ${MOST_FACES / 1e6} million are the most. Subdivide it less often.`,
      );
    }
    const corners = cornersOf(mesh);
    const levels = [loopLevel(mesh, corners)];
    while (levels.length < times) levels.push(loopLevel(levels.at(-1)!.mesh, corners));
    const fine = levels.at(-1)!.mesh;
    const limit = limitStencil(fine, corners);
    const near = limitStencil(mesh, corners);
    const through = (values: Float32Array, components: number) =>
      levels.reduce((made, { stencil }) => applyStencil(stencil, made, components), values);
    return {
      mesh: { ...fine, positions: applyStencil(limit, fine.positions, 3) },
      place: (positions, { keepsPoints, keepsApart }) => {
        const round = applyStencil(limit, through(keepsPoints ? wider(positions, near) : positions, 3), 3);
        if (!keepsApart) return round;
        const flat = levels.reduce((made, level) => applyStencil(level.flat, made, 3), positions);
        const moves = round.map((value, i) => value - flat[i]!);
        const looked = closeFaces({ ...mesh, positions }, fine.triangles, moves);
        return looked ? pulledBack(flat, moves, fine.triangles, looked) : round;
      },
      carry: (values) => through(values, 1),
    };
  },
});

/** Points whose limit surface goes through the given ones: what is lacking is added, again and again. */
function wider(positions: Float32Array, near: Stencil): Float32Array {
  const points = positions.slice();
  for (let round = 0; round < ROUNDS; round++) {
    const limit = applyStencil(near, points, 3);
    for (let i = 0; i < points.length; i++) points[i]! += positions[i]! - limit[i]!;
  }
  return points;
}

/**
 * The fine faces of coarse ones that others come near when fine points are moved, 1 each; null where there are none. Each coarse face has as many fine ones, in
 * its order.
 */
function closeFaces(coarse: Mesh, fine: Uint32Array, moves: Float32Array): Uint8Array | null {
  const faces = coarse.triangles.length / 3;
  const each = fine.length / coarse.triangles.length;
  const reach = new Float32Array(faces);
  for (let corner = 0; corner < fine.length; corner++) {
    const at = fine[corner]! * 3;
    const far = Math.sqrt(moves[at]! ** 2 + moves[at + 1]! ** 2 + moves[at + 2]! ** 2);
    const face = Math.floor(corner / (3 * each));
    if (far > reach[face]!) reach[face] = far;
  }
  const looked = new Uint8Array(fine.length / 3);
  let any = false;
  eachClosePair(
    coarse,
    (face) => reach[face]!,
    (one, other) => {
      any = true;
      looked.fill(1, one * each, (one + 1) * each).fill(1, other * each, (other + 1) * each);
    },
  );
  return any ? looked : null;
}
