import { describe, expect, it } from 'vitest';
import { ball } from '../mesh/shapes/ball';
import { sheet } from '../mesh/shapes/sheet';
import { fadeMask } from '../shot/fadeMask';
import { blurMask, combineMasks, noiseMask } from '../shot/maskShapes';
import { cornerPoints, grownPoints, sidePoints } from '../shot/selectPoints';
import { borderStretch, nearestBorderPoint } from './borderStretch';
import { everyNth } from './everyNth';
import { insideMesh } from './insideMesh';
import { wholePieces } from './wholePieces';

// Six by four points: the border goes round 0..5, 11, 17, 23..18, 12, 6.
const mesh = sheet({ width: 0.5, height: 0.3, spacing: 0.1 });

describe('selecting', () => {
  it('takes the shorter stretch of a border between two points', () => {
    expect([...borderStretch(mesh, 1, 4)].sort((a, b) => a - b)).toEqual([1, 2, 3, 4]);
    expect([...borderStretch(mesh, 1, 12)].sort((a, b) => a - b)).toEqual([0, 1, 6, 12]);
    expect(borderStretch(mesh, 1, 8)).toEqual([]);
    expect(nearestBorderPoint(mesh, mesh.positions, 8)).toBe(2);
  });

  it('takes every nth along the border, a stretch over its beginning as one', () => {
    expect(everyNth(mesh, [0, 1, 2, 3, 4, 5], 2).length).toBe(3);
    const around = borderStretch(mesh, 2, 12);
    expect(everyNth(mesh, around, 2)).toHaveLength(Math.ceil(around.length / 2));
    expect(everyNth(mesh, [7, 8, 9, 10], 3)).toEqual([7, 10]);
    expect(everyNth(mesh, [0, 5, 18, 23], 1)).toEqual([0, 5, 18, 23]);
  });

  it('takes whole pieces of a cloth that is cut in two', () => {
    const count = mesh.positions.length / 3;
    const two = {
      positions: new Float32Array([...mesh.positions, ...mesh.positions]),
      triangles: new Uint32Array([...mesh.triangles, ...mesh.triangles.map((point) => point + count)]),
    };
    const all = Array.from({ length: 2 * count }, (_, point) => point);
    expect(wholePieces(two, [3])).toEqual(all.slice(0, count));
    expect(wholePieces(two, [count + 1])).toEqual(all.slice(count));
    expect(wholePieces(two, [0, count])).toEqual(all);
    expect(wholePieces(two, [])).toEqual([]);
  });

  it('finds what is inside a mesh', () => {
    const stone = ball({ radius: 0.5, detail: 2 });
    expect(insideMesh(stone, [0, 0, 0, 0.45, 0, 0, 0.55, 0, 0, 0.4, 0.4, 0.4, 9, 9, 9])).toEqual([0, 1]);
  });
});

describe('masks', () => {
  it('fade from the middle of each patch to its edge', () => {
    const fine = sheet({ width: 1, height: 1, spacing: 0.05 });
    const corner = cornerPoints(fine);
    const patches = grownPoints(fine, grownPoints(fine, corner));
    const fade = fadeMask(fine, patches);
    for (const point of corner) expect(fade[point]).toBe(255);
    expect(fade[corner[0]! + 1]).toBe(170);
    expect(fade[corner[0]! + 2]).toBe(85);
    expect(fade[corner[0]! + 3]).toBe(0);
    // A row is nowhere deeper than one point, and a whole cloth has no edge: both are full.
    expect(Math.min(...sidePoints(fine, 'top').map((point) => fadeMask(fine, sidePoints(fine, 'top'))[point]!))).toBe(
      255,
    );
    expect(Math.min(...fadeMask(fine, [...Array(441).keys()]))).toBe(255);
    expect(Math.max(...fadeMask(fine, []))).toBe(0);
  });

  it('are noise by their seed, over most of the range', () => {
    const fine = sheet({ width: 1, height: 1, spacing: 0.02 });
    const noise = noiseMask(fine, 0.1, 3);
    expect(noiseMask(fine, 0.1, 3)).toEqual(noise);
    expect(noiseMask(fine, 0.1, 4)).not.toEqual(noise);
    expect(Math.min(...noise)).toBeLessThan(60);
    expect(Math.max(...noise)).toBeGreaterThan(195);
  });

  it('are blurred without being lost, and combined', () => {
    const spot = new Uint8Array(24);
    spot[8] = 240;
    const soft = blurMask(mesh, spot, 1);
    expect(soft[8]).toBeLessThan(240);
    expect(soft[7]).toBeGreaterThan(0);
    expect(blurMask(mesh, new Uint8Array(24).fill(90), 5)).toEqual(new Uint8Array(24).fill(90));
    const [a, b] = [new Uint8Array([255, 128, 0]), new Uint8Array([128, 128, 128])];
    expect([...combineMasks(a, b, 'multiply')]).toEqual([128, 64, 0]);
    expect([...combineMasks(a, b, 'largest')]).toEqual([255, 128, 128]);
    expect([...combineMasks(a, b, 'take away')]).toEqual([127, 0, 0]);
  });
});
