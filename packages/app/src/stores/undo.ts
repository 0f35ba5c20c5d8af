import { defineStore } from 'pinia';
import { computed } from 'vue';
import { useDocumentStore } from '../session/document';
import { useSelectionStore } from './selection';
import { useTakesStore } from './takes';

/** Undo and redo of everything in its order: edits of the shot, what was done to takes and, at Hold, which points are selected. */
export const useUndoStore = defineStore('undo', () => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const takes = useTakesStore();

  const lastEdit = () => document.done.at(-1);
  /** The change of the selection that came after the last edit, or with it. */
  const stepBack = computed(() => {
    const step = selection.station === 'hold' ? selection.pointSteps.done.at(-1) : undefined;
    return step?.edit === lastEdit() ? step : undefined;
  });
  const stepOn = computed(() => (selection.station === 'hold' ? selection.pointSteps.undone.at(-1) : undefined));

  const selectionNext = computed(() => stepBack.value !== undefined && !stepBack.value.withEdit);
  const selectionOn = computed(
    () => stepOn.value !== undefined && !stepOn.value.withEdit && stepOn.value.edit === lastEdit(),
  );
  /** What was done to takes after the last edit. */
  const takeBack = computed(() => {
    const step = takes.steps.done.at(-1);
    return !selectionNext.value && step && step.edit === lastEdit() ? step : undefined;
  });
  const takeOn = computed(() => {
    const step = takes.steps.undone.at(-1);
    return !selectionOn.value && step && step.edit === lastEdit() ? step : undefined;
  });
  const undoLabel = computed(
    () => takeBack.value?.label ?? (selectionNext.value ? selected(stepBack.value!.after) : document.undoLabel),
  );
  const redoLabel = computed(
    () => takeOn.value?.label ?? (selectionOn.value ? selected(stepOn.value!.after) : document.redoLabel),
  );

  function undo(): void {
    if (takeBack.value) return void takes.stepBack();
    if (selectionNext.value) return selection.pointsBack();
    const [with_, last] = [stepBack.value, lastEdit()];
    document.undo();
    // Where another tab edits the shot, nothing is undone.
    if (with_ && lastEdit() !== last) selection.pointsBack();
  }

  function redo(): void {
    if (takeOn.value) return void takes.stepOn();
    if (selectionOn.value) return selection.pointsOn();
    const with_ = stepOn.value?.withEdit ? stepOn.value : undefined;
    document.redo();
    if (with_ && with_.edit === lastEdit()) selection.pointsOn();
  }

  return { undoLabel, redoLabel, undo, redo };
});

function selected(points: readonly number[]): string {
  if (points.length === 0) return 'Select nothing';
  return points.length === 1 ? 'Select 1 point' : `Select ${points.length} points`;
}
