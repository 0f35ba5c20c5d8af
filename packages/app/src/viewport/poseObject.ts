import type { Pose } from '@lumbra/core';
import { Matrix4, type Object3D } from 'three';

const turn = new Matrix4();

/** Takes an object of the scene to a pose. */
export function poseObject(object: Object3D, { center, rotation: r }: Pose): void {
  object.position.set(...center);
  // Its matrices go down their columns, as those of three.js do, but `set` takes rows.
  turn.set(r[0], r[3], r[6], 0, r[1], r[4], r[7], 0, r[2], r[5], r[8], 0, 0, 0, 0, 1);
  object.quaternion.setFromRotationMatrix(turn);
}

/** The pose of an object of the scene. */
export function poseFrom(object: Object3D): Pose {
  const e = turn.makeRotationFromQuaternion(object.quaternion).elements;
  return {
    center: [object.position.x, object.position.y, object.position.z],
    rotation: [e[0], e[1], e[2], e[4], e[5], e[6], e[8], e[9], e[10]],
  };
}
