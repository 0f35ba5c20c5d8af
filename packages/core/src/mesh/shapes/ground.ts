import { box } from './box';
import type { Mesh } from '../mesh';

/** How much of the endless ground is written to files, in metres. */
export const GROUND_SIZE = 10;

/** The ground as a mesh: a thin slab whose top lies in the plane y = 0. The solver uses the endless plane. */
export function ground(): Mesh {
  const mesh = box({ size: [GROUND_SIZE, 0.02, GROUND_SIZE] });
  for (let i = 1; i < mesh.positions.length; i += 3) mesh.positions[i]! -= 0.01;
  return mesh;
}
