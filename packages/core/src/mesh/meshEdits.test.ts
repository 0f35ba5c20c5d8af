import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeOneMesh } from './makeOneMesh';
import { dropEmpty } from './dropEmpty';
import { faceAreas } from './faceAreas';
import type { Mesh, Motion } from './mesh';
import { movedPoints } from './movedPoints';
import { scaleMesh } from './scaleMesh';
import { box } from './shapes/box';
import { sheet } from './shapes/sheet';
import { isClosed, topology } from './topology';
import { signedVolume } from './volume';

const total = (mesh: Mesh) => faceAreas(mesh).reduce((sum, area) => sum + area, 0);

/** A mesh with one bone that goes 1 m up in a second while its points spread by a morph target. */
function rising(still: Mesh): Mesh {
  const count = still.positions.length / 3;
  const at = (height: number) => [1, 0, 0, 0, 0, 1, 0, height, 0, 0, 1, 0];
  const motion: Motion = {
    bind: still.positions,
    joints: new Uint16Array(count * 4),
    weights: Float32Array.from({ length: count * 4 }, (_, i) => (i % 4 === 0 ? 1 : 0)),
    bones: 1,
    targets: [still.positions.map((value) => value * 0.5)],
    clips: [
      {
        ...{ name: 'Rise', rate: 1, samples: 2 },
        matrices: Float32Array.from([...at(0), ...at(1)]),
        targetWeights: Float32Array.from([0, 1]),
      },
    ],
  };
  return { ...still, motion };
}

describe('meshes as one', () => {
  it('keep their faces and their places, and stay as closed as they were', () => {
    const [a, b] = [box({ size: [1, 1, 1] }), box({ size: [2, 1, 0.5] })];
    const both = makeOneMesh([a, b]);
    expect(both.positions).toHaveLength(a.positions.length + b.positions.length);
    expect([...both.positions.subarray(a.positions.length)]).toEqual([...b.positions]);
    expect(signedVolume(both)).toBeCloseTo(2, 5);
    expect(isClosed(topology(both))).toBe(true);
    expect(makeOneMesh([]).positions).toHaveLength(0);
  });

  it('have neither material coordinates nor animation, which do not fit together', () => {
    const cloth = sheet({ width: 1, height: 1, spacing: 0.5 });
    expect(cloth.material).toBeDefined();
    const { material, motion } = makeOneMesh([rising(cloth), cloth]);
    expect(material).toBeUndefined();
    expect(motion).toBeUndefined();
  });
});

describe('a mesh at another size', () => {
  it('has volume and area to suit, and keeps how it is cut', () => {
    const cloth = sheet({ width: 1, height: 2, spacing: 0.25 });
    const wide = scaleMesh(cloth, [3, 1, 1]);
    expect(total(wide)).toBeCloseTo(6, 5);
    expect(wide.material).toBe(cloth.material);
    fc.assert(
      fc.property(
        fc.tuple(...Array<fc.Arbitrary<number>>(3).fill(fc.double({ min: 0.1, max: 9, noNaN: true }))),
        (by) => {
          const scaled = scaleMesh(box({ size: [1, 1, 1] }), by as [number, number, number]);
          expect(signedVolume(scaled) / (by[0]! * by[1]! * by[2]!)).toBeCloseTo(1, 4);
        },
      ),
    );
  });

  it('moves as it did, at its new size', () => {
    const still = rising(box({ size: [1, 1, 1] }));
    const large = scaleMesh(still, [2, 3, 1]);
    for (const seconds of [0, 0.5, 1]) {
      const [before, after] = [still, large].map((mesh) => movedPoints(mesh, mesh.motion!.clips[0]!, seconds, false));
      before!.forEach((value, i) => expect(after![i]).toBeCloseTo(value * [2, 3, 1][i % 3]!, 5));
    }
  });
});

describe('leaving out what is empty', () => {
  it('drops faces without area and points without faces, and all that belongs to them', () => {
    const whole = rising(sheet({ width: 1, height: 1, spacing: 0.5 }));
    const count = whole.positions.length / 3;
    const extra = (array: Float32Array, width: number) =>
      Float32Array.from([...array, ...Array<number>(width).fill(7)]);
    const broken: Mesh = {
      positions: extra(whole.positions, 3),
      triangles: Uint32Array.from([...whole.triangles, 0, 0, 1, 2, 2, 2]),
      material: extra(whole.material!, 2),
      motion: {
        ...whole.motion!,
        bind: extra(whole.motion!.bind, 3),
        joints: new Uint16Array((count + 1) * 4),
        weights: extra(whole.motion!.weights, 4),
        targets: [extra(whole.motion!.targets[0]!, 3)],
      },
    };
    const { mesh, faces, points } = dropEmpty(broken);
    expect([faces, points]).toEqual([2, 1]);
    expect(total(mesh)).toBeCloseTo(1, 5);
    expect([mesh.positions.length / 3, mesh.material!.length / 2, mesh.motion!.bind.length / 3]).toEqual([
      count,
      count,
      count,
    ]);
    // Each point still has the place on the cut that it had.
    for (let point = 0; point < count; point++) {
      expect(mesh.positions[point * 3]! - mesh.material![point * 2]!).toBeCloseTo(
        whole.positions[0]! - whole.material![0]!,
        5,
      );
    }
  });

  it('leaves a sound mesh itself, and nothing of one that is all empty', () => {
    const cloth = sheet({ width: 1, height: 1, spacing: 0.5 });
    expect(dropEmpty(cloth).mesh).toBe(cloth);
    const empty = dropEmpty({ positions: new Float32Array(9), triangles: Uint32Array.from([0, 1, 2]) });
    expect(empty).toMatchObject({ faces: 1, points: 3 });
    expect(empty.mesh.positions).toHaveLength(0);
    const unknown = {
      positions: new Float32Array([NaN, 0, 0, 1, 0, 0, 0, 1, 0]),
      triangles: Uint32Array.from([0, 1, 2]),
    };
    expect(dropEmpty(unknown).faces).toBe(1);
  });
});
