import { cosine, sine } from '../../math/trigonometry';
import type { Mesh } from '../mesh';

export interface HoopOptions {
  /** Of the half round, to the middle of the rod, in metres. */
  radius: number;
  /** How far the rod goes on straight down on either side, in metres. */
  leg: number;
  /** Radius of the rod in metres. */
  tubeRadius: number;
  /** Steps over the half round. */
  segments: number;
}

/** A rod bent to a half round with straight legs, standing in the y z plane; closed at its feet. The middle of its box is the origin. */
export function hoop({ radius, leg, tubeRadius, segments }: HoopOptions): Mesh {
  const around = 10;
  const middle = (radius + tubeRadius + leg) / 2;
  // Along the rod: height over the feet, place across, and the outward direction in its plane.
  const path: [height: number, across: number, up: number, out: number][] = [];
  if (leg > 0) path.push([0, -radius, 0, -1]);
  for (let s = 0; s <= segments; s++) {
    const [up, out] = [sine((Math.PI * s) / segments), -cosine((Math.PI * s) / segments)];
    path.push([leg + radius * up, radius * out, up, out]);
  }
  if (leg > 0) path.push([0, radius, 0, 1]);
  const positions: number[] = [];
  const triangles: number[] = [];
  for (const [height, side, up, out] of path) {
    for (let t = 0; t < around; t++) {
      const angle = (2 * Math.PI * t) / around;
      const [away, along] = [tubeRadius * cosine(angle), tubeRadius * sine(angle)];
      positions.push(along, height + up * away - middle, side + out * away);
    }
  }
  for (let s = 0; s + 1 < path.length; s++) {
    for (let t = 0; t < around; t++) {
      const [a, b] = [s * around + t, s * around + ((t + 1) % around)];
      triangles.push(a, a + around, b, b, a + around, b + around);
    }
  }
  const last = (path.length - 1) * around;
  for (let t = 1; t + 1 < around; t++) triangles.push(0, t, t + 1, last, last + t + 1, last + t);
  return { positions: new Float32Array(positions), triangles: new Uint32Array(triangles) };
}
