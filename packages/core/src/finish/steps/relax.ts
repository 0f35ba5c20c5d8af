import { z } from 'zod';
import { topology } from '../../mesh/topology';
import { quantity } from '../../quantity/quantity';
import { finishStep, masked, sameFaces } from '../finishStep';

export const relax = finishStep({
  label: 'Relax',
  help: 'Draws edges back to the lengths that they were cut with, where the run has stretched or squeezed them.',
  masked: true,
  schema: z.strictObject({
    kind: z.literal('relax'),
    strength: quantity({
      label: 'Strength',
      help: 'How much of what is wrong each pass takes back.',
      unit: '%',
      min: 0,
      max: 1,
      default: 0.7,
      step: 0.01,
      keyable: true,
    }),
    passes: quantity({
      label: 'Passes',
      help: 'More reach farther.',
      unit: '',
      min: 1,
      max: 100,
      default: 10,
      step: 1,
      whole: true,
    }),
    keepsBorders: z.boolean().default(true).describe('Whether borders stay where they are.'),
  }),
  words: { keepsBorders: 'borders stay' },
  build: (mesh) => {
    const t = topology(mesh);
    const points = mesh.positions.length / 3;
    const lengths = new Float64Array(t.edgeCount);
    const weight = new Uint16Array(points);
    const isBorder = new Uint8Array(points);
    for (let edge = 0; edge < t.edgeCount; edge++) {
      const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
      lengths[edge] = distance(mesh.positions, a, b);
      weight[a]!++;
      weight[b]!++;
      if (t.edgeFaces[edge * 2 + 1]! < 0) isBorder[a] = isBorder[b] = 1;
    }
    return sameFaces(mesh, (positions, { strength, passes, keepsBorders }, mask) => {
      const at = positions.slice();
      for (let pass = 0; pass < passes; pass++) {
        const moves = new Float64Array(at.length);
        for (let edge = 0; edge < t.edgeCount; edge++) {
          const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
          const now = distance(at, a, b);
          if (!(now > 0)) continue;
          const share = (strength * (now - lengths[edge]!)) / (2 * now);
          for (let axis = 0; axis < 3; axis++) {
            const move = share * (at[b * 3 + axis]! - at[a * 3 + axis]!);
            moves[a * 3 + axis]! += move;
            moves[b * 3 + axis]! -= move;
          }
        }
        for (let i = 0; i < at.length; i++) {
          const point = Math.floor(i / 3);
          // The mean of what its edges ask for, twice, never moves past them.
          if (!(keepsBorders && isBorder[point])) at[i]! += (2 * moves[i]!) / Math.max(2, weight[point]!);
        }
      }
      return masked(positions, at, mask);
    });
  },
});

function distance(p: Float32Array, a: number, b: number): number {
  const x = p[b * 3]! - p[a * 3]!;
  const y = p[b * 3 + 1]! - p[a * 3 + 1]!;
  const z = p[b * 3 + 2]! - p[a * 3 + 2]!;
  return Math.sqrt(x * x + y * y + z * z);
}
