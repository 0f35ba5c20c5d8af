import type { Mesh, Motion } from './mesh';

/** A mesh of some of another's points, in the order given, with all that belongs to them; `triangles` name the new points. */
export function keepPoints(mesh: Mesh, kept: ArrayLike<number>, triangles: Uint32Array): Mesh {
  return {
    positions: pick(mesh.positions, 3, kept),
    triangles,
    ...(mesh.material && { material: pick(mesh.material, 2, kept) }),
    ...(mesh.motion && { motion: keepMotion(mesh.motion, kept) }),
  };
}

function keepMotion(motion: Motion, kept: ArrayLike<number>): Motion {
  return {
    ...motion,
    bind: pick(motion.bind, 3, kept),
    joints: pick(motion.joints, 4, kept),
    weights: pick(motion.weights, 4, kept),
    targets: motion.targets.map((target) => pick(target, 3, kept)),
  };
}

function pick<T extends Float32Array | Uint16Array>(from: T, width: number, kept: ArrayLike<number>): T {
  const to = new (from.constructor as new (length: number) => T)(kept.length * width);
  for (let i = 0; i < kept.length; i++) {
    for (let k = 0; k < width; k++) to[i * width + k] = from[kept[i]! * width + k]!;
  }
  return to;
}
