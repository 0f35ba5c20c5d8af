import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { useSelectionStore } from './selection';

/** What is worked on at Finish: the step whose numbers are open, and the points of a lattice that are chosen. */
export const useFinishingStore = defineStore('finishing', () => {
  const selection = useSelectionStore();
  /** The id of the open step. */
  const open = ref<string | null>(null);
  /** Chosen control points of the open lattice, by their places in its list; the last one is that whose numbers are shown. */
  const controls = ref<readonly number[]>([]);

  const entry = computed(() => selection.cloth?.finish.find(({ id }) => id === open.value));
  /** The open step, where it is a lattice. */
  const lattice = computed(() => {
    const own = entry.value;
    return own?.step.kind === 'lattice' ? { id: own.id, on: own.on, step: own.step } : null;
  });

  // Another cloth is begun with its first step.
  watch(
    () => selection.cloth?.id,
    () => (open.value = selection.cloth?.finish[0]?.id ?? null),
    { immediate: true },
  );
  watch([open, () => lattice.value?.step.counts.join()], () => (controls.value = []));

  /** Chooses a control point: instead of those that are chosen, or besides them, or not any more. */
  function choose(control: number, besides: boolean): void {
    if (!besides) controls.value = [control];
    else if (controls.value.includes(control)) controls.value = controls.value.filter((own) => own !== control);
    else controls.value = [...controls.value, control];
  }

  return { open, controls, lattice, choose };
});
