import type { Thing } from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useDocumentStore } from './document';

export type StationId = 'stage' | 'fabric' | 'hold' | 'air' | 'run' | 'handOff';
export type SignalId = 'maxStretch' | 'crossings' | 'deepest' | 'fastest';
export type ViewMode = 'print' | 'mesh' | 'stretch';

/** What is selected and looked at. Not part of the shot, so not undone. */
export const useSelectionStore = defineStore('selection', () => {
  const document = useDocumentStore();
  const station = ref<StationId>('stage');
  const viewMode = ref<ViewMode>('print');
  const thingId = ref<string | null>(null);
  const pinSetId = ref<string | null>(null);
  /** Selected points of the selected cloth. */
  const points = shallowRef<readonly number[]>([]);
  /** The viewport tool: look around, or draw a box around points. */
  const tool = ref<'look' | 'box'>('look');

  /** A place that is pointed out in the viewport, in m, and what is wrong there. */
  const mark = shallowRef<{ place: [number, number, number]; text: string } | null>(null);
  /** The number of the bake that the timeline draws as a curve. */
  const signal = ref<SignalId>('maxStretch');

  const thing = computed<Thing | null>(() => document.shot?.things.find(({ id }) => id === thingId.value) ?? null);
  /** The selected cloth, else the first one: fabric and pins always have something to show. */
  const cloth = computed(() => {
    if (thing.value?.role === 'cloth') return thing.value;
    return document.shot?.things.find((candidate) => candidate.role === 'cloth') ?? null;
  });

  watch(
    () => cloth.value?.id,
    () => {
      points.value = [];
      pinSetId.value = null;
    },
  );
  // Another mesh has other points.
  watch(
    () => JSON.stringify(cloth.value?.shape),
    () => (points.value = []),
  );
  watch(station, () => {
    tool.value = 'look';
    mark.value = null;
  });

  function select(id: string | null): void {
    thingId.value = id;
  }

  return { station, viewMode, thingId, pinSetId, points, tool, mark, signal, thing, cloth, select };
});
