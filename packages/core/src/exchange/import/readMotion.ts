import { MathUtils, type Animation, type AnimationChannel, type Node } from '@gltf-transform/core';
import { mat4, quat, type vec3 } from 'gl-matrix';
import { movedPoints } from '../../mesh/movedPoints';
import type { Clip, Mesh, Motion } from '../../mesh/mesh';
import type { RawMesh } from './readPrimitives';

/** Samples of a clip a second, and the most numbers that a clip may take: longer ones are sampled more coarsely. */
const RATE = 60;
const MOST_NUMBERS = 12_000_000;

/**
 * Places a mesh as its node or its bones say, and keeps how the file's clips move it: sampled at even times, in linear, step and
 * cubic interpolation as glTF 2.0 defines them. A mesh that no clip moves has no motion.
 */
export function readMotion(raw: RawMesh, node: Node, animations: readonly Animation[]): Mesh {
  const bones = node.getSkin()?.listJoints() ?? [node];
  const inverse = inverseBinds(node);
  const moving = new Set(bones.flatMap((bone) => withCarriers(bone)));
  const skinned = node.getSkin() !== null;
  const named = animations.map((animation, i) => ({ animation, name: animation.getName() || `Clip ${i + 1}` }));
  const clips = named
    .filter(({ animation }) =>
      animation.listChannels().some((channel) => {
        const target = channel.getTargetNode();
        if (channel.getTargetPath() === 'weights') return target === node && raw.targets.length > 0;
        return target !== null && moving.has(target);
      }),
    )
    .map(({ animation, name }) => sampleClip(animation, name, { node, bones, inverse, targets: raw.targets.length }));
  const still = sampleAt(null, 0, { node, bones, inverse, targets: raw.targets.length });
  const pose: Clip = { name: '', rate: 1, samples: 1, matrices: still.matrices, targetWeights: still.weights };
  const { bind, triangles, targets } = raw;
  const joints = skinned ? raw.joints : new Uint16Array(raw.joints.length);
  const motion: Motion = { bind, joints, weights: raw.weights, bones: bones.length, targets, clips };
  const posed = movedPoints({ positions: bind, triangles, motion }, pose, 0, false);
  return { positions: posed, triangles, ...(clips.length > 0 && { motion }) };
}

interface Rig {
  node: Node;
  bones: readonly Node[];
  inverse: readonly mat4[];
  targets: number;
}

function withCarriers(node: Node): Node[] {
  const parent = node.getParentNode();
  return parent ? [node, ...withCarriers(parent)] : [node];
}

function inverseBinds(node: Node): mat4[] {
  const skin = node.getSkin();
  if (!skin) return [mat4.create()];
  const accessor = skin.getInverseBindMatrices();
  return skin.listJoints().map((_, i) => {
    if (!accessor || i >= accessor.getCount()) return mat4.create();
    return mat4.clone(accessor.getElement(i, []) as unknown as mat4);
  });
}

function sampleClip(animation: Animation, name: string, rig: Rig): Clip {
  const times = animation.listSamplers().flatMap((sampler) => [...(sampler.getInput()?.getArray() ?? [])]);
  const end = times.reduce((latest, time) => Math.max(latest, time), 0);
  const width = rig.bones.length * 12 + rig.targets;
  const rate = Math.min(RATE, Math.max(1, MOST_NUMBERS / (width * Math.max(end, 1e-3))));
  // A whole number of samples that ends exactly with the clip, and where keys are evenly spaced a whole number between two, so that each is met.
  const spacing = evenSpacing(times);
  // Not where even that would be too much.
  const samples =
    spacing && rate * spacing >= 1
      ? Math.round(end / spacing) * Math.floor(rate * spacing) + 1
      : Math.max(1, Math.ceil(end * rate)) + 1;
  const exact = end > 0 ? (samples - 1) / end : RATE;
  const matrices = new Float32Array(samples * rig.bones.length * 12);
  const targetWeights = new Float32Array(samples * rig.targets);
  for (let sample = 0; sample < samples; sample++) {
    const at = sampleAt(animation, sample / exact, rig);
    matrices.set(at.matrices, sample * rig.bones.length * 12);
    targetWeights.set(at.weights, sample * rig.targets);
  }
  return { name, rate: exact, samples, matrices, targetWeights };
}

