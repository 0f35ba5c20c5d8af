import { FlagTriangleRight } from '@lucide/vue';
import { activeAir } from '@lumbra/core';
import { defineAsyncComponent } from 'vue';
import { air as airLayer } from '../../viewport/layers/air';
import { pressure } from '../../viewport/layers/pressure';
import { thingHandles } from '../../viewport/tools/thingHandles';
import type { Station } from '../station';

export const air: Station = {
  id: 'air',
  label: 'Air',
  icon: FlagTriangleRight,
  panel: defineAsyncComponent(() => import('./AirStation.vue')),
  knot: (shot) => (shot.gravity.enabled || activeAir(shot).length > 0 ? 'used' : 'empty'),
  layers: [airLayer, pressure],
  tools: [thingHandles],
};
