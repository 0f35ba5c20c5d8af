import { produce } from 'immer';
import { describe, expect, it } from 'vitest';
import { createCloth, createPinSet, createShot } from '../shot/create';
import { followShapes } from '../shot/followShapes';
import { readShot } from '../shot/readShot';
import type { Cloth, Shot } from '../shot/schema';
import type { PatternShape } from '../shot/shapes';
import { discNodes, makePiece, rectangleNodes } from './makePiece';
import { patternMesh } from './patternMesh';

/** Of the mesh as it was made before. */
const SUMS = [551, 988, 2234.9795363284647, 6185473];

const piece = makePiece({
  ...{ id: 'p', name: 'Piece', outline: rectangleNodes(0.5, 0.4).map((node, i) => ({ ...node, id: `p${i}` })) },
  holes: [discNodes(0.08).map((node, i) => ({ ...node, id: `h${i}` }))],
});
const shape: PatternShape = {
  ...{ kind: 'pattern', spacing: 0.02, weave: 'all directions', closing: 24 },
  ...{ pieces: [piece], seams: [] },
};
const first: PatternShape = { ...shape, mesher: 'first' };

/** Sums that tell meshes apart: of places, and of points by where they stand among the triangles. */
const sums = (of: PatternShape) => {
  const { material, triangles } = patternMesh(of);
  return [
    material!.length / 2,
    triangles.length / 3,
    material!.reduce((sum, value, i) => sum + value * ((i % 17) + 1), 0),
    triangles.reduce((sum, point, i) => (sum + point * ((i % 13) + 1)) % 1e9, 0),
  ];
};

function shotOf(own: PatternShape): Shot {
  const mesh = patternMesh(own);
  const right = Array.from({ length: mesh.positions.length / 3 }, (_, i) => i).filter(
    (i) => mesh.positions[i * 3]! > 0.2499,
  );
  const cloth = createCloth({ name: 'Cloth', shape: own, pinSets: [createPinSet({ name: 'Right', points: right })] });
  return createShot({ name: 'x', things: [cloth] });
}

const clothOf = (shot: Shot) => shot.things[0] as Cloth & { shape: PatternShape };

function edited(shot: Shot, recipe: (shape: PatternShape) => void): Cloth & { shape: PatternShape } {
  return clothOf(
    produce(shot, (draft) => {
      recipe(clothOf(draft as Shot).shape);
      followShapes(draft as Shot, shot, new Map());
    }),
  );
}

describe('a pattern of before version 4', () => {
  it('is meshed as it was then, to the bit', () => {
    expect(sums(first)).toEqual(SUMS);
    expect(sums(shape)).not.toEqual(SUMS);
  });

  it('is told by its version, and by nothing in a new one', () => {
    const shot = JSON.parse(JSON.stringify(shotOf(shape))) as Record<string, unknown>;
    expect(clothOf(readShot({ ...shot, version: 3 })).shape.mesher).toBe('first');
    expect('mesher' in clothOf(readShot(shot)).shape).toBe(false);
  });

  it('keeps its mesh where its pieces are only moved, and its pins their points', () => {
    const shot = shotOf(first);
    const moved = edited(shot, ({ pieces }) => void (pieces[0]!.position = [0, 1, 0]));
    expect(moved.shape.mesher).toBe('first');
    expect(moved.pinSets[0]!.points).toEqual(clothOf(shot).pinSets[0]!.points);
  });

  it('is meshed as new ones are once it is cut otherwise, and its pins stay at their places', () => {
    const cut = edited(shotOf(first), (own) => void (own.spacing = 0.018));
    expect('mesher' in cut.shape).toBe(false);
    const { positions } = patternMesh(cut.shape);
    expect(cut.pinSets[0]!.points.length).toBeGreaterThan(20);
    for (const point of cut.pinSets[0]!.points) expect(positions[point * 3]).toBeCloseTo(0.25, 5);
  });
});
