import { cosine, sine } from '../../math/trigonometry';
import type { Mesh } from '../mesh';
import { lathe, type ProfilePoint } from './lathe';

export interface CapsuleOptions {
  /** In metres. */
  radius: number;
  /** Along y from end to end, round ends included, in metres; at least twice the radius. */
  height: number;
  /** Points around. */
  segments: number;
}

/** A closed capsule around the origin, standing along y: a cylinder with round ends. */
export function capsule({ radius, height, segments }: CapsuleOptions): Mesh {
  const rows = Math.max(3, Math.round(segments / 4));
  const middle = Math.max(0, height / 2 - radius);
  const profile: ProfilePoint[] = [];
  const add = (angle: number, centre: number, pole: boolean) =>
    profile.push([pole ? 0 : radius * cosine(angle), centre + radius * sine(angle)]);
  for (let row = 0; row <= rows; row++) add((Math.PI / 2) * (row / rows - 1), -middle, row === 0);
  for (let row = middle > 0 ? 0 : 1; row <= rows; row++) add((Math.PI / 2) * (row / rows), middle, row === rows);
  return lathe(profile, segments);
}
