import { SCALED_NUMBERS, sameValues, type FaceScales } from '../fabric/faceScales';
import type { ClothModel, ColliderModel, Model, TieModel } from './model';
import { pairOf } from './layers/pairs';

/** Numbers whose masks are written where there is room for them only when there was one from the start. */
const LAID_OUT = ['damping', 'friction', 'thickness', 'weight'] as const;

/**
 * Whether a run of a model can go on as that of another by taking over its numbers: the same cloths and colliders, held and met at the
 * same places, with room in the kernel for all that either has.
 */
export function sameForm(a: Model, b: Model): boolean {
  return (
    a.layers === b.layers &&
    sameList(a.origin ?? [0, 0, 0], b.origin ?? [0, 0, 0]) &&
    Boolean(a.air.field) === Boolean(b.air.field) &&
    a.air.field?.moves === b.air.field?.moves &&
    a.air.field?.pulls === b.air.field?.pulls &&
    a.cloths.length === b.cloths.length &&
    a.cloths.every((cloth, i) => sameCloth(cloth, b.cloths[i]!)) &&
    a.colliders.length === b.colliders.length &&
    a.colliders.every((collider, i) => sameCollider(collider, b.colliders[i]!)) &&
    meetAlike(a, b)
  );
}

function sameCloth(a: ClothModel, b: ClothModel): boolean {
  return (
    a.id === b.id &&
    a.rest === b.rest &&
    Boolean(a.given) === Boolean(b.given) &&
    sameList(a.held, b.held) &&
    sameEach(a.holds ?? [], b.holds ?? [], (x, y) => sameList(x.points, y.points) && sameList(x.carried, y.carried)) &&
    sameEach(a.ties ?? [], b.ties ?? [], sameTie) &&
    sameScales(a.scales, b.scales) &&
    Boolean(a.scalesAt) === Boolean(b.scalesAt)
  );
}

function sameTie(a: TieModel, b: TieModel): boolean {
  return (
    a.to === b.to && sameList(a.points, b.points) && sameList(a.corners, b.corners) && sameList(a.weights, b.weights)
  );
}

/** Whether masks need the same room: what they are worth may differ, but for what is written once. */
function sameScales(a: FaceScales | undefined, b: FaceScales | undefined): boolean {
  return (
    SCALED_NUMBERS.every((name) => Boolean(a?.[name]) === Boolean(b?.[name])) &&
    LAID_OUT.every((name) => sameValues(a?.[name], b?.[name]))
  );
}

function sameCollider(a: ColliderModel, b: ColliderModel): boolean {
  if (a.id !== b.id || a.kind !== b.kind) return false;
  if (a.kind === 'mesh' && b.kind === 'mesh') return a.mesh === b.mesh && !a.pointsAt && !b.pointsAt;
  return sameList(sizesOf(a), sizesOf(b));
}

function sizesOf(collider: ColliderModel): readonly number[] {
  if (collider.kind === 'box') return collider.size;
  return ['radius', 'height'].map((name) => (collider as unknown as Record<string, number>)[name] ?? 0);
}

/** Whether the same cloths meet the same colliders, which are searched for pair by pair. */
function meetAlike(a: Model, b: Model): boolean {
  const touch = ({ pairs }: Model, cloth: string, collider: string) => pairOf(pairs, cloth, collider)?.touches ?? true;
  return a.cloths.every(({ id }) => a.colliders.every((other) => touch(a, id, other.id) === touch(b, id, other.id)));
}

function sameList(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

function sameEach<T>(a: readonly T[], b: readonly T[], same: (x: T, y: T) => boolean): boolean {
  return a.length === b.length && a.every((one, i) => same(one, b[i]!));
}
