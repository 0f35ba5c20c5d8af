import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anglesOf, applyPose, composePoses, invertPose, poseOf } from './pose';
import { rotation, type Vector3 } from './vector';

const angle = fc.double({ min: -3, max: 3, noNaN: true });
const place = fc.double({ min: -5, max: 5, noNaN: true });
const vector = (value: fc.Arbitrary<number>) => fc.tuple(value, value, value) as fc.Arbitrary<Vector3>;

function near(a: readonly number[], b: readonly number[], digits = 9): void {
  a.forEach((value, i) => expect(value).toBeCloseTo(b[i]!, digits));
}

describe('poses', () => {
  it('composed with their inverse leave a place where it is', () => {
    fc.assert(
      fc.property(vector(place), vector(angle), vector(place), (center, angles, point) => {
        const pose = poseOf(center, angles);
        near(applyPose(composePoses(invertPose(pose), pose), point), point);
      }),
    );
  });

  it('compose in order: the inner one first', () => {
    const quarter = poseOf([1, 0, 0], [0, Math.PI / 2, 0]);
    near(applyPose(composePoses(quarter, poseOf([0, 0, 2], [0, 0, 0])), [0, 0, 0]), [3, 0, 0]);
  });

  it('give the angles of their turn', () => {
    fc.assert(
      fc.property(vector(angle), (angles) => {
        near(rotation(anglesOf(rotation(angles))), rotation(angles), 7);
      }),
    );
  });

  it('give the angles nearest to those before, also beyond a whole turn', () => {
    near(anglesOf(rotation([0, 7.1, 0]), [0, 7, 0]), [0, 7.1, 0], 7);
    near(anglesOf(rotation([0, 1.7, 0]), [0, 1.6, 0]), [0, 1.7, 0], 7);
  });

  it('survive looking straight along y', () => {
    for (const turn of [Math.PI / 2, -Math.PI / 2]) {
      near(rotation(anglesOf(rotation([0.4, turn, 0.9]))), rotation([0.4, turn, 0.9]), 6);
    }
  });
});
