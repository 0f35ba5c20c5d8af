import { describe, expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { sheet } from '../mesh/shapes/sheet';
import { FinishList } from './finishCloth';
import type { FinishGiven } from './finishStep';
import { finishEntrySchema } from './steps';

const coarse = sheet({ width: 0.6, height: 0.4, spacing: 0.05 });
const entry = (thing: string | null) => finishEntrySchema.parse({ id: 's', step: { kind: 'carry', thing } });
const none = () => null;

/** The cloth somewhere in the world, where it starts. */
const moved = (p: Float32Array, by: readonly number[]) => p.map((value, i) => value + by[i % 3]!);
const PLACE = [0.3, 1.2, -0.4];
const start = moved(coarse.positions, PLACE);

/** Places that are turned about z and then bent round a cylinder along x, of a radius in m. */
function bent(p: Float32Array, radius: number, angle = 0.7): Float32Array {
  const out = p.slice();
  for (let i = 0; i < p.length; i += 3) {
    const [x, y, z] = [p[i]! - PLACE[0]!, p[i + 1]! - PLACE[1]!, p[i + 2]! - PLACE[2]!];
    const [u, v] =
      radius === Infinity
        ? [x, y]
        : [(radius - y) * Math.sin(x / radius), radius - (radius - y) * Math.cos(x / radius)];
    out[i] = Math.cos(angle) * u - Math.sin(angle) * v;
    out[i + 1] = Math.sin(angle) * u + Math.cos(angle) * v;
    out[i + 2] = z;
  }
  return out;
}

function carried(mesh: Mesh, to: Float32Array): Float32Array {
  const given: FinishGiven = { start, meshes: new Map([['fine', mesh]]) };
  const list = new FinishList(coarse, [entry('fine')], given);
  expect(list.mesh).toBe(mesh);
  return list.place(to, [entry('fine')], none);
}
const farthest = (a: Float32Array, b: Float32Array) => Math.max(...a.map((value, i) => Math.abs(value - b[i]!)));

describe('a mesh that is carried by cloth', () => {
  it('is the cloth itself where it is the same, within 1e-6 m', () => {
    const same: Mesh = { ...coarse, positions: start };
    for (const radius of [0.15, 0.5, Infinity]) {
      expect(farthest(carried(same, bent(start, radius)), bent(start, radius))).toBeLessThan(1e-6);
    }
  });

  it('keeps how it lies off the cloth where that is turned and moved', () => {
    const fine = sheet({ width: 0.6, height: 0.4, spacing: 0.013 });
    const above: Mesh = { ...fine, positions: moved(fine.positions, [PLACE[0]!, PLACE[1]! + 0.02, PLACE[2]!]) };
    expect(farthest(carried(above, bent(start, Infinity)), bent(above.positions, Infinity))).toBeLessThan(1e-6);
  });

  it('goes along where cloth bends, finely meshed and off its surface', () => {
    const fine = sheet({ width: 0.58, height: 0.38, spacing: 0.01 });
    const above: Mesh = { ...fine, positions: moved(fine.positions, [PLACE[0]!, PLACE[1]! + 0.01, PLACE[2]!]) };
    // The cloth’s own edges are chords: 0.05 m of them are 1 mm off a circle of 0.3 m.
    expect(farthest(carried(above, bent(start, 0.3)), bent(above.positions, 0.3))).toBeLessThan(0.0025);
  });

  it('takes masks along, and the steps before it', () => {
    const fine = sheet({ width: 0.58, height: 0.38, spacing: 0.02 });
    const mesh: Mesh = { ...fine, positions: moved(fine.positions, PLACE) };
    const thick = finishEntrySchema.parse({
      id: 't',
      mask: 'm',
      step: { kind: 'thicken', thickness: 0.01, way: 'outwards' },
    });
    const fineSub = finishEntrySchema.parse({ id: 'd', step: { kind: 'subdivide', times: 1 } });
    const entries = [fineSub, entry('fine'), thick];
    const list = new FinishList(coarse, entries, { start, meshes: new Map([['fine', mesh]]) });
    // Nothing of the thickness where the mask is nothing.
    const thin = list.place(start, entries, () => new Float32Array(coarse.positions.length / 3));
    const full = list.place(start, entries, () => new Float32Array(coarse.positions.length / 3).fill(1));
    const high = (p: Float32Array) => Math.max(...p.filter((_, i) => i % 3 === 1));
    expect(high(full) - high(thin)).toBeGreaterThan(0.005);
  });

  it('says what is missing', () => {
    expect(() => new FinishList(coarse, [entry(null)])).toThrow(/choose the mesh/);
    expect(() => new FinishList(coarse, [entry('gone')])).toThrow(/no longer in the shot/);
  });
});
