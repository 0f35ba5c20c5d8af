import { cosine, sine } from '../../math/trigonometry';
import { cross, direction, dot, type Vector3 } from '../../math/vector';
import type { Mesh } from '../mesh';

export interface KnotOptions {
  /** From the centre to the middle of the ring that the rope winds around, in metres. */
  radius: number;
  /** Radius of the rope, in metres. */
  tubeRadius: number;
  /** How often the rope winds around that ring while it goes around twice; odd, from 3. */
  windings: number;
  /** Points along the rope. */
  segments: number;
}

/** A closed rope tied into a knot around the origin, lying in the x z plane: the torus knot (2, windings). */
export function knot({ radius, tubeRadius, windings, segments }: KnotOptions): Mesh {
  const around = 12;
  const swing = radius * 0.45;
  const positions = new Float32Array(segments * around * 3);
  const triangles: number[] = [];
  const path = (turn: number): { place: Vector3; out: Vector3 } => {
    const [long, short] = [2 * turn, windings * turn];
    const ring: Vector3 = [radius * cosine(long), 0, radius * sine(long)];
    const out: Vector3 = [cosine(short) * cosine(long), sine(short), cosine(short) * sine(long)];
    return { place: [ring[0] + swing * out[0], swing * out[1], ring[2] + swing * out[2]], out };
  };
  for (let s = 0; s < segments; s++) {
    const turn = (2 * Math.PI * s) / segments;
    const step = 1e-4;
    const { place, out } = path(turn);
    const [before, after] = [path(turn - step).place, path(turn + step).place];
    const along = direction([after[0] - before[0], after[1] - before[1], after[2] - before[2]])!;
    const lean = dot(out, along);
    const normal = direction([out[0] - lean * along[0], out[1] - lean * along[1], out[2] - lean * along[2]])!;
    const side = cross(along, normal);
    for (let t = 0; t < around; t++) {
      const angle = (2 * Math.PI * t) / around;
      const [c, d] = [tubeRadius * cosine(angle), tubeRadius * sine(angle)];
      const point = s * around + t;
      positions.set(
        [0, 1, 2].map((axis) => place[axis]! + c * normal[axis]! + d * side[axis]!),
        point * 3,
      );
      const nextRow = ((s + 1) % segments) * around;
      const [b, e, f] = [s * around + ((t + 1) % around), nextRow + t, nextRow + ((t + 1) % around)];
      triangles.push(point, b, f, point, f, e);
    }
  }
  return { positions, triangles: new Uint32Array(triangles) };
}
