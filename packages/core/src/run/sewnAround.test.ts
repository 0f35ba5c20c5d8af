import { describe, expect, it } from 'vitest';
import { mirroredPiece, sew } from '../pattern/editPattern';
import { makePiece, newNode } from '../pattern/makePiece';
import { createCloth, createCollider, createShot } from '../shot/create';
import type { Shot } from '../shot/schema';
import type { PatternShape } from '../shot/shapes';
import { BakeRun } from './bakeRun';
import { frames } from './sewnShots';

/** Half of a shirt with short sleeves, from the right of its hem around; its neck, hem and cuffs stay open. */
const OUTLINE: [number, number][] = [
  [-0.22, -0.35],
  [0.22, -0.35],
  [0.24, 0.12],
  [0.42, -0.02],
  [0.5, 0.12],
  [0.26, 0.3],
  [0.1, 0.34],
  [0, 0.28],
  [-0.1, 0.34],
  [-0.26, 0.3],
  [-0.5, 0.12],
  [-0.42, -0.02],
  [-0.24, 0.12],
];
const OPEN = [0, 3, 6, 7, 10];

/** Two halves of a shirt before and behind a body with two arms, which nothing holds. */
function shirtShot(): Shot {
  const place = { position: [0, 0.98, 0.135] as [number, number, number] };
  const outline = OUTLINE.map((at, i) => ({ ...newNode(at), id: `f${i}` }));
  const front = makePiece({ id: 'f', name: 'Front', outline, ...place });
  const back = { ...mirroredPiece(front, 'Back'), position: [0, 0.98, -0.135] as [number, number, number] };
  back.rotation = [0, Math.PI, 0];
  const shape: PatternShape = {
    ...{ kind: 'pattern', spacing: 0.018, weave: 'all directions', closing: 24, pieces: [front, back], seams: [] },
  };
  const nodeAt = ([u, v]: [number, number]) =>
    back.outline.find(({ at }) => Math.hypot(at[0] + u, at[1] - v) < 1e-9)!.id;
  OUTLINE.forEach((at, i) => {
    if (OPEN.includes(i)) return;
    const next = (i + 1) % OUTLINE.length;
    const own = { piece: 'f', from: `f${i}`, to: `f${next}` };
    // Seen in the mirror the border runs the other way.
    sew(shape, own, { piece: back.id, from: nodeAt(OUTLINE[next]!), to: nodeAt(at) });
  });
  const body = createCollider({
    ...{ id: 'body', name: 'Body', shape: { kind: 'capsule', radius: 0.12, height: 0.84 }, position: [0, 0.86, 0] },
  });
  const arms = [-1, 1].map((side) =>
    createCollider({
      ...{ id: `arm${side + 1}`, name: 'Arm', shape: { kind: 'capsule', radius: 0.03, height: 0.5 } },
      ...{ position: [side * 0.32, 1.12, 0], rotation: [0, 0, side * 0.95] },
    }),
  );
  const cloth = createCloth({ id: 'shirt', name: 'Shirt', card: 'cotton-jersey', shape });
  return createShot({ name: 'x', things: [body, ...arms, cloth], lastFrame: 48 });
}

// Its sleeves closed onto the arms, which went through them: stretched by 65 %; with its weight it had fallen off before.
describe('a shirt of two halves that nothing holds', () => {
  it('is sewn around a body and its arms, and hangs on its shoulders', { timeout: 120_000 }, () => {
    const baked = frames(new BakeRun(shirtShot(), new Map()), 30);
    for (const { stats } of baked) expect([stats.crossings, stats.pierced]).toEqual([0, 0]);
    // Nor is it told that cloth is inside where only the web in a seam is.
    for (const { stats } of baked) expect(stats.deepest).toBeLessThan(0.0005);
    for (const { stats } of baked.slice(25)) expect(stats.falseStretch).toBeLessThan(0.03);
    const heights = baked.at(-1)!.positions[0]!.filter((_, i) => i % 3 === 1);
    // From its hem, 5 cm lower than where it was placed at most, to above the body's shoulders.
    expect(Math.min(...heights)).toBeGreaterThan(0.58);
    expect(Math.max(...heights)).toBeGreaterThan(1.28);
    expect(baked.at(-1)!.stats.fastest).toBeLessThan(1);
  });
});
