import { cosine, sine } from '../../math/trigonometry';
import type { Mesh } from '../mesh';

export interface RingOptions {
  /** From the ring's centre to the middle of its tube, in metres. */
  radius: number;
  /** Radius of the tube in metres. */
  tubeRadius: number;
  /** Points around the ring. */
  segments: number;
  /** Points around its tube; by default as near to each other as those around the ring. */
  around?: number;
}

/** Points around the tube of a ring, so that its faces are about as wide as they are long. */
export function tubePoints({ radius, tubeRadius, segments }: RingOptions): number {
  return Math.max(6, Math.round((segments * tubeRadius * 2) / radius));
}

/** A closed ring lying in the x z plane around the origin. */
export function ring(options: RingOptions): Mesh {
  const { radius, tubeRadius, segments, around = tubePoints(options) } = options;
  const positions = new Float32Array(segments * around * 3);
  const triangles: number[] = [];
  for (let s = 0; s < segments; s++) {
    const turn = (2 * Math.PI * s) / segments;
    for (let t = 0; t < around; t++) {
      const angle = (2 * Math.PI * t) / around;
      const out = radius + tubeRadius * cosine(angle);
      const point = s * around + t;
      positions.set([out * cosine(turn), tubeRadius * sine(angle), out * sine(turn)], point * 3);
      const nextRing = ((s + 1) % segments) * around;
      const [b, c, d] = [s * around + ((t + 1) % around), nextRing + t, nextRing + ((t + 1) % around)];
      triangles.push(point, b, d, point, d, c);
    }
  }
  return { positions, triangles: new Uint32Array(triangles) };
}
