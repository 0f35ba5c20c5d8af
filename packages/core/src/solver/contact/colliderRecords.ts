import * as Collider from '@lumbra/kernel/layouts/contact/collider';
import { apply, length, type Vector3 } from '../../math/vector';
import { bounds } from '../../mesh/bounds';
import { isClosed, topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import type { Pose } from '../../math/pose';
import type { ColliderModel, PairModel, Touch } from '../model';

const KINDS = {
  plane: Collider.KIND_PLANE,
  ball: Collider.KIND_BALL,
  box: Collider.KIND_BOX,
  cylinder: Collider.KIND_CYLINDER,
  mesh: Collider.KIND_MESH,
  capsule: Collider.KIND_CAPSULE,
} as const;
const SIDES = { both: 0, outside: 1, inside: -1 } as const;
/** Cloth that already slides is held by this share of the friction that holds resting cloth. */
const MOVING_SHARE = 0.85;
/** The inside of a face may use this share of the clearance up. */
const FACE_SHARE = 0.5;

/** The surface of a cloth that a collider touches, and what this pair has of its own. */
export interface TouchedSurface {
  thickness: number;
  friction: number;
  own?: PairModel | undefined;
}

/**
 * Writes a collider as one cloth meets it, without its place. Returns its address.
 */
export function addColliderRecord(
  memory: KernelMemory,
  collider: ColliderModel,
  meshAddress: number,
  cloth: TouchedSurface,
): number {
  const address = memory.allocate(Collider.BYTES);
  memory.records(address, Collider.BYTES).setInteger(0, Collider.MESH, meshAddress);
  writeCollider(memory, address, collider, cloth);
  return address;
}

/** Writes the same anew, where its numbers have changed. */
export function writeCollider(
  memory: KernelMemory,
  address: number,
  collider: ColliderModel,
  cloth: TouchedSurface,
): void {
  const record = memory.records(address, Collider.BYTES);
  record.setInteger(0, Collider.KIND, KINDS[collider.kind]);
  writeTouch(memory, address, collider, cloth);
  const open = collider.kind === 'mesh' && !isClosed(topology(collider.mesh));
  record.setInteger(0, Collider.SIDE, SIDES[cloth.own?.side ?? collider.side ?? (open ? 'both' : 'outside')]);
  record.setFloats(0, Collider.SIZE, sizesOf(collider));
}

/** What the kernel knows of a shape that is not a mesh. */
function sizesOf(collider: ColliderModel): number[] {
  if (collider.kind === 'ball') return [collider.radius];
  if (collider.kind === 'box') return collider.size.map((side) => side / 2);
  if (collider.kind === 'cylinder') return [collider.radius, collider.height / 2];
  if (collider.kind === 'capsule') return [collider.radius, Math.max(0, collider.height / 2 - collider.radius)];
  return [];
}

/** Writes how a cloth is touched: clearance, friction and bounce, which may change over a run. */
export function writeTouch(memory: KernelMemory, address: number, touch: Touch, cloth: TouchedSurface): void {
  const record = memory.records(address, Collider.BYTES);
  const friction = cloth.own?.friction ?? Math.sqrt(touch.friction * cloth.friction);
  const clearance = cloth.own?.clearance ?? touch.clearance;
  record.setFloat(0, Collider.STATIC_FRICTION, friction);
  record.setFloat(0, Collider.MOVING_FRICTION, friction * MOVING_SHARE);
  record.setFloat(0, Collider.TARGET, targetDistance(clearance, cloth.thickness));
  record.setFloat(0, Collider.CLEARANCE, clearance);
  record.setFloat(0, Collider.SPARED, FACE_SHARE * clearance);
  record.setFloat(0, Collider.BOUNCE, touch.bounce ?? 0);
}

/** Sets where a collider was when the substep began and where it is at its end; `moving` when its shape moves besides. */
export function placeCollider(
  memory: KernelMemory,
  address: number,
  box: LocalBox,
  before: Pose,
  now: Pose,
  moving = before !== now,
): void {
  const record = memory.records(address, Collider.BYTES);
  record.setFloats(0, Collider.CENTRE, now.center);
  record.setFloats(0, Collider.ROTATION, now.rotation);
  record.setInteger(0, Collider.MOVES, moving ? 1 : 0);
  record.setFloats(0, Collider.CENTRE_THEN, before.center);
  record.setFloats(0, Collider.ROTATION_THEN, before.rotation);
  const [a, b] = [worldBox(box, now), before === now ? null : worldBox(box, before)];
  record.setFloats(0, Collider.LOW, b ? a.low.map((low, axis) => Math.min(low, b.low[axis]!)) : a.low);
  record.setFloats(0, Collider.HIGH, b ? a.high.map((high, axis) => Math.max(high, b.high[axis]!)) : a.high);
}

/** A box around a collider in its own axes; null for an endless one. */
export type LocalBox = { low: Vector3; high: Vector3 } | null;

export function localBox(collider: ColliderModel): LocalBox {
  if (collider.kind === 'plane') return null;
  if (collider.kind === 'mesh') return bounds(collider.mesh.positions) ?? { low: [0, 0, 0], high: [0, 0, 0] };
  const half: Vector3 =
    collider.kind === 'box'
      ? [collider.size[0] / 2, collider.size[1] / 2, collider.size[2] / 2]
      : collider.kind === 'ball'
        ? [collider.radius, collider.radius, collider.radius]
        : [collider.radius, collider.height / 2, collider.radius];
  return { low: [-half[0], -half[1], -half[2]], high: half };
}

/** The farthest that anything of a collider is from its origin, in m; of an endless one, as far as cloth is likely to be. */
export function reachOf(box: LocalBox): number {
  if (!box) return 10;
  const far = [0, 1, 2].map((axis) => Math.max(Math.abs(box.low[axis]!), Math.abs(box.high[axis]!)));
  return length(far as unknown as Vector3);
}

function worldBox(box: LocalBox, { center, rotation: r }: Pose): { low: Vector3; high: Vector3 } {
  if (!box) return { low: [-Infinity, -Infinity, -Infinity], high: [Infinity, Infinity, Infinity] };
  const middle: Vector3 = [
    (box.low[0] + box.high[0]) / 2,
    (box.low[1] + box.high[1]) / 2,
    (box.low[2] + box.high[2]) / 2,
  ];
  const turned = apply(r, middle);
  const sides = [0, 1, 2].map((axis) => {
    const half = [0, 1, 2].map((own) => Math.abs(r[axis + own * 3]!) * (box.high[own]! - middle[own]!));
    const reach = half[0]! + half[1]! + half[2]! + 1e-5;
    const at = center[axis]! + turned[axis]!;
    return [at - reach, at + reach] as const;
  });
  return {
    low: [sides[0]![0], sides[1]![0], sides[2]![0]],
    high: [sides[0]![1], sides[1]![1], sides[2]![1]],
  };
}

/** How far the cloth's middle surface stays from the collider, in m. */
export function targetDistance(clearance: number, thickness: number): number {
  return clearance + thickness / 2;
}
