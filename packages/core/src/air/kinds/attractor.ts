import { z } from 'zod';
import type { Vector3 } from '../../math/vector';
import { quantity } from '../../quantity/quantity';
import { airKind } from '../airKind';
import { ballOutline } from '../outlines';

/** Nearer than this, in m, it draws the less the nearer: what is at its place stays there. */
const MIDDLE = 0.05;

const length = (label: string, help: string, value: number, group?: string) =>
  quantity({ label, help, unit: 'm', min: 0.01, max: 100, default: value, step: 0.01, keyable: true, group });

/** How far its strength has fallen at a distance from its middle, 1 to 0. */
function left(away: number, { reach, falloff }: { reach: number; falloff: number }): number {
  if (away >= reach) return 0;
  const share = 1 - away / reach;
  // From even to the edge (0), by straight fall (1), to falling with the square and more.
  let fallen = 1;
  const whole = Math.floor(falloff);
  for (let n = 0; n < whole; n++) fallen *= share;
  return fallen * (1 - (falloff - whole) * (1 - share));
}

export const attractor = airKind({
  label: 'Attractor',
  help: 'A place that draws cloth to it, or pushes it away, and can hold what it caught.',
  words: ['attractor'],
  schema: z.strictObject({
    kind: z.literal('attractor'),
    pull: quantity({
      label: 'Pull',
      help: 'On every square metre of cloth: light cloth follows faster. Negative pushes away.',
      unit: 'Pa',
      min: -1e6,
      max: 1e6,
      default: 5,
      step: 0.1,
      keyable: true,
    }),
    acceleration: quantity({
      label: 'Acceleration',
      help: 'The same for light and heavy cloth, as gravity is; adds to the pull. Negative pushes away.',
      unit: 'm/s²',
      min: -1000,
      max: 1000,
      default: 0,
      step: 0.1,
      keyable: true,
    }),
    reach: length('Reach', 'Farther from its place nothing is drawn.', 1),
    falloff: quantity({
      label: 'Falloff',
      help: '0: as strong to the edge of its reach. 1: falls evenly to nothing there. 2: with the square.',
      unit: '',
      min: 0,
      max: 6,
      default: 1,
      step: 0.05,
      keyable: true,
    }),
    grip: quantity({
      label: 'Grip',
      help: 'What comes within the reach of the grip goes along with it, until so much pulls on a square metre.',
      unit: 'Pa',
      min: 0,
      max: 1e6,
      default: 0,
      step: 0.1,
      keyable: true,
      group: 'Grip',
    }),
    gripReach: length('Reach of the grip', 'How near cloth has to come to be held.', 0.2, 'Grip'),
  }),
  pull:
    ({ pull, acceleration, reach, falloff, grip, gripReach }) =>
    (x, y, z, weight, out) => {
      const away = Math.sqrt(x * x + y * y + z * z);
      const strength = (acceleration + pull / weight) * left(away, { reach, falloff });
      const per = -strength / Math.max(away, MIDDLE);
      out[0] = per * x;
      out[1] = per * y;
      out[2] = per * z;
      out[3] = away < gripReach ? grip / weight : 0;
    },
  strongest: ({ pull, acceleration }, weight) => Math.abs(acceleration + pull / weight),
  shownAt: ({ reach }) =>
    [0.35, 0.7].flatMap((share) => {
      const r = share * reach;
      const d = r * Math.SQRT1_2;
      return [
        [r, 0, 0],
        [-r, 0, 0],
        [0, r, 0],
        [0, -r, 0],
        [0, 0, r],
        [0, 0, -r],
        [d, d, 0],
        [-d, d, 0],
        [d, -d, 0],
        [-d, -d, 0],
      ] as unknown as Vector3[];
    }),
  outline: ({ reach }) => ballOutline(reach),
});
