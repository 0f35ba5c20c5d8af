import { formatQuantity } from '../quantity/units';
import { simulatedCloths } from '../run/compile';
import { meanSpacing } from '../mesh/meanSpacing';
import { shapeMesh } from '../shot/shapes';
import type { Check } from './check';

/** A roll needs so many points in a radius, or it is drawn and bends as a polygon. */
const POINTS_IN_RADIUS = 2;

/** Cloth that wants to roll more tightly than its mesh can be bent. */
export const curlTooTight: Check = {
  id: 'curl-too-tight',
  look: ({ shot, assets }) =>
    simulatedCloths(shot).flatMap((cloth) => {
      const { curlWarp, curlWeft } = cloth.fabric;
      const curl = Math.max(Math.abs(curlWarp), Math.abs(curlWeft));
      const spacing = meanSpacing(shapeMesh(cloth.shape, assets));
      if (curl === 0 || 1 / curl >= POINTS_IN_RADIUS * spacing) return [];
      const [radius, wide] = [1 / curl, spacing].map((value) => formatQuantity(value, 'mm', 2));
      return [
        {
          check: 'curl-too-tight',
          thing: cloth.id,
          station: 'fabric' as const,
          grave: false,
          text: `${cloth.name} wants to roll to a radius of ${radius} mm, but its points are ${wide} mm apart: mesh it finer, or let it curl less.`,
          remedy: 'Let it curl less',
        },
      ];
    }),
  mend: (finding, _, assets) => ({
    apply: (draft) => {
      const cloth = draft.things.find(({ id }) => id === finding.thing);
      if (cloth?.role !== 'cloth') return;
      const most = 1 / (POINTS_IN_RADIUS * meanSpacing(shapeMesh(cloth.shape, assets)));
      for (const number of ['curlWarp', 'curlWeft'] as const) {
        cloth.fabric[number] = Math.min(most, Math.max(-most, cloth.fabric[number]));
      }
    },
  }),
};
