import { Grid3x3 } from '@lucide/vue';
import { defineAsyncComponent } from 'vue';
import { cues } from '../../viewport/layers/cues';
import type { Station } from '../station';

export const fabric: Station = {
  id: 'fabric',
  label: 'Fabric',
  icon: Grid3x3,
  panel: defineAsyncComponent(() => import('./FabricStation.vue')),
  layers: [cues],
  knot: (shot) => (shot.things.some(({ role }) => role === 'cloth') ? 'used' : 'empty'),
};
