import { Shapes } from '@lucide/vue';
import { defineAsyncComponent } from 'vue';
import { air } from '../../viewport/layers/air';
import { contact } from '../../viewport/layers/contact';
import { silhouette } from '../../viewport/layers/silhouette';
import { thingHandles } from '../../viewport/tools/thingHandles';
import type { Station } from '../station';

export const stage: Station = {
  id: 'stage',
  label: 'Stage',
  icon: Shapes,
  panel: defineAsyncComponent(() => import('./StageStation.vue')),
  knot: (shot) => (shot.things.length > 0 ? 'used' : 'empty'),
  layers: [contact, silhouette, air],
  tools: [thingHandles],
};