/** How far keys are apart, in s, where all are at whole multiples of it from the start; else null. */
function evenSpacing(times: readonly number[]): number | null {
  const sorted = [...new Set(times)].sort((a, b) => a - b);
  const least = sorted.slice(1).reduce((gap, time, i) => Math.min(gap, time - sorted[i]!), Infinity);
  if (!Number.isFinite(least) || least < 1 / (4 * RATE)) return null;
  // Of the whole, which is known best.
  const steps = Math.round(sorted.at(-1)! / least);
  const spacing = sorted.at(-1)! / Math.max(1, steps);
  const isEven = sorted.every((time) => Math.abs(time / spacing - Math.round(time / spacing)) < 1e-3);
  return isEven ? spacing : null;
}

/** Bones and morph weights at a time of a clip; as the file stands without one. */
function sampleAt(
  animation: Animation | null,
  time: number,
  rig: Rig,
): { matrices: Float32Array; weights: Float32Array } {
  const channels = animation?.listChannels() ?? [];
  const worlds = new Map<Node, mat4>();
  const world = (node: Node): mat4 => {
    const known = worlds.get(node);
    if (known) return known;
    const parent = node.getParentNode();
    const own = ownMatrix(node, channels, time);
    const made = parent ? mat4.multiply(mat4.create(), world(parent), own) : own;
    worlds.set(node, made);
    return made;
  };
  const matrices = new Float32Array(rig.bones.length * 12);
  rig.bones.forEach((bone, i) => {
    const m = mat4.multiply(mat4.create(), world(bone), rig.inverse[i]!);
    for (let row = 0; row < 3; row++) for (let k = 0; k < 4; k++) matrices[i * 12 + row * 4 + k] = m[k * 4 + row]!;
  });
  const channel = channels.find((one) => one.getTargetPath() === 'weights' && one.getTargetNode() === rig.node);
  const resting = rig.node.getWeights().length > 0 ? rig.node.getWeights() : (rig.node.getMesh()?.getWeights() ?? []);
  const values = channel ? valueOf(channel, time, rig.targets) : resting;
  return { matrices, weights: Float32Array.from({ length: rig.targets }, (_, k) => values[k] ?? 0) };
}

function ownMatrix(node: Node, channels: readonly AnimationChannel[], time: number): mat4 {
  const value = (path: string, width: number, still: readonly number[]) => {
    const channel = channels.find((one) => one.getTargetNode() === node && one.getTargetPath() === path);
    return channel ? valueOf(channel, time, width) : still;
  };
  const turn = value('rotation', 4, node.getRotation()) as unknown as quat;
  const move = value('translation', 3, node.getTranslation()) as unknown as vec3;
  const scale = value('scale', 3, node.getScale()) as unknown as vec3;
  return mat4.fromRotationTranslationScale(mat4.create(), turn, move, scale);
}

/** The value of a channel at a time, so many numbers wide (glTF 2.0, appendix C). */
function valueOf(channel: AnimationChannel, time: number, width: number): number[] {
  const sampler = channel.getSampler()!;
  const [input, output] = [sampler.getInput()!, sampler.getOutput()!];
  const times = input.getArray()!;
  const numbers = output.getArray()!;
  const plain = (i: number) =>
    output.getNormalized() ? MathUtils.decodeNormalizedInt(numbers[i]!, output.getComponentType()) : numbers[i]!;
  const cubic = sampler.getInterpolation() === 'CUBICSPLINE';
  const at = (key: number, part = 1) =>
    Array.from({ length: width }, (_, k) => plain((cubic ? key * 3 + part : key) * width + k));
  const last = times.length - 1;
  if (time <= times[0]!) return at(0);
  if (time >= times[last]!) return at(last);
  let key = 0;
  while (key + 1 < last && times[key + 1]! <= time) key++;
  if (sampler.getInterpolation() === 'STEP') return at(key);
  const span = times[key + 1]! - times[key]!;
  const t = (time - times[key]!) / span;
  const [a, b] = [at(key), at(key + 1)];
  const turns = channel.getTargetPath() === 'rotation';
  if (!cubic) {
    if (turns) return [...quat.slerp(quat.create(), a as unknown as quat, b as unknown as quat, t)];
    return a.map((value, k) => value + (b[k]! - value) * t);
  }
  const [out, into] = [at(key, 2), at(key + 1, 0)];
  const [t2, t3] = [t * t, t * t * t];
  const value = a.map(
    (start, k) =>
      (2 * t3 - 3 * t2 + 1) * start +
      span * (t3 - 2 * t2 + t) * out[k]! +
      (3 * t2 - 2 * t3) * b[k]! +
      span * (t3 - t2) * into[k]!,
  );
  return turns ? [...quat.normalize(quat.create(), value as unknown as quat)] : value;
}
