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
  const ds = length / STEPS;
  const shoot = (curvature: number) => {
    let [theta, slope, x, y] = [0, curvature, 0, 0];
    // A strip never hangs past the vertical: then the curvature was too strong, whatever it ends with.
    let turned = false;
    const places: [number, number][] = [[0, 0]];
    for (let i = 0; i < STEPS; i++) {
      const rest = length - (i + 0.5) * ds;
      const middle = theta + (slope * ds) / 2;
      slope += ((weight * gravity * rest * cosine(middle)) / rigidity) * ds;
      x += cosine(middle) * ds;
      y += sine(middle) * ds;
      theta = middle + (slope * ds) / 2;
      if (theta < -1.6) turned = true;
      places.push([x, y]);
    }
    return { slope, turned, places };
  };
  // The moment at the clamp is at most that of the strip held out straight.
  let [low, high] = [-(weight * gravity * length * length) / rigidity, 0];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    const { slope, turned } = shoot(middle);
    if (slope < 0 || turned) low = middle;
    else high = middle;
  }
  return shoot((low + high) / 2).places;
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
