import { composePoses, type Pose } from '../math/pose';
import { coarseHull } from '../mesh/fit/coarseHull';
import { fitBall, fitBox, fitCapsule, fitCylinder } from '../mesh/fit/fitShapes';
import type { Mesh } from '../mesh/mesh';
import { valueAt } from '../shot/keys';
import { isMoved, poseAt } from '../shot/placement';
import type { Collider, Shot, ContactShape, ThingMotion } from '../shot/schema';
import { shapeMesh, SHAPES, type Assets, type ExactBody } from '../shot/shapes';
import { hasSizeKeys, meshAt, shapeAt, wrongSize } from '../shot/shapes/sizeKeys';
import type { ColliderModel, Touch } from '../solver/model';
import { motionPoints } from './motionPoints';
import { CompileError, requireSound } from './sound';

/** A frame at a time in s since the start of the run. */
export type FrameAt = (time: number) => number;

/** What cloth meets of a collider. */
export type ColliderBody = ExactBody | { kind: 'mesh'; mesh: Mesh; pointsAt?: (time: number) => Float32Array };

/**
 * A collider as the solver takes it. Without `frameAt` it stands where it is at `frame`, and touches as it does then.
 * @throws CompileError, MissingAssetError
 */
export function colliderModel(
  collider: Collider,
  { shot, assets, frame, frameAt }: { shot: Shot; assets: Assets; frame: number; frameAt: FrameAt | null },
): ColliderModel {
  const body = hasSizeKeys(collider)
    ? sizedBody(collider, assets, frame, frameAt)
    : bodyOf(collider, assets, shot.frameRate, frame, frameAt);
  const offset = 'offset' in body ? body.offset : undefined;
  const at = (frameNow: number): Pose => {
    const pose = poseAt(shot, collider, frameNow);
    return offset ? composePoses(pose, offset) : pose;
  };
  const touch = (frameNow: number): Touch => ({
    clearance: valueAt(collider, 'clearance', frameNow),
    friction: valueAt(collider, 'friction', frameNow),
    bounce: valueAt(collider, 'bounce', frameNow),
  });
  const touchKeyed = collider.keys.some(({ number }) => !/^(position|rotation|shape)\./.test(number));
  const { side, id } = collider;
  const base = {
    id,
    ...at(frame),
    ...touch(frame),
    ...(side !== 'auto' && { side }),
    ...(frameAt && isMoved(shot, collider) && { poseAt: (time: number) => at(frameAt(time)) }),
    ...(frameAt && touchKeyed && { touchAt: (time: number) => touch(frameAt(time)) }),
  };
  return { ...base, ...body } as ColliderModel;
}

function bodyOf(
  { name, shape, contactShape, motion }: Collider,
  assets: Assets,
  frameRate: number,
  frame: number,
  frameAt: FrameAt | null,
): ColliderBody {
  const exact = SHAPES[shape.kind].body?.(shape);
  if (exact) return exact;
  const mesh = shapeMesh(shape, assets);
  requireSound(mesh, name);
  if (motion && mesh.motion) return movingBody(mesh, motion, frameRate, frame, frameAt);
  return contactShapeBody(mesh, contactShape);
}

/** A shape whose numbers are keyed: a mesh whose points move, or the exact body where it stands still. */
function sizedBody(collider: Collider, assets: Assets, frame: number, frameAt: FrameAt | null): ColliderBody {
  const wrong = wrongSize(collider);
  if (wrong) {
    throw new CompileError(
      `“${collider.name}” has no shape at frame ${wrong.frame}: ${wrong.reason}. Change its keys there.`,
    );
  }
  if (!frameAt) {
    const shape = shapeAt(collider, frame);
    const exact = SHAPES[shape.kind].body?.(shape);
    if (exact) return exact;
  }
  const mesh = meshAt(collider, assets, frame);
  requireSound(mesh, collider.name);
  if (!frameAt) return { kind: 'mesh', mesh };
  return { kind: 'mesh', mesh, pointsAt: (time) => meshAt(collider, assets, frameAt(time)).positions };
}

/** A mesh with imported animation. */
function movingBody(
  mesh: Mesh,
  motion: ThingMotion,
  frameRate: number,
  frame: number,
  frameAt: FrameAt | null,
): ColliderBody {
  const at = (frameNow: number) => motionPoints(mesh, motion, frameRate, frameNow);
  if (!frameAt) return { kind: 'mesh', mesh: { ...mesh, positions: at(frame) } };
  return { kind: 'mesh', mesh, pointsAt: (time) => at(frameAt(time)) };
}

const fitted = new WeakMap<Mesh, Map<ContactShape, ColliderBody>>();

/** Whether a simple shape was fitted to a mesh already. */
export function isFitted(mesh: Mesh, contactShape: ContactShape): boolean {
  return contactShape === 'exact' || fitted.get(mesh)?.has(contactShape) === true;
}

/** Takes over a fitted shape from where it was fitted, such as another thread. */
export function rememberContactShape(mesh: Mesh, contactShape: ContactShape, body: ColliderBody): void {
  fitted.set(mesh, (fitted.get(mesh) ?? new Map<ContactShape, ColliderBody>()).set(contactShape, body));
}

/** The simple shape that stands in for a mesh; fitted once. */
export function contactShapeBody(mesh: Mesh, contactShape: ContactShape): ColliderBody {
  const body = fitted.get(mesh)?.get(contactShape) ?? fit(mesh, contactShape);
  rememberContactShape(mesh, contactShape, body);
  return body;
}

function fit(mesh: Mesh, contactShape: ContactShape): ColliderBody {
  const { positions } = mesh;
  switch (contactShape) {
    case 'exact':
      return { kind: 'mesh', mesh };
    case 'coarse hull':
      return { kind: 'mesh', mesh: coarseHull(mesh) };
    case 'ball': {
      const { center, radius } = fitBall(positions);
      return { kind: 'ball', radius, offset: { center, rotation: [1, 0, 0, 0, 1, 0, 0, 0, 1] } };
    }
    case 'box': {
      const { pose, size } = fitBox(positions);
      return { kind: 'box', size, offset: pose };
    }
    default: {
      const { pose, radius, height } = contactShape === 'capsule' ? fitCapsule(positions) : fitCylinder(positions);
      return { kind: contactShape, radius, height, offset: pose };
    }
  }
}
