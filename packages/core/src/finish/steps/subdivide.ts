import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { finishStep } from '../finishStep';
import { cornersOf, limitStencil, loopLevel } from '../loop';
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
  }),
  words: { keepsPoints: 'goes through the simulated points' },
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
      place: (positions, { keepsPoints }) =>
        applyStencil(limit, through(keepsPoints ? wider(positions, near) : positions, 3), 3),
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
