// Night Ferry, the demo production: a small ferry lands on a river at night. Made up, and Lumbra's own.
import type { Shot } from '@lumbra/core';
import { nf010CrateCover } from './nf010CrateCover';
import { nf020Awning } from './nf020Awning';
import { nf030GangwayHood } from './nf030GangwayHood';
import { nf040Handbills } from './nf040Handbills';
import { nf050RuckedRunner } from './nf050RuckedRunner';
import { nf090CartHood } from './nf090CartHood';
import { nf100FrozenApron } from './nf100FrozenApron';
import { nf120BrailingUp } from './nf120BrailingUp';
import { PRODUCTION } from './production';

export * from './stressShots';

export const NIGHT_FERRY = {
  ...PRODUCTION,
  /** Builders of the shots, in order. */
  shots: [
    nf010CrateCover,
    nf020Awning,
    nf030GangwayHood,
    nf040Handbills,
    nf050RuckedRunner,
    nf090CartHood,
    nf100FrozenApron,
    nf120BrailingUp,
  ] as readonly (() => Shot)[],
};
