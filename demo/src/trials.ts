import type { Shot } from '@lumbra/core';
import { sideInWind } from './trialInWind';
import * as trials from './trialShots';

/** All trials: what a quality promises has to hold in each. */
export const TRIALS: (() => Shot)[] = [
  trials.sheetOnCrate,
  () => trials.twoLayers('silk-chiffon', 'denim'),
  () => trials.twoLayers('denim', 'silk-chiffon'),
  trials.turningLayers,
  trials.closingPlates,
  trials.drawnThroughRing,
  trials.sheetOnCone,
  trials.sheetOnRods,
  sideInWind,
];
