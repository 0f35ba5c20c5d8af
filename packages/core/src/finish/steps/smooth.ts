import { z } from 'zod';
import type { Mesh } from '../../mesh/mesh';
import { topology } from '../../mesh/topology';
import { quantity } from '../../quantity/quantity';
import { finishStep, masked, sameFaces } from '../finishStep';

/** What takes back the shrinking of a pass, as Taubin 1995 “A signal processing approach to fair surface design” has it. */
const BACK = -1.06;

export const smooth = finishStep({
  label: 'Smooth',
  help: 'Takes out what is finer than the folds: trembling, and the grain of the mesh.',
  masked: true,
  schema: z.strictObject({
    kind: z.literal('smooth'),
    strength: quantity({
      label: 'Strength',
      help: 'How far each pass takes a point to the middle of its neighbours.',
      unit: '%',
      min: 0,
      max: 1,
      default: 0.5,
      step: 0.01,
      keyable: true,
    }),
    passes: quantity({
      label: 'Passes',
      help: 'More reach farther.',
      unit: '',
      min: 1,
      max: 50,
      default: 3,
      step: 1,
      whole: true,
    }),
    keepsBorders: z.boolean().default(true).describe('Whether borders stay where they are.'),
    keepsVolume: z
      .boolean()
      .default(true)
      .describe('Whether folds keep their depth: what a pass shrinks is taken back.'),
  }),
  words: { keepsBorders: 'borders stay', keepsVolume: 'folds keep their depth' },
  build: (mesh) => {
    const { starts, others, isBorder } = neighbours(mesh);
    return sameFaces(mesh, (positions, { strength, passes, keepsBorders, keepsVolume }, mask) => {
      let from = positions;
      const pass = (share: number) => {
        const to = from.slice();
        for (let i = 0; i < starts.length - 1; i++) {
          const count = starts[i + 1]! - starts[i]!;
          if (count === 0 || (keepsBorders && isBorder[i])) continue;
          for (let axis = 0; axis < 3; axis++) {
            let sum = 0;
            for (let k = starts[i]!; k < starts[i + 1]!; k++) sum += from[others[k]! * 3 + axis]!;
            to[i * 3 + axis] = from[i * 3 + axis]! + share * (sum / count - from[i * 3 + axis]!);
          }
        }
        from = to;
      };
      for (let n = 0; n < passes; n++) {
        pass(strength);
        if (keepsVolume) pass(strength * BACK);
      }
      return masked(positions, from, mask);
    });
  },
});

/** Neighbours of each point; of a border point those along the border, so that it is smoothed as a curve. */
function neighbours(mesh: Mesh): { starts: Uint32Array; others: Uint32Array; isBorder: Uint8Array } {
  const t = topology(mesh);
  const points = mesh.positions.length / 3;
  const isBorder = new Uint8Array(points);
  const onBorder = (edge: number) => t.edgeFaces[edge * 2 + 1]! < 0;
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (onBorder(edge)) isBorder[t.edgePoints[edge * 2]!] = isBorder[t.edgePoints[edge * 2 + 1]!] = 1;
  }
  const around: number[][] = Array.from({ length: points }, () => []);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    if (!isBorder[a] || onBorder(edge)) around[a]!.push(b);
    if (!isBorder[b] || onBorder(edge)) around[b]!.push(a);
  }
  const starts = new Uint32Array(points + 1);
  around.forEach((list, i) => (starts[i + 1] = starts[i]! + list.length));
  return { starts, others: Uint32Array.from(around.flat()), isBorder };
}
