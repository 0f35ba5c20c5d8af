import { z } from 'zod';
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
const share = (label: string, help: string, value: number) =>
  quantity({ label, help, unit: '%', min: 0, max: 1, default: value, step: 0.01, keyable: true });

export const beam = airKind({
  label: 'Beam',
  help: 'Blows out of one place, so wide and so far: a draught, a fan, the wash of a rotor.',
  words: ['beam', 'draught'],
  aims: true,
  schema: z.strictObject({
    kind: z.literal('beam'),
    speed: speedNumber('Where it comes out.', 6),
    width: size('Width', 'Across the beam, which is round.', 0.6),
    length: size('Length', 'How far it blows.', 3),
    edge: share('Soft edge', 'The part of the width, and of the length, over which it fades to nothing.', 0.3),
    fading: share('Fading', 'How much of its speed it has lost at its end.', 0.4),
    ...gustNumbers,
    ...eddyShare,
    ...eddyNumbers,
    ...shadowNumbers,
  }),
  flow:
    ({ speed, width, length, edge, fading }) =>
    (x, y, z, out) => {
      out[0] = 0;
      out[1] = 0;
      out[2] = 0;
      if (z < 0 || z > length) return;
      const inside = 1 - (2 * Math.sqrt(x * x + y * y)) / width;
      const left = 1 - z / length;
      if (inside <= 0) return;
      const across = edge > 0 ? soft(inside / edge) : 1;
      const along = edge > 0 ? soft(left / edge) : 1;
      out[2] = speed * across * along * (1 - fading * (1 - left));
    },
  shownAt: ({ width, length }) => {
    const aside = [0, 0.25, -0.25].map((part) => part * width);
    const shares = [0.02, 0.22, 0.42, 0.62, 0.82];
    return shares.flatMap((part) => [
      ...aside.map((x): Vector3 => [x, 0, part * length]),
      ...aside.slice(1).map((y): Vector3 => [0, y, part * length]),
    ]);
  },
  outline: ({ width, length }) => {
    const radius = width / 2;
    const sides: Vector3[] = [
      [radius, 0],
      [-radius, 0],
      [0, radius],
      [0, -radius],
    ].flatMap(([x, y]): Vector3[] => [
      [x!, y!, 0],
      [x!, y!, length],
    ]);
    return [...circle(radius, 2), ...circle(radius, 2, length), ...sides];
  },
});
