import { Pin } from '@lucide/vue';
import { holdsOf } from '@lumbra/core';
import { defineAsyncComponent } from 'vue';
import { mask } from '../../viewport/layers/mask';
import { pins } from '../../viewport/layers/pins';
import { ties } from '../../viewport/layers/ties';
import { pinHandles } from '../../viewport/tools/pinHandles';
import { points } from '../../viewport/tools/points';
import type { Station } from '../station';

export const hold: Station = {
  id: 'hold',
  label: 'Hold',
  icon: Pin,
  panel: defineAsyncComponent(() => import('./HoldStation.vue')),
  knot: (shot) => (shot.things.some((thing) => thing.role === 'cloth' && holdsOf(thing).length > 0) ? 'used' : 'empty'),
  layers: [mask, pins, ties],
  tools: [points, pinHandles],
};
