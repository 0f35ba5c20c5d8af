import { describe, expect, it } from 'vitest';
import { closedSeams } from '../../mesh/closeSeams';
import type { Mesh } from '../../mesh/mesh';
import { patternMesh } from '../../pattern/patternMesh';
import { BakeRun } from '../../run/bakeRun';
import { frames, rectangle, side } from '../../run/sewnShots';
import { createCloth, createPinSet, createShot } from '../../shot/create';
import type { PatternShape } from '../../shot/shapes';
import { gatheredFaces } from './gatheredFaces';

/** A band of 20 cm, and below it a piece that is sewn to it and so many times as wide. */
function banded(times: number, weave: PatternShape['weave'] = 'along the grain'): PatternShape {
  return {
    ...{ kind: 'pattern', spacing: 0.014, weave, closing: 12 },
    pieces: [
      rectangle('f', 0.2, 0.07, { position: [0, 1.2, 0] }),
      rectangle('g', 0.2 * times, 0.15, { position: [0, 1.05, 0.02] }),
    ],
    seams: [{ id: 's', a: side('f', 0), b: side('g', 2), turned: false }],
  };
}

const inPiece = (mesh: Mesh, face: number, piece: number) => {
  const { first, count } = mesh.parts![piece]!;
  const point = mesh.triangles[face * 3]!;
  return point >= first && point < first + count;
};

describe('faces that are gathered at a seam', () => {
  it('are those of the longer border that have a point in it, open and closed alike', () => {
    const open = patternMesh(banded(2));
    const gathered = gatheredFaces(open)!;
    const inSeam = (face: number) => {
      return [0, 1, 2].some((corner) => {
        const point = open.triangles[face * 3 + corner]!;
        return open.sewn![point] !== point || open.sewn!.some((first, other) => first === point && other !== point);
      });
    };
    gathered.forEach((is, face) => expect(is === 1, `face ${face}`).toBe(inPiece(open, face, 1) && inSeam(face)));
    expect(gatheredFaces(closedSeams(open)!.mesh)).toEqual(gathered);
  });

  it('are none where both borders are as long, and in cloth without seams', () => {
    const open = patternMesh(banded(1));
    expect(gatheredFaces(open)).toBeNull();
    expect(gatheredFaces(closedSeams(open)!.mesh)).toBeNull();
    expect(gatheredFaces(patternMesh({ ...banded(2), seams: [] }))).toBeNull();
  });
});

// Faces that were pushed together to half their width stretched the band by 20 %, at 800 substeps.
const cases = [
  [2, 'all directions'],
  [3, 'along the grain'],
  [2, 'along the grain'],
] as const;
// The last is the easiest, and as slow as the others: at night.
it.each(process.env['LUMBRA_NIGHTLY'] ? cases : cases.slice(0, 2))(
  'a border gathered onto a band %f times shorter leaves the band its length, %s',
  { timeout: 60_000 },
  (times, weave) => {
    const shape = banded(times, weave);
    const mesh = patternMesh(shape);
    const top = [...Array(mesh.parts![0]!.count).keys()].filter((point) => mesh.positions[point * 3 + 1]! > 1.2349);
    const pins = createPinSet({ name: 'Top', points: top });
    const cloth = createCloth({ name: 'Skirt', card: 'cotton-poplin', shape, pinSets: [pins] });
    const baked = frames(new BakeRun(createShot({ name: 'x', things: [cloth] }), new Map()), 30);
    for (const { stats } of baked) expect(stats.crossings).toBe(0);
    for (const { stats } of baked.slice(14)) expect(stats.falseStretch).toBeLessThan(0.03);
    // Along the band's border, from point to point.
    const [end] = baked.slice(-1);
    const border = [...Array(mesh.parts![0]!.count).keys()]
      .filter((point) => mesh.positions[point * 3 + 1]! < 1.1651)
      .sort((a, b) => mesh.positions[a * 3]! - mesh.positions[b * 3]!);
    const places = end!.positions[0]!;
    const length = border.slice(1).reduce((sum, point, i) => {
      const [a, b] = [border[i]! * 3, point * 3];
      return (
        sum + Math.hypot(places[a]! - places[b]!, places[a + 1]! - places[b + 1]!, places[a + 2]! - places[b + 2]!)
      );
    }, 0);
    expect(Math.abs(length / 0.2 - 1)).toBeLessThan(0.02);
  },
);
