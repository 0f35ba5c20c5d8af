import type { Mesh, Motion } from './mesh';
import { pointCount } from './mesh';
import { topology } from './topology';

/** A point has up to so many bones. */
const BONES = 4;

/** Every face of a mesh divided into four, by points in the middle of its edges, so many times; its shape stays as it is. What carries the ends of an edge carries its middle. */
export function refine(mesh: Mesh, times: number): Mesh {
  return times > 0 ? refine(divided(mesh), times - 1) : mesh;
}

function divided(mesh: Mesh): Mesh {
  const t = topology(mesh);
  const count = pointCount(mesh);
  const { faceEdges } = t;
  const triangles = new Uint32Array(mesh.triangles.length * 4);
  for (let face = 0; face < mesh.triangles.length / 3; face++) {
    const [a, b, c] = [0, 1, 2].map((i) => mesh.triangles[face * 3 + i]!) as [number, number, number];
    const [ab, bc, ca] = [0, 1, 2].map((i) => count + faceEdges[face * 3 + i]!) as [number, number, number];
    triangles.set([a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca], face * 12);
  }
  const ends = t.edgePoints.subarray(0, t.edgeCount * 2);
  return {
    positions: withMiddles(mesh.positions, 3, ends),
    triangles,
    ...(mesh.material && { material: withMiddles(mesh.material, 2, ends) }),
    ...(mesh.motion && { motion: refinedMotion(mesh.motion, ends) }),
  };
}

function withMiddles(values: Float32Array, width: number, ends: Uint32Array): Float32Array {
  const all = new Float32Array(values.length + (ends.length / 2) * width);
  all.set(values);
  for (let edge = 0; edge < ends.length / 2; edge++) {
    const [a, b] = [ends[edge * 2]! * width, ends[edge * 2 + 1]! * width];
    for (let k = 0; k < width; k++) all[values.length + edge * width + k] = (values[a + k]! + values[b + k]!) / 2;
  }
  return all;
}

function refinedMotion(motion: Motion, ends: Uint32Array): Motion {
  const added = ends.length / 2;
  const joints = new Uint16Array(motion.joints.length + added * BONES);
  const weights = new Float32Array(motion.weights.length + added * BONES);
  joints.set(motion.joints);
  weights.set(motion.weights);
  for (let edge = 0; edge < added; edge++) {
    const shares = new Map<number, number>();
    for (const end of [ends[edge * 2]!, ends[edge * 2 + 1]!]) {
      for (let i = end * BONES; i < end * BONES + BONES; i++) {
        const weight = motion.weights[i]!;
        if (weight > 0) shares.set(motion.joints[i]!, (shares.get(motion.joints[i]!) ?? 0) + weight / 2);
      }
    }
    const kept = [...shares].sort((a, b) => b[1] - a[1] || a[0] - b[0]).slice(0, BONES);
    const total = kept.reduce((sum, [, weight]) => sum + weight, 0);
    kept.forEach(([joint, weight], i) => {
      joints[motion.joints.length + edge * BONES + i] = joint;
      weights[motion.weights.length + edge * BONES + i] = weight / total;
    });
  }
  return {
    ...motion,
    bind: withMiddles(motion.bind, 3, ends),
    joints,
    weights,
    targets: motion.targets.map((target) => withMiddles(target, 3, ends)),
  };
}
