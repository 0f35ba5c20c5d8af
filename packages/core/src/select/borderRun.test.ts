import { describe, expect, it } from 'vitest';
import { createCloth } from '../shot/create';
import { shapeMesh } from '../shot/shapes';
import { borderPoints, sidePoints } from '../shot/selectPoints';
import { borderRun } from './borderRun';

describe('borderRun', () => {
  const { shape } = createCloth({ name: 'x', shape: { kind: 'sheet', width: 0.4, height: 0.3, spacing: 0.1 } });
  const mesh = shapeMesh(shape, new Map());
  const side = sidePoints(mesh, 'top');

  it('orders a stretch, in whatever order it is asked for, so that neighbours follow each other', () => {
    const mixed = [side[2]!, side[0]!, side[4]!, side[1]!, side[3]!];
    const run = borderRun(mesh, mixed)!;
    expect(run.ring).toBe(false);
    const along = run.order.map((i) => side.indexOf(mixed[i]!));
    expect([along, [...along].reverse()]).toContainEqual([0, 1, 2, 3, 4]);
  });

  it('knows a whole border', () => {
    const all = borderPoints(mesh);
    expect(borderRun(mesh, all)).toMatchObject({ ring: true });
    expect(borderRun(mesh, all)!.order).toHaveLength(all.length);
  });

  it('finds none where there is a gap, a point inside, or only one', () => {
    expect(
      borderRun(
        mesh,
        side.filter((_, i) => i !== 2),
      ),
    ).toBeNull();
    const border = new Set(borderPoints(mesh));
    const inside = Array.from({ length: 20 }, (_, i) => i).find((point) => !border.has(point))!;
    expect(borderRun(mesh, [...side, inside])).toBeNull();
    expect(borderRun(mesh, [side[0]!])).toBeNull();
    expect(borderRun(mesh, [side[0]!, side[0]!])).toBeNull();
  });
});
