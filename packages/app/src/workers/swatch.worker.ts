import {
  bendTest,
  drapeTest,
  fitDrape,
  stretchTest,
  type BendTest,
  type DrapeTest,
  type Fabric,
  type FittedDrape,
  type StretchTest,
} from '@lumbra/core';
import * as Comlink from 'comlink';

// Swatch tests, in a thread of their own so that a bake goes on meanwhile. Each takes a second or two.

const worker = {
  drape: (fabric: Fabric): DrapeTest => drapeTest(fabric),
  /** Fits how hard a fabric is to bend to a drape coefficient; tells how many tests are done. */
  fitDrape: (fabric: Fabric, coefficient: number, tell: (done: number) => void): FittedDrape =>
    fitDrape(fabric, coefficient, (done) => {
      tell(done);
      return true;
    })!,
  bend: (fabric: Fabric): { warp: BendTest; weft: BendTest } => ({
    warp: bendTest(fabric, { direction: 'warp' }),
    weft: bendTest(fabric, { direction: 'weft' }),
  }),
  stretch: (fabric: Fabric): { warp: StretchTest; weft: StretchTest } => ({
    warp: stretchTest(fabric, 'warp'),
    weft: stretchTest(fabric, 'weft'),
  }),
};

export type SwatchWorker = typeof worker;

Comlink.expose(worker);
