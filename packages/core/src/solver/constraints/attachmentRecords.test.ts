import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { sheet } from '../../mesh/shapes/sheet';
import { topology } from '../../mesh/topology';
import { KernelMemory } from '../kernelMemory';
import { buildAttachments, setAttachments } from './attachmentRecords';

const rest = sheet({ width: 0.5, height: 0.4, spacing: 0.05 });
const t = topology(rest);
const FIRST = 7;
/** The middle of the left side, and of the top. */
const held = [
  [-0.25, 0],
  [0, -0.2],
].map(([x, z]) =>
  Array.from({ length: rest.positions.length / 3 }, (_, i) => i).reduce((best, point) => {
    const off = (of: number) => Math.hypot(rest.positions[of * 3]! - x!, rest.positions[of * 3 + 2]! - z!);
    return off(point) < off(best) ? point : best;
  }),
);

function pinned(restWarp: number) {
  return { rest, held, acceleration: 9.81, fabric: fabricSchema.parse({ restWarp }) };
}

function recordsOf(memory: KernelMemory, { address, count }: { address: number; count: number }) {
  return { offsets: [...memory.integers(address, count * 4)], values: [...memory.floats(address, count * 4)] };
}

describe('attachments over a distance', () => {
  it('lead to each group of held points, the nearest one first', () => {
    const memory = new KernelMemory();
    const attachments = buildAttachments(memory, pinned(1), t, FIRST);
    const points = rest.positions.length / 3;
    expect(attachments).toMatchObject({ count: 2 * (points - 2), groups: 2 });
    const { offsets, values } = recordsOf(memory, attachments);
    for (let i = 0; i < points - 2; i++)
      expect(values[i * 4 + 2]).toBeLessThanOrEqual(values[(i + points - 2) * 4 + 2]! + 1e-7);
    const own = held.map((point) => (FIRST + point) * 16);
    for (let i = 0; i < attachments.count; i++) expect(own).toContain(offsets[i * 4 + 1]);
    // From one held point to the other, as the crow flies over the flat cloth.
    expect(attachments.between).toHaveLength(2);
    for (const { distance } of attachments.between) expect(distance).toBeCloseTo(Math.hypot(0.25, 0.2), 4);
  });

  it('are as of a cloth made anew where a changed rest size makes another held point the nearest', () => {
    const memory = new KernelMemory();
    const attachments = buildAttachments(memory, pinned(1), t, FIRST);
    const before = recordsOf(memory, attachments);
    setAttachments(memory, attachments, pinned(1.4), t, FIRST);
    const other = new KernelMemory();
    const anew = buildAttachments(other, pinned(1.4), t, FIRST);
    expect(recordsOf(memory, attachments)).toEqual(recordsOf(other, anew));
    expect(attachments.between).toEqual(anew.between);
    expect(recordsOf(memory, attachments).offsets).not.toEqual(before.offsets);
  });
});
