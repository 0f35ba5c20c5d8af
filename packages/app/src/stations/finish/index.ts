import { Layers2 } from '@lucide/vue';
import { defineAsyncComponent } from 'vue';
import { lattice } from '../../viewport/layers/lattice';
import { latticeHandles } from '../../viewport/tools/latticeHandles';
import type { Station } from '../station';

export const finish: Station = {
  id: 'finish',
  label: 'Finish',
  icon: Layers2,
  panel: defineAsyncComponent(() => import('./FinishStation.vue')),
  knot: (shot) =>
    shot.things.some((thing) => thing.role === 'cloth' && thing.finish.some(({ on }) => on)) ? 'used' : 'empty',
  judges: true,
  layers: [lattice],
  tools: [latticeHandles],
};
