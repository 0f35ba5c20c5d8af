import { z } from 'zod';
import { cosine, sine } from '../../math/trigonometry';
import type { Vector3 } from '../../math/vector';
import { quantity } from '../../quantity/quantity';
import { airKind, soft } from '../airKind';
import { eddyNumbers, eddyShare } from '../eddies';
import { gustNumbers } from '../gusts';
import { circle } from '../outlines';
import { speedNumber } from '../speedNumber';
import { shadowNumbers } from '../windShadow';

const size = (label: string, help: string, value: number) =>
  quantity({ label, help, unit: 'm', min: 0.01, max: 100, default: value, step: 0.01, keyable: true });
const part = (label: string, help: string, value: number) =>
  quantity({ label, help, unit: '%', min: -2, max: 2, default: value, step: 0.01, keyable: true });

/** The part of its reach and height over which it fades. */
const EDGE = 0.25;

export const swirl = airKind({
  label: 'Swirl',
  help: 'Goes round its own upright axis, and up it, as a dust devil does.',
  words: ['swirl'],
  goesRound: true,
  schema: z.strictObject({
    kind: z.literal('swirl'),
    speed: speedNumber('Around, where it is fastest. Turn the swirl over to let it go round the other way.', 6),
    core: size('Core', 'So far from the axis it is fastest; within it turns like a wheel.', 0.3),
    reach: size('Reach', 'Farther from the axis the air is still.', 1.5),
    height: size('Height', 'From its place upwards.', 3),
    rise: part('Rise', 'Air that goes up, as a share of the speed around. Negative goes down.', 0.3),
    draw: part('Draw', 'Air that is drawn in, as a share of the speed around. Negative goes out.', 0.2),
    ...gustNumbers,
    ...eddyShare,
    ...eddyNumbers,
    ...shadowNumbers,
  }),
  flow:
    ({ speed, core, reach, height, rise, draw }) =>
    (x, y, z, out) => {
      out[0] = 0;
      out[1] = 0;
      out[2] = 0;
      const away = Math.sqrt(x * x + z * z);
      if (y < 0 || y > height || away >= reach) return;
      const edge = soft((1 - away / reach) / EDGE) * soft(y / height / EDGE) * soft((1 - y / height) / EDGE);
      // Fastest at the core, and falling off as the distance beyond (Kaufmann’s and Scully’s vortex).
      const around = (speed * edge * 2 * core) / (core * core + away * away);
      out[0] = around * (z - draw * x);
      out[1] = around * core * rise;
      out[2] = around * (-x - draw * z);
    },
  shownAt: ({ core, reach, height }) =>
    [0.2, 0.5, 0.8].flatMap((up) =>
      [core, Math.min(reach * 0.8, core * 2.5)].flatMap((radius) =>
        Array.from({ length: 6 }, (_, i): Vector3 => {
          const angle = (Math.PI * (i + 3 * up)) / 3;
          return [radius * cosine(angle), up * height, radius * sine(angle)];
        }),
      ),
    ),
  outline: ({ reach, height }) => {
    const posts: Vector3[] = [
      [reach, 0],
      [-reach, 0],
      [0, reach],
      [0, -reach],
    ].flatMap(([x, z]): Vector3[] => [
      [x!, 0, z!],
      [x!, height, z!],
    ]);
    return [...circle(reach, 1), ...circle(reach, 1, height), ...posts];
  },
});
