import type { Mesh } from '../mesh';
import { lathe, type ProfilePoint } from './lathe';

export interface ConeOptions {
  /** At the foot, in metres. */
  radius: number;
  /** At the top, in metres; 0 ends in a point. */
  topRadius: number;
  /** Along y, in metres. */
  height: number;
  /** Points around. */
  segments: number;
}

/** A closed cone around the origin, standing along y, pointed or cut off. */
export function cone({ radius, topRadius, height, segments }: ConeOptions): Mesh {
  const half = height / 2;
  const profile: ProfilePoint[] = [
    [0, -half],
    [radius, -half],
    [topRadius, half],
  ];
  if (topRadius > 0) profile.push([0, half]);
  return lathe(profile, segments);
}
