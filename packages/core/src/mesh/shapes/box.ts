import type { Mesh } from '../mesh';

export interface BoxOptions {
  /** Full size along x, y and z in metres. */
  size: readonly [number, number, number];
}

/** A closed box of twelve triangles around the origin. */
export function box({ size }: BoxOptions): Mesh {
  const [x, y, z] = [size[0] / 2, size[1] / 2, size[2] / 2];
  const positions = new Float32Array(24);
  for (let corner = 0; corner < 8; corner++) {
    positions.set([corner & 1 ? x : -x, corner & 2 ? y : -y, corner & 4 ? z : -z], corner * 3);
  }
  // prettier-ignore
  const triangles = new Uint32Array([
    0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5, 0, 1, 5, 0, 5, 4,
    2, 6, 7, 2, 7, 3, 0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6,
  ]);
  return { positions, triangles };
}
