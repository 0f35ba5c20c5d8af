import { Scissors } from '@lucide/vue';
import { defineAsyncComponent } from 'vue';
import { faces as faceLayer } from '../../viewport/layers/faces';
import { seams } from '../../viewport/layers/seams';
import { ties } from '../../viewport/layers/ties';
import { faces as faceTool } from '../../viewport/tools/faces';
import { pieceHandles } from '../../viewport/tools/pieceHandles';
import type { Station } from '../station';

export const pattern: Station = {
  id: 'pattern',
  label: 'Pattern',
  icon: Scissors,
  panel: defineAsyncComponent(() => import('./PatternStation.vue')),
  knot: ({ things }) =>
    things.some((thing) => thing.role === 'cloth' && (thing.shape.kind === 'pattern' || thing.shape.kind === 'sheet'))
      ? 'used'
      : 'empty',
  // Borders that are sewn to things are ties.
  layers: [seams, ties, faceLayer],
  tools: [faceTool, pieceHandles],
  flat: defineAsyncComponent(() => import('../../viewport/flat/FlatView.vue')),
};
