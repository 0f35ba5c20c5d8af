import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { checkpointBefore } from '../storage/takes';
import { useRunStore } from './run';
import { useSelectionStore } from './selection';
import { useTakesStore } from './takes';

/** Where a cue has happened in the take that is looked at: shown on the cloth where that is asked for. */
export const useCueWhereStore = defineStore('cueWhere', () => {
  const [run, selection, takes] = [useRunStore(), useSelectionStore(), useTakesStore()];
  /** Id of the cue that is shown on its cloth. */
  const cue = ref<string | null>(null);
  /** Per point, the frame at which it first happened, as the last checkpoint of the take has it. */
  const since = shallowRef<Float32Array | null>(null);

  watch([cue, () => takes.take?.id, () => takes.bakedUntil, () => run.busy], async ([wanted, take, until, busy]) => {
    if (wanted === null || !take || until === null || busy) {
      since.value = null;
      return;
    }
    const found = (await checkpointBefore(take, until))?.state.cues?.[wanted]?.since ?? null;
    if (cue.value === wanted && takes.take?.id === take) since.value = found;
  });
  watch(
    () => selection.station,
    () => (cue.value = null),
  );

  /** Where it has happened by the frame that is shown, 255 or 0 a point; null where that is not known, or not asked for. */
  const shown = computed(
    () => since.value && Uint8Array.from(since.value, (frame) => (frame <= run.shownFrame ? 255 : 0)),
  );

  return { cue, shown };
});
