import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { sheet } from '../../mesh/shapes/sheet';
import { place } from '../../mesh/place';
import { loosestAnywhere } from './loosest';
import type { ClothModel } from '../model';
import { Solver } from '../solver';

const fabric = fabricSchema.parse({ restWarp: 0.9, restWeft: 1.2, stretchWarp: 1000, stretchWeft: 500 });
const rest = sheet({ width: 0.4, height: 0.08, spacing: 0.02 });
const faces = rest.triangles.length / 3;
const model = (given: Partial<ClothModel>): ClothModel => ({
  id: 'c',
  rest,
  positions: rest.positions,
  fabric,
  held: [],
  ...given,
});

describe('the loosest that cloth can be anywhere', () => {
  it('is its fabric without keys and masks', () => {
    const { restWarp, restWeft, stretchWarp, stretchWeft } = fabric;
    expect(loosestAnywhere(model({}), fabric)).toMatchObject({ restWarp, restWeft, stretchWarp, stretchWeft });
  });

  it('is 100 % where a mask takes a tautness away, and the least stretch that one leaves', () => {
    const half = new Float32Array(faces).fill(1);
    half[3] = 0.25;
    const loose = loosestAnywhere(model({ scales: { restWarp: half, restWeft: half, stretchWarp: half } }), fabric);
    expect(loose).toEqual({ weight: fabric.weight, restWarp: 1, restWeft: 1.2, stretchWarp: 250, stretchWeft: 500 });
  });

  it('reckons with nothing where a mask travels', () => {
    const scales = { stretchWeft: new Float32Array(faces).fill(1) };
    const loose = loosestAnywhere(model({ scales, scalesAt: () => scales }), fabric);
    expect(loose.stretchWarp).toBe(1000);
    expect(loose.stretchWeft).toBeLessThan(5);
  });
});

it('a hung strip that a mask makes stretchy stretches as one of stretchy fabric, attachments or not', () => {
  const hung = place(rest, { position: [0, 0, 0], rotation: [0, 0, -Math.PI / 2] });
  const top = Math.max(...hung.positions.filter((_, i) => i % 3 === 1));
  const held = [...Array(rest.positions.length / 3).keys()].filter((i) => hung.positions[i * 3 + 1]! > top - 1e-6);
  const length = (given: Partial<ClothModel>) => {
    const solver = new Solver({
      cloths: [model({ positions: hung.positions, held, ...given })],
      colliders: [],
      air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
    });
    for (let frame = 0; frame < 30; frame++) {
      solver.advance(1 / 24, 60);
      solver.calm(0.7);
    }
    return top - Math.min(...solver.positions(0).filter((_, i) => i % 3 === 1));
  };
  const plain = fabricSchema.parse({ stretchWarp: 200 });
  const soft = fabricSchema.parse({ stretchWarp: 10 });
  const masked = length({ fabric: plain, scales: { stretchWarp: new Float32Array(faces).fill(0.05) } });
  expect(masked).toBeGreaterThan(1.02 * length({ fabric: plain }));
  expect(masked).toBeCloseTo(length({ fabric: soft }), 4);
});
