import { formatQuantity } from '../quantity/units';
import { pointCount } from '../mesh/mesh';
import { activeCloths } from '../run/compile';
import { shapeMesh } from '../shot/shapes';
import type { Check } from './check';

/** Bytes of one point in a kept frame. */
const POINT_BYTES = 12;

/** The bake is older than the shot. */
export const staleBake: Check = {
  id: 'stale-bake',
  look: ({ bake }) =>
    bake?.stale
      ? [
          {
            check: 'stale-bake',
            thing: null,
            station: 'run',
            grave: false,
            text: `The bake of ${bake.frames} frames is stale: the shot has changed since.`,
            remedy: 'Bake again',
            act: 'bake',
          },
        ]
      : [],
};

/** There is not enough room to keep the bake. */
export const noRoom: Check = {
  id: 'no-room',
  look: ({ shot, assets, bytesFree }) => {
    if (bytesFree === null) return [];
    const points = activeCloths(shot).reduce((sum, { shape }) => {
      if (shape.kind === 'mesh' && !assets.has(shape.asset)) return sum;
      return sum + pointCount(shapeMesh(shape, assets));
    }, 0);
    const needed = points * POINT_BYTES * (shot.lastFrame - shot.firstFrame + 1);
    if (needed < bytesFree) return [];
    const megabytes = (bytes: number) => `${formatQuantity(Math.ceil(bytes / 1e6), '', 9)} MB`;
    return [
      {
        check: 'no-room',
        thing: null,
        station: 'run',
        grave: true,
        text: `This bake needs ${megabytes(needed)}, and the browser has ${megabytes(Math.max(0, bytesFree))} left.`,
        remedy: 'Free room',
        act: 'free room',
      },
    ];
  },
};
