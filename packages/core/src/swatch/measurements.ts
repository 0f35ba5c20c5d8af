import type { Fabric } from '../fabric/fabric';
import type { Quantity } from '../quantity/quantity';
import { bendingLength } from './elastica';
import { STRETCH_LOAD } from './stretchTest';

// What a laboratory measures of cloth, and the numbers of a fabric that stand for it. The drape coefficient is not among them: it needs
// drape tests; see fitDrape.ts.

const GRAVITY = 9.81;

/** A number that is measured of cloth. */
export interface Measurement {
  quantity: Quantity;
  /** The number of a fabric that it stands for. */
  number: 'bendWarp' | 'bendWeft' | 'stretchWarp' | 'stretchWeft';
  /** What would be measured of a fabric, in SI. */
  measured: (fabric: Fabric) => number;
  /** What the fabric's number has to be so that this is measured. */
  fitted: (measured: number, fabric: Fabric) => number;
}

/** Bending length c with B = w g c^3 (Peirce 1930, "The Handle of Cloth as a Measurable Quantity"). */
function bending(direction: 'warp' | 'weft'): Measurement {
  const number = direction === 'warp' ? 'bendWarp' : 'bendWeft';
  return {
    quantity: {
      label: `Bending length, ${direction}`,
      help: `Half the length of a strip along the ${direction} that bends down by 41.5° over an edge. Sets how hard it is to bend.`,
      ...{ unit: 'mm', min: 0.001, max: 0.2, default: 0.02, step: 'ratio' },
    },
    number,
    measured: (fabric) => (fabric[number] > 0 ? bendingLength(fabric.weight, fabric[number]) : 0),
    fitted: (length, { weight }) => weight * GRAVITY * length * length * length,
  };
}

/** Extension of a strip at the load under which it is usually given. */
function extension(direction: 'warp' | 'weft'): Measurement {
  const number = direction === 'warp' ? 'stretchWarp' : 'stretchWeft';
  return {
    quantity: {
      label: `Extension, ${direction}`,
      help: `How much longer a strip becomes at ${STRETCH_LOAD} N per metre of width. Sets how far it gives.`,
      ...{ unit: '%', min: 0.0001, max: 1, default: 0.02, step: 'ratio' },
    },
    number,
    measured: (fabric) => STRETCH_LOAD / fabric[number],
    fitted: (share) => STRETCH_LOAD / share,
  };
}

export const MEASUREMENTS: readonly Measurement[] = [
  bending('warp'),
  bending('weft'),
  extension('warp'),
  extension('weft'),
];
