import type { Vector3 } from '../math/vector';
import type { Mesh, Motion } from './mesh';

/** The mesh at so many times its size along x, y and z. Material coordinates, being cut lengths, stay as they are. */
export function scaleMesh(mesh: Mesh, by: Vector3): Mesh {
  return {
    ...mesh,
    positions: mesh.positions.map((value, i) => value * by[i % 3]!),
    ...(mesh.motion && { motion: scaleMotion(mesh.motion, by) }),
  };
}

function scaleMotion(motion: Motion, by: Vector3): Motion {
  const clips = motion.clips.map((clip) => ({
    ...clip,
    matrices: clip.matrices.map((value, i) => value * by[Math.floor((i % 12) / 4)]!),
  }));
  return { ...motion, clips };
}
