import { apply, length, type Vector3 } from '../../math/vector';
import { bounds } from '../../mesh/bounds';
import { isClosed, topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import type { Pose } from '../../math/pose';
import type { ColliderModel, PairModel, Touch } from '../model';

const RECORD_WORDS = 48;
const KINDS = { plane: 0, ball: 1, box: 2, cylinder: 3, mesh: 4, capsule: 5 } as const;
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
 * Writes a collider as one cloth meets it, without its place; the layout is in kernel/assembly/collider.ts. Returns its
 * address.
 */
export function addColliderRecord(
  memory: KernelMemory,
  collider: ColliderModel,
  meshAddress: number,
  cloth: TouchedSurface,
): number {
  const address = memory.allocate(RECORD_WORDS * 4);
  memory.integers(address, RECORD_WORDS)[20] = meshAddress;
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
  const values = memory.floats(address, RECORD_WORDS);
  const integers = memory.integers(address, RECORD_WORDS);
  integers[0] = KINDS[collider.kind];
  writeTouch(memory, address, collider, cloth);
  const open = collider.kind === 'mesh' && !isClosed(topology(collider.mesh));
  integers[7] = SIDES[cloth.own?.side ?? collider.side ?? (open ? 'both' : 'outside')];
  if (collider.kind === 'ball') values[17] = collider.radius;
  else if (collider.kind === 'box')
    values.set(
      collider.size.map((side) => side / 2),
      17,
    );
  else if (collider.kind === 'cylinder') values.set([collider.radius, collider.height / 2], 17);
  else if (collider.kind === 'capsule')
    values.set([collider.radius, Math.max(0, collider.height / 2 - collider.radius)], 17);
}

/** Writes how a cloth is touched: clearance, friction and bounce, which may change over a run. */
export function writeTouch(memory: KernelMemory, address: number, touch: Touch, cloth: TouchedSurface): void {
  const values = memory.floats(address, RECORD_WORDS);
  const friction = cloth.own?.friction ?? Math.sqrt(touch.friction * cloth.friction);
  const clearance = cloth.own?.clearance ?? touch.clearance;
  values[1] = friction;
  values[2] = friction * MOVING_SHARE;
  values[3] = targetDistance(clearance, cloth.thickness);
  values[22] = FACE_SHARE * clearance;
  values[23] = touch.bounce ?? 0;
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
  const values = memory.floats(address, RECORD_WORDS);
  values.set(now.center, 4);
  values.set(now.rotation, 8);
  memory.integers(address, RECORD_WORDS)[21] = moving ? 1 : 0;
  values.set(before.center, 32);
  values.set(before.rotation, 36);
  const [a, b] = [worldBox(box, now), before === now ? null : worldBox(box, before)];
  for (let axis = 0; axis < 3; axis++) {
    values[24 + axis] = b ? Math.min(a.low[axis]!, b.low[axis]!) : a.low[axis]!;
    values[28 + axis] = b ? Math.max(a.high[axis]!, b.high[axis]!) : a.high[axis]!;
  }
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
