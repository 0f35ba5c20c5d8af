import { z } from 'zod';
import { quantity } from '../../quantity/quantity';
import { finishStep } from '../finishStep';

const shift = (label: string, thread: string) =>
  quantity({
    label,
    help: `How much further the print lies along the ${thread}.`,
    ...{ unit: 'cm' as const, min: -10, max: 10, default: 0, step: 0.001 },
  });

export const print = finishStep({
  label: 'Print',
  help: 'Lays the print elsewhere on the finished cloth, in the view and in files. What it looks like is set at Fabric.',
  schema: z.strictObject({
    kind: z.literal('print'),
    along: shift('Shift along', 'warp'),
    across: shift('Shift across', 'weft'),
    turn: quantity({
      label: 'Turn',
      help: 'How much further the print is turned, about the beginning of its first repeat.',
      ...{ unit: '°' as const, min: -Math.PI, max: Math.PI, default: 0, step: Math.PI / 180 },
    }),
  }),
  build: (mesh, { along, across, turn }) => {
    const { material } = mesh;
    if (!material)
      throw new RangeError('Print: this mesh does not say where on the fabric its points are. Take the step away.');
    // The places on the fabric are moved, not what is printed: lengths along the fabric stay, for the steps after it.
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const moved = new Float32Array(material.length);
    for (let i = 0; i < material.length; i += 2) {
      const [u, v] = [material[i]! - along, material[i + 1]! - across];
      moved[i] = c * u + s * v;
      moved[i + 1] = c * v - s * u;
    }
    return { mesh: { ...mesh, material: moved }, place: (positions) => positions, carry: (values) => values };
  },
});
