import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { finishStep } from '../finishStep';
import { cornersOf, limitStencil, loopLevel } from '../loop';
import { applyStencil } from '../stencil';

/** More faces than this are more than a machine can draw. */
const MOST_FACES = 4_000_000;

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
  }),
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
    const through = (values: Float32Array, components: number) =>
      levels.reduce((made, { stencil }) => applyStencil(stencil, made, components), values);
    return {
      mesh: { ...fine, positions: applyStencil(limit, fine.positions, 3) },
      place: (positions) => applyStencil(limit, through(positions, 3), 3),
      carry: (values) => through(values, 1),
    };
  },
});
