import { cosine, sine } from '../math/trigonometry';

const STEPS = 400;

/**
 * The shape of a strip that is clamped level at one end and hangs under its own weight: the heavy elastica
 * B theta'' = -w g (L - s) cos(theta), solved by shooting for the curvature at the clamp that leaves none at the free end.
 * @param length free length L in m
 * @param weight w in kg/m2, of a strip of any width
 * @param rigidity B in N.m
 * @returns places along the strip from the clamp to its tip, x along it and y upwards, in m
 */
export function elastica(length: number, weight: number, rigidity: number, gravity = 9.81): [number, number][] {
  // The moment at the clamp is at most that of the strip held out straight.
  let [low, high] = [-(weight * gravity * length * length) / rigidity, 0];
  // Further halves are lost in rounding.
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (tooStrong(middle, length, (weight * gravity) / rigidity)) low = middle;
    else high = middle;
  }
  const places: [number, number][] = [[0, 0]];
  tooStrong((low + high) / 2, length, (weight * gravity) / rigidity, places);
  return places;
}

/**
 * Shoots from the clamp to the tip.
 * @param curvature at the clamp, in 1/m
 * @param load w g / B in 1/m3
 * @param places where to write the places on the way; they cost more than the shot
 * @returns whether the curvature was too strong
 */
function tooStrong(curvature: number, length: number, load: number, places?: [number, number][]): boolean {
  const ds = length / STEPS;
  let [theta, slope, x, y] = [0, curvature, 0, 0];
  for (let i = 0; i < STEPS; i++) {
    const rest = length - (i + 0.5) * ds;
    const middle = theta + (slope * ds) / 2;
    const level = cosine(middle);
    slope += load * rest * level * ds;
    theta = middle + (slope * ds) / 2;
    if (places) {
      x += level * ds;
      y += sine(middle) * ds;
      places.push([x, y]);
    } else if (theta < -1.6) return true; // A strip never hangs past the vertical, whatever it would end with.
  }
  return slope < 0;
}

/** A place on an elastica by its distance from the clamp along the strip, in m. */
function placeAlong(places: readonly [number, number][], length: number, distance: number): [number, number] {
  const at = Math.min(STEPS, Math.max(0, (distance / length) * STEPS));
  const i = Math.min(STEPS - 1, Math.floor(at));
  const [a, b] = [places[i]!, places[i + 1]!];
  return [a[0] + (b[0] - a[0]) * (at - i), a[1] + (b[1] - a[1]) * (at - i)];
}

/**
 * The rigidity in N.m with which an elastica fits a strip best, by least squares over its whole shape: where a strip
 * hangs steeply, its tip alone hardly tells.
 * @param shape places along the strip: distance from the clamp along it, x and y, in m
 */
export function rigidityOfShape(
  shape: readonly { along: number; x: number; y: number }[],
  length: number,
  weight: number,
  gravity = 9.81,
): number {
  const misfit = (power: number) => {
    const places = elastica(length, weight, weight * gravity * length ** 3 * 10 ** power, gravity);
    return shape.reduce((sum, { along, x, y }) => {
      const [ex, ey] = placeAlong(places, length, along);
      return sum + (x - ex) ** 2 + (y - ey) ** 2;
    }, 0);
  };
  // Golden section over powers of ten: from a strip of eight bending lengths to one of a tenth.
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [-2.7, 3];
  let [a, b] = [high - golden * (high - low), low + golden * (high - low)];
  let [atA, atB] = [misfit(a), misfit(b)];
  for (let i = 0; i < 40; i++) {
    if (atA < atB) {
      [high, b, atB] = [b, a, atA];
      a = high - golden * (high - low);
      atA = misfit(a);
    } else {
      [low, a, atA] = [a, b, atB];
      b = low + golden * (high - low);
      atB = misfit(b);
    }
  }
  return weight * gravity * length ** 3 * 10 ** ((low + high) / 2);
}

/** Length in m of which a strip's bending under its own weight is a matter: (B / (w g))^(1/3) (Peirce 1930). */
export function bendingLength(weight: number, rigidity: number, gravity = 9.81): number {
  const cube = rigidity / (weight * gravity);
  // A cube root by Newton's method, since Math.cbrt may differ between engines.
  let root = 0.02;
  for (let i = 0; i < 60; i++) root -= (root * root * root - cube) / (3 * root * root);
  return root;
}
