import type { Mesh } from '../mesh';
import { lathe } from './lathe';

export interface TubeOptions {
  /** From the axis to the outside, in metres. */
  radius: number;
  /** Thickness of the wall, in metres; less than the radius. */
  wall: number;
  /** Along y, in metres. */
  height: number;
  /** Points around. */
  segments: number;
}

/** A closed pipe around the origin, standing along y and open at both ends. */
export function tube({ radius, wall, height, segments }: TubeOptions): Mesh {
  const [inner, half] = [radius - wall, height / 2];
  return lathe(
    [
      [radius, -half],
      [radius, half],
      [inner, half],
      [inner, -half],
    ],
    segments,
    true,
  );
}
