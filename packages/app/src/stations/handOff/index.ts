import { PackageCheck } from '@lucide/vue';
import { defineAsyncComponent } from 'vue';
import type { Station } from '../station';

export const handOff: Station = {
  id: 'handOff',
  label: 'Hand off',
  icon: PackageCheck,
  panel: defineAsyncComponent(() => import('./HandOffStation.vue')),
  knot: (_, baked) => (baked ? 'used' : 'empty'),
  judges: true,
};
