import { applyPose, poseOf } from '@lumbra/core';
import fc from 'fast-check';
import { Object3D, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { poseFrom, poseObject } from './poseObject';

const triple = (most: number) => {
  const value = fc.double({ min: -most, max: most, noNaN: true });
  return fc.tuple(value, value, value);
};

describe('poses of the scene', () => {
  it('are those of the document, and come back from it', () => {
    fc.assert(
      fc.property(triple(10), triple(4), triple(3), (center, turn, place) => {
        const pose = poseOf(center, turn);
        const object = new Object3D();
        poseObject(object, pose);
        object.updateMatrixWorld();
        const seen = new Vector3(...place).applyMatrix4(object.matrixWorld).toArray();
        const wanted = applyPose(pose, place);
        const back = applyPose(poseFrom(object), place);
        for (const axis of [0, 1, 2]) {
          expect(seen[axis]).toBeCloseTo(wanted[axis]!, 6);
          expect(back[axis]).toBeCloseTo(wanted[axis]!, 6);
        }
      }),
    );
  });
});
