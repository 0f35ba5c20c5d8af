import { Play } from '@lucide/vue';
import { defineAsyncComponent } from 'vue';
import type { Station } from '../station';

export const run: Station = {
  id: 'run',
  label: 'Run',
  icon: Play,
  panel: defineAsyncComponent(() => import('./RunStation.vue')),
  knot: (_, baked) => (baked ? 'used' : 'empty'),
  judges: true,
};
