// Sine, cosine and arc tangent from additions, multiplications and square roots only, which IEEE 754 fixes to
// the bit. Math.sin and its kin differ between engines, and a shot must give the same bits everywhere.

const HALF_PI_HIGH = 1.5707963267341256;
const HALF_PI_LOW = 6.077100506506192e-11;

function sineNearZero(x: number): number {
  const s = x * x;
  let sum = 0;
  for (let n = 17; n >= 3; n -= 2) sum = (s / (n * (n - 1))) * -(1 + sum);
  return x * (1 + sum);
}

function cosineNearZero(x: number): number {
  const s = x * x;
  let sum = 0;
  for (let n = 18; n >= 2; n -= 2) sum = (s / (n * (n - 1))) * -(1 + sum);
  return 1 + sum;
}

/** Splits an angle into quarter turns and a rest within a quarter of pi on either side of zero. */
function reduce(angle: number): { quarter: number; rest: number } {
  const turns = Math.round(angle / (HALF_PI_HIGH + HALF_PI_LOW));
  const rest = angle - turns * HALF_PI_HIGH - turns * HALF_PI_LOW;
  return { quarter: ((turns % 4) + 4) % 4, rest };
}

/** Sine of an angle in radians, accurate to about 1e-15 for angles up to 1e5. */
export function sine(angle: number): number {
  const { quarter, rest } = reduce(angle);
  const value = quarter % 2 === 0 ? sineNearZero(rest) : cosineNearZero(rest);
  return quarter < 2 ? value : -value;
}

/** Cosine of an angle in radians, accurate to about 1e-15 for angles up to 1e5. */
export function cosine(angle: number): number {
  return sine(angle + HALF_PI_HIGH + HALF_PI_LOW);
}

/** Angle in radians, from -pi to pi, of the direction (x, y). */
export function arcTangent(y: number, x: number): number {
  if (x === 0 && y === 0) return 0;
  if (Math.abs(y) > Math.abs(x)) {
    return (y > 0 ? Math.PI / 2 : -Math.PI / 2) - arcTangentOfRatio(x / y);
  }
  const near = arcTangentOfRatio(y / x);
  if (x > 0) return near;
  return y >= 0 ? near + Math.PI : near - Math.PI;
}

/** For ratios from -1 to 1: the angle is halved three times, then a short series serves. */
function arcTangentOfRatio(ratio: number): number {
  let t = ratio;
  for (let n = 0; n < 3; n++) t = t / (1 + Math.sqrt(1 + t * t));
  const s = t * t;
  let sum = 0;
  for (let n = 21; n >= 3; n -= 2) sum = s * (1 / n - sum);
  return 8 * t * (1 - sum);
}
