import { cosine, sine } from '../math/trigonometry';
import type { Vector3 } from '../math/vector';

// Lines by which the reach of air is drawn: places two by two.

const STEPS = 40;

/** A circle about the axis `about` (0 is x), so far along it. */
export function circle(radius: number, about: 0 | 1 | 2, along = 0): Vector3[] {
  const places = Array.from({ length: STEPS + 1 }, (_, i): Vector3 => {
    const angle = (2 * Math.PI * i) / STEPS;
    const [c, s] = [radius * cosine(angle), radius * sine(angle)];
    return [
      [along, c, s],
      [s, along, c],
      [c, s, along],
    ][about] as unknown as Vector3;
  });
  return places.slice(1).flatMap((place, i) => [places[i]!, place]);
}

/** A ball as its three great circles. */
export function ballOutline(radius: number): Vector3[] {
  return ([0, 1, 2] as const).flatMap((about) => circle(radius, about));
}
