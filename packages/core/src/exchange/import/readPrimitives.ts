import type { Node, Primitive } from '@gltf-transform/core';
import { ReadError } from '../readError';

/** A mesh as its file has it, before its node or its bones place it. */
export interface RawMesh {
  /** x y z of each point. */
  bind: Float32Array;
  triangles: Uint32Array;
  targets: Float32Array[];
  /** Four joints a point and their weights; all 0 without a skin. */
  joints: Uint16Array;
  weights: Float32Array;
}

const [TRIANGLES, STRIP, FAN] = [4, 5, 6];

/** All triangles of a node's mesh as one; undefined when it has none. @throws ReadError */
export function readPrimitives(node: Node, notes: string[]): RawMesh | undefined {
  const name = node.getName() || node.getMesh()!.getName() || 'a mesh';
  const all = node.getMesh()!.listPrimitives();
  const primitives = all.filter(
    (primitive) => [TRIANGLES, STRIP, FAN].includes(primitive.getMode()) && places(primitive),
  );
  if (primitives.length < all.length) notes.push(`Lines and loose points of “${name}” are left aside.`);
  if (primitives.length === 0) return undefined;
  const targetCount = Math.max(...primitives.map((primitive) => primitive.listTargets().length));
  const count = primitives.reduce((sum, primitive) => sum + places(primitive)!.getCount(), 0);
  const raw: RawMesh = {
    bind: new Float32Array(count * 3),
    triangles: new Uint32Array(),
    targets: Array.from({ length: targetCount }, () => new Float32Array(count * 3)),
    joints: new Uint16Array(count * 4),
    weights: new Float32Array(count * 4),
  };
  const jointCount = node.getSkin()?.listJoints().length ?? 0;
  const triangles: Uint32Array[] = [];
  let first = 0;
  for (const primitive of primitives) {
    const own = places(primitive)!.getCount();
    copy(places(primitive), raw.bind, 3, first);
    primitive.listTargets().forEach((target, k) => copy(target.getAttribute('POSITION'), raw.targets[k]!, 3, first));
    if (jointCount > 0) {
      copy(primitive.getAttribute('JOINTS_0'), raw.joints, 4, first);
      copy(primitive.getAttribute('WEIGHTS_0'), raw.weights, 4, first);
    }
    triangles.push(corners(primitive, own, name).map((point) => point + first));
    first += own;
  }
  const far = raw.joints.findIndex((joint, i) => raw.weights[i]! > 0 && joint >= jointCount);
  if (far >= 0) {
    throw new ReadError(
      `The skin of “${name}” is not whole: point ${Math.floor(far / 4) + 1} hangs on joint ${raw.joints[far]! + 1} of ${jointCount}.`,
    );
  }
  raw.triangles = new Uint32Array(triangles.reduce((sum, list) => sum + list.length, 0));
  let at = 0;
  for (const list of triangles) {
    raw.triangles.set(list, at);
    at += list.length;
  }
  evenWeights(raw);
  return raw;
}

type Accessor = ReturnType<Primitive['getAttribute']>;

function places(primitive: Primitive): Accessor {
  return primitive.getAttribute('POSITION');
}

/** Copies a list of vectors, integers that stand for shares turned into shares. */
function copy(accessor: Accessor, to: Float32Array | Uint16Array, width: number, first: number): void {
  if (!accessor) return;
  const array = accessor.getArray();
  if (array instanceof Float32Array && accessor.getElementSize() === width) {
    to.set(array, first * width);
    return;
  }
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    for (let k = 0; k < width; k++) to[(first + i) * width + k] = element[k] ?? 0;
  }
}

function corners(primitive: Primitive, points: number, name: string): Uint32Array {
  const list = primitive.getIndices()?.getArray();
  const at = (i: number) => (list ? list[i]! : i);
  const count = list?.length ?? points;
  const found: number[] = [];
  if (primitive.getMode() === TRIANGLES) for (let i = 0; i + 2 < count; i += 3) found.push(at(i), at(i + 1), at(i + 2));
  else if (primitive.getMode() === FAN) for (let i = 1; i + 1 < count; i++) found.push(at(0), at(i), at(i + 1));
  else for (let i = 0; i + 2 < count; i++) found.push(at(i), at(i + 1 + (i % 2)), at(i + 2 - (i % 2)));
  const missing = found.find((point) => point >= points);
  if (missing !== undefined) throw new ReadError(`“${name}” has a face at point ${missing + 1} of ${points}.`);
  return new Uint32Array(found);
}

/** Weights of a point sum to 1; a point without any hangs on the first joint. */
function evenWeights({ weights }: RawMesh): void {
  for (let i = 0; i < weights.length; i += 4) {
    const sum = weights[i]! + weights[i + 1]! + weights[i + 2]! + weights[i + 3]!;
    if (!(sum > 0)) weights.set([1, 0, 0, 0], i);
    else for (let k = 0; k < 4; k++) weights[i + k]! /= sum;
  }
}
