import { describe, expect, it } from 'vitest';
import { createCloth, createCollider, createShot } from '../shot/create';
import type { Collider } from '../shot/schema';
import { Solver } from '../solver/solver';
import { compile } from './compile';
import { modelBytes, MOST_BYTES, neededBytes, requireRoom } from './neededBytes';

const collider = (kind: string, more: object = {}): Collider =>
  createCollider({ name: kind, shape: { kind } as never, position: [0, 0.3, 0], ...more });

describe('the memory that a run needs', () => {
  it.each<[string, Collider[]]>([
    ['cloth alone', []],
    ['exact bodies', [collider('ground'), collider('ball'), collider('box')]],
    ['a mesh', [collider('knot')]],
    [
      'a mesh that changes its shape',
      [
        collider('knot', {
          keys: [
            {
              number: 'shape.radius',
              knots: [
                { frame: 1, value: 0.1 },
                { frame: 9, value: 0.2 },
              ],
            },
          ],
        }),
      ],
    ],
    ['many colliders', Array.from({ length: 12 }, () => collider('cone'))],
  ])('is told beforehand to a seventh: %s', (_, colliders) => {
    const shape = { kind: 'sheet', width: 1, height: 1, spacing: 0.012 } as const;
    const shot = createShot({
      name: 'Room',
      things: [createCloth({ name: 'Sheet', shape, position: [0, 1, 0] }), ...colliders],
    });
    const model = compile(shot, new Map());
    const { bytes } = new Solver(model);
    expect(Math.abs(modelBytes(model) / bytes - 1)).toBeLessThan(1 / 7);
  });

  it('is refused where it is not to be had, before anything is built', () => {
    const model = compile(createShot({ name: 'Room', things: [createCloth({ name: 'Sheet' })] }), new Map());
    expect(() => requireRoom(model)).not.toThrow();
    const points = Math.ceil(MOST_BYTES / neededBytes(1, [])) + 1;
    const rest = { ...model.cloths[0]!.rest, positions: { length: points * 3 } as Float32Array };
    expect(() => requireRoom({ ...model, cloths: [{ ...model.cloths[0]!, rest }] })).toThrow(/needs about 3\.6 GB/);
  });
});
