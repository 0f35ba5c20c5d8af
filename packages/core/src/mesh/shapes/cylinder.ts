import { cosine, sine } from '../../math/trigonometry';
import type { Mesh } from '../mesh';

export interface CylinderOptions {
  /** In metres. */
  radius: number;
  /** Along y, in metres. */
  height: number;
  /** Points around. */
  segments: number;
}

/** A closed cylinder around the origin, standing along y. */
export function cylinder({ radius, height, segments }: CylinderOptions): Mesh {
  const positions = new Float32Array((2 * segments + 2) * 3);
  const triangles: number[] = [];
  const [bottom, top] = [2 * segments, 2 * segments + 1];
  for (let s = 0; s < segments; s++) {
    const angle = (2 * Math.PI * s) / segments;
    const [x, z] = [radius * cosine(angle), radius * sine(angle)];
    positions.set([x, -height / 2, z], s * 3);
    positions.set([x, height / 2, z], (segments + s) * 3);
    const next = (s + 1) % segments;
    triangles.push(s, segments + s, segments + next, s, segments + next, next);
    triangles.push(bottom, s, next, top, segments + next, segments + s);
  }
  positions.set([0, -height / 2, 0], bottom * 3);
  positions.set([0, height / 2, 0], top * 3);
  return { positions, triangles: new Uint32Array(triangles) };
}
