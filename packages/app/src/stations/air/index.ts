import { FlagTriangleRight } from '@lucide/vue';
import { defineAsyncComponent } from 'vue';
import type { Station } from '../station';

export const air: Station = {
  id: 'air',
  label: 'Air',
  icon: FlagTriangleRight,
  panel: defineAsyncComponent(() => import('./AirStation.vue')),
  knot: (shot) => (shot.gravity.enabled || shot.wind.enabled ? 'used' : 'empty'),
};
