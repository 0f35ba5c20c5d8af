import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../fabric/fabric';
import type { Mesh } from '../mesh/mesh';
import { makePiece, newNode, rectangleNodes } from '../pattern/makePiece';
import { patternMesh } from '../pattern/patternMesh';
import { lineSchema, type Pattern } from '../pattern/schema';
import { bendTest } from './bendTest';

/** The flanks of pleats are so wide, in m. */
const FLANK = 0.013;

/** A strip that is creased across as pleats are, from its clamp on, but lies flat: only how it is meshed is another. */
const creased =
  (weave: Pattern['weave']) =>
  (free: number, wide: number, spacing: number): Mesh => {
    const [length, width] = [free + spacing, Math.round(wide / spacing) * spacing];
    const clamp = spacing - length / 2;
    const across = Array.from({ length: Math.floor(length / FLANK) }, (_, i) => clamp + i * FLANK).filter(
      (u) => u < length / 2 - spacing,
    );
    const piece = makePiece({
      ...{ name: 'Strip', outline: rectangleNodes(length, width), grain: 0, rotation: [-Math.PI / 2, 0, 0] },
      lines: across.map((u, i) =>
        lineSchema.parse({ id: `line-${i}`, nodes: [newNode([u, -width / 2]), newNode([u, width / 2])] }),
      ),
    });
    const { positions, triangles, material } = patternMesh({ spacing, weave, pieces: [piece], seams: [] });
    return { positions, triangles, material: material! };
  };

describe('the flanks of pleats', () => {
  // Before creases were lines of the grid, and what goes across them was measured in rows of three points, 0.84 to 0.90 along the grain.
  it.each([
    ['all directions', 'an even fabric', 2e-5],
    ['along the grain', 'an even fabric', 2e-5],
    ['along the grain', 'a warp of three times the weft', 6e-5],
  ] as const)('bend as the fabric says within a tenth, in a mesh %s: %s', { timeout: 60_000 }, (weave, _, bendWarp) => {
    const fabric = fabricSchema.parse({ weight: 0.2, bendWarp, bendWeft: 2e-5, damping: 0.05 });
    const test = bendTest(fabric, {
      ...{ direction: 'warp', spacing: 0.003, width: 0.044, honoured: 0.95 },
      cut: creased(weave),
    });
    expect(Math.abs(test.rigidity / test.predictedRigidity - 1)).toBeLessThan(0.1);
  });
});
