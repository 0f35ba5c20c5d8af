import type { Fabric } from '../fabric/fabric';
import { drapeTest, type DrapeTest } from './drapeTest';

/** As near as this, as a share, a fit comes to the coefficient. */
const NEAR = 0.01;
const MOST_TESTS = 9;
/** How much softer and how much stiffer than the fabric is looked for. */
const WIDEST = 100;
/** The stiffest that a fabric can be, in N.m. */
const STIFFEST = 0.01;

export interface FittedDrape {
  bendWarp: number;
  bendWeft: number;
  test: DrapeTest;
}

/**
 * Finds how hard a fabric has to be to bend so that it drapes with a coefficient (a share): both rigidities are scaled alike, by halving
 * between one that drapes less and one that drapes more. Each step is a drape test, of a second or two; `heed` is told how many are
 * done, and stops the fit where it says no.
 * @throws RangeError when cloth of this weight cannot drape so; null when it was stopped
 */
export function fitDrape(
  fabric: Fabric,
  coefficient: number,
  heed: (done: number) => boolean = () => true,
  test: (fabric: Fabric) => DrapeTest = drapeTest,
): FittedDrape | null {
  const base = Math.max(fabric.bendWarp, fabric.bendWeft) > 0 ? fabric : { ...fabric, bendWarp: 1e-6, bendWeft: 1e-6 };
  const stiffest = Math.min(WIDEST, STIFFEST / Math.max(base.bendWarp, base.bendWeft));
  const scaled = (by: number) => ({ bendWarp: base.bendWarp * by, bendWeft: base.bendWeft * by });
  let done = 0;
  const tried = (by: number): FittedDrape | null => {
    const numbers = scaled(by);
    const found = { ...numbers, test: test({ ...fabric, ...numbers }) };
    return heed(++done) ? found : null;
  };
  // From the fabric as it is, outwards until the coefficient lies between two.
  let [low, high] = [1, 1];
  let best = tried(1);
  if (!best) return null;
  const stiffer = best.test.coefficient < coefficient;
  while (Math.abs(best.test.coefficient - coefficient) > NEAR) {
    const inside = low !== high;
    const by: number = inside
      ? Math.sqrt(low * high)
      : stiffer
        ? Math.min(high * 4, stiffest)
        : Math.max(low / 4, 1 / WIDEST);
    if ((!inside && by === (stiffer ? high : low)) || done >= MOST_TESTS) break;
    const next = tried(by);
    if (!next) return null;
    const isBelow = next.test.coefficient < coefficient;
    if (inside || isBelow !== stiffer) {
      // What lies between is halved.
      if (!inside) [low, high] = stiffer ? [high, by] : [by, low];
      else if (isBelow) low = by;
      else high = by;
    } else low = high = by;
    if (Math.abs(next.test.coefficient - coefficient) < Math.abs(best.test.coefficient - coefficient)) best = next;
  }
  if (Math.abs(best.test.coefficient - coefficient) > 3 * NEAR) {
    throw new RangeError(
      `Cloth of this weight does not drape to ${(coefficient * 100).toFixed(0)} %: the nearest was ${(best.test.coefficient * 100).toFixed(0)} %. Measure its weight, or take another fabric to begin with.`,
    );
  }
  return best;
}
