import { z } from 'zod';
import type { Vector3 } from '../../math/vector';
import { airKind } from '../airKind';
import { eddyNumbers, eddyShare } from '../eddies';
import { gustNumbers } from '../gusts';
import { speedNumber } from '../speedNumber';
import { shadowNumbers } from '../windShadow';

const ASIDE = [-0.6, 0, 0.6];

export const wind = airKind({
  label: 'Wind',
  help: 'Blows everywhere, in one direction.',
  words: ['wind'],
  even: true,
  aims: true,
  schema: z.strictObject({
    kind: z.literal('wind'),
    speed: speedNumber('3 m/s moves leaves, 10 m/s large branches, 25 m/s uproots trees.', 5),
    ...gustNumbers,
    ...eddyShare,
    ...eddyNumbers,
    ...shadowNumbers,
  }),
  flow:
    ({ speed }) =>
    (_x, _y, _z, out) => {
      out[0] = 0;
      out[1] = 0;
      out[2] = speed;
    },
  shownAt: () => ASIDE.flatMap((x) => ASIDE.map((y): Vector3 => [x, y, 0])),
  outline: () => [],
});
