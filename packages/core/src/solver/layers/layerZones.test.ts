import { describe, expect, it } from 'vitest';
import { sheet } from '../../mesh/shapes/sheet';
import { KernelMemory } from '../kernelMemory';
import { LayerContact } from './layerContact';

/** A repeatable stream of numbers from -1 to 1. */
function stream(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 31 - 1;
  };
}

const GAP = 0.0001;
const LAYERS = 10;

/** A stack of small sheets, the lowest and the highest held, in the middle of a substep that moved and pushed its points anyhow. */
function squashed(seed: number, { motion, pushed }: { motion: number; pushed: number }) {
  const next = stream(seed);
  const memory = new KernelMemory();
  const rest = sheet({ width: 0.08, height: 0.08, spacing: 0.02 });
  const each = rest.positions.length / 3;
  const total = each * LAYERS;
  const array = () => memory.allocate((total + 1) * 16);
  const [points, displacement, residual, start] = [array(), array(), array(), array()];
  const values = [points, displacement, residual].map((address) => memory.floats(address, total * 4));
  for (let layer = 0; layer < LAYERS; layer++) {
    const held = layer === 0 || layer === LAYERS - 1;
    for (let i = 0; i < each; i++) {
      const at = (layer * each + i) * 4;
      for (let axis = 0; axis < 3; axis++) values[0]![at + axis] = rest.positions[i * 3 + axis]!;
      values[0]![at + 1] = layer * GAP;
      values[0]![at + 3] = held ? 0 : 1e4;
      if (held) continue;
      for (let axis = 0; axis < 3; axis++) {
        const push = pushed * next();
        values[1]![at + axis] = motion * next() + push;
        values[2]![at + axis] = push;
      }
    }
  }
  const layers = Array.from({ length: LAYERS }, (_, layer) => ({
    ...{ rest, apart: null, firstPoint: layer * each, points: each },
    ...{ thickness: 0.002, farthest: 0.002, friction: 0.3 },
  }));
  const meeting = layers.map((_, c) => ({ id: `${c}`, touchesItself: true }));
  const addresses = { count: total, points, displacement, residual, start };
  const contact = new LayerContact(memory, layers, { cloths: meeting, pairs: [] }, addresses);
  return { memory, contact, points, displacement, residual, each, total };
}

describe('zones', () => {
  it('are rigid where their points were pushed out by different amounts', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const { memory, contact, points, displacement, residual, total } = squashed(seed, {
        motion: 0.005,
        pushed: 0.005,
      });
      const { takeBack } = contact.solve(0.0001, () => undefined);
      const counts = contact.counts();
      expect(counts.zonePoints, `squash ${seed}`).toBeGreaterThan(0);
      expect(takeBack, `squash ${seed}`).toBe(false);
      memory.run.finish(points, displacement, residual, residual, memory.allocate((total + 1) * 16), total, 0.001);
      expect(contact.crossings().count, `squash ${seed}`).toBe(0);
    }
  });

  it('leave held points where they are held, each on its own way', () => {
    const { memory, contact, displacement, each, total } = squashed(1, { motion: 0.005, pushed: 0 });
    const next = stream(7);
    const held = [...Array(total).keys()].filter((i) => i < each || i >= total - each);
    const moved = memory.floats(displacement, total * 4);
    const given = held.map((i) => (moved[i * 4] = 0.0005 * next()));
    contact.solve(0.0001, () => undefined);
    expect(contact.counts().zonePoints).toBeGreaterThan(each);
    const after = memory.floats(displacement, total * 4);
    held.forEach((i, n) => expect(after[i * 4]).toBe(Math.fround(given[n]!)));
  });
});

// Of both the end that was held could not be moved, and the free ones were not: they passed each other.
it('edges that are held at one end each do not pass each other', () => {
  const NEAR = 0.02;
  const next = stream(3);
  for (let trial = 0; trial < 50; trial++) {
    const memory = new KernelMemory();
    const array = () => memory.allocate(7 * 16);
    const [points, displacement, residual, start] = [array(), array(), array(), array()];
    const gap = 0.00002 * (2 + next());
    // One edge along x with its face above, one along z with its face below, that pass over each other near their first points, which are held.
    const places = [
      ...[0, gap, 0, 0.02, gap, 0, 0.01, 0.02, 0],
      ...[NEAR * 0.02, 0, -NEAR * 0.02, NEAR * 0.02, 0, (1 - NEAR) * 0.02, 0.01, -0.02, 0],
    ];
    const values = [points, displacement].map((address) => memory.floats(address, 24));
    for (let i = 0; i < 6; i++) {
      values[0]!.set(places.slice(i * 3, i * 3 + 3), i * 4);
      const held = i % 3 === 0;
      values[0]![i * 4 + 3] = held ? 0 : 1e4;
      // Each free point goes towards the other edge.
      if (!held) values[1]![i * 4 + 1] = (i < 3 ? -1 : 1) * 0.004 * (1.5 + next());
    }
    const cloths = [0, 1].map((which) => {
      const positions = Float32Array.from(places.slice(which * 9, which * 9 + 9));
      const rest = { positions, triangles: Uint32Array.of(0, 1, 2) };
      return {
        rest,
        apart: null,
        firstPoint: which * 3,
        points: 3,
        thickness: 0.002,
        farthest: 0.002,
        friction: 0.3,
      };
    });
    const meeting = cloths.map((_, c) => ({ id: `${c}`, touchesItself: true }));
    const addresses = { count: 6, points, displacement, residual, start };
    const contact = new LayerContact(memory, cloths, { cloths: meeting, pairs: [] }, addresses);
    const { takeBack } = contact.solve(0.0001, () => undefined);
    expect(takeBack).toBe(false);
    memory.run.finish(points, displacement, residual, residual, memory.allocate(7 * 16), 6, 0.001);
    const moved = memory.floats(points, 24);
    const height = (a: number, b: number) => (1 - NEAR) * moved[a * 4 + 1]! + NEAR * moved[b * 4 + 1]!;
    expect(height(0, 1) - height(3, 4), `trial ${trial}`).toBeGreaterThan(0);
  }
});
