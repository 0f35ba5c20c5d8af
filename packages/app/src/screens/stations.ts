import { FlagTriangleRight, Grid3x3, PackageCheck, Pin, Play, Shapes } from '@lucide/vue';
import { holdsOf, type Shot } from '@lumbra/core';
import { defineAsyncComponent, type Component } from 'vue';
import type { StationId } from '../stores/selection';

/** State of a station's knot by what is there: nothing yet, in use. What the checks find goes before it. */
export type Knot = 'empty' | 'used';

/** The stations, in the order of the work. Each is one file in stations/ and one line here. */
export const STATIONS: {
  id: StationId;
  label: string;
  icon: Component;
  panel: Component;
  knot: (shot: Shot, baked: boolean) => Knot;
}[] = [
  {
    id: 'stage',
    label: 'Stage',
    icon: Shapes,
    panel: defineAsyncComponent(() => import('../stations/stage/StageStation.vue')),
    knot: (shot) => (shot.things.length > 0 ? 'used' : 'empty'),
  },
  {
    id: 'fabric',
    label: 'Fabric',
    icon: Grid3x3,
    panel: defineAsyncComponent(() => import('../stations/fabric/FabricStation.vue')),
    knot: (shot) => (shot.things.some(({ role }) => role === 'cloth') ? 'used' : 'empty'),
  },
  {
    id: 'hold',
    label: 'Hold',
    icon: Pin,
    panel: defineAsyncComponent(() => import('../stations/hold/HoldStation.vue')),
    knot: (shot) =>
      shot.things.some((thing) => thing.role === 'cloth' && holdsOf(thing).length > 0) ? 'used' : 'empty',
  },
  {
    id: 'air',
    label: 'Air',
    icon: FlagTriangleRight,
    panel: defineAsyncComponent(() => import('../stations/air/AirStation.vue')),
    knot: (shot) => (shot.gravity.enabled || shot.wind.enabled ? 'used' : 'empty'),
  },
  {
    id: 'run',
    label: 'Run',
    icon: Play,
    panel: defineAsyncComponent(() => import('../stations/run/RunStation.vue')),
    knot: (_, baked) => (baked ? 'used' : 'empty'),
  },
  {
    id: 'handOff',
    label: 'Hand off',
    icon: PackageCheck,
    panel: defineAsyncComponent(() => import('../stations/handOff/HandOffStation.vue')),
    knot: (_, baked) => (baked ? 'used' : 'empty'),
  },
];
