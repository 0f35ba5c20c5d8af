import { formatQuantity } from '../quantity/units';
import { meanSpacing } from '../mesh/meanSpacing';
import { simulatedCloths } from '../run/compile';
import { layerDistanceFor } from '../shot/layerDistance';
import { shapeMesh } from '../shot/shapes';
import type { Check } from './check';

/** From this share of the spacing on, neighbours in a cloth are looked at as layers that may meet: a fine cloth took six times the time. */
const WIDE = 0.6;

/** Layers are kept so far apart that the cloth's own neighbours count as layers. */
export const layersTooWide: Check = {
  id: 'layers-too-wide',
  look: ({ shot, assets }) =>
    simulatedCloths(shot).flatMap((cloth) => {
      const { enabled, thickness } = cloth.selfContact;
      const spacing = meanSpacing(shapeMesh(cloth.shape, assets));
      if (!enabled || thickness <= WIDE * spacing || layerDistanceFor(spacing) >= thickness) return [];
      const [kept, wide, wanted] = [thickness, spacing, layerDistanceFor(spacing)].map((value) =>
        formatQuantity(value, 'mm', 2),
      );
      return [
        {
          check: 'layers-too-wide',
          thing: cloth.id,
          station: 'fabric' as const,
          grave: false,
          text: `Layers of ${cloth.name} keep ${kept} mm apart, and its points are ${wide} mm apart: it costs much time, and folds cannot close.`,
          remedy: `Set it to ${wanted} mm`,
        },
      ];
    }),
  mend: (finding, _, assets) => ({
    apply: (draft) => {
      const cloth = draft.things.find(({ id }) => id === finding.thing);
      if (cloth?.role !== 'cloth') return;
      cloth.selfContact.thickness = layerDistanceFor(meanSpacing(shapeMesh(cloth.shape, assets)));
    },
  }),
};
