import { computed, onScopeDispose, watch } from 'vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { placeModeOf } from '../placeTool';
import type { UseViewTool } from '../viewPart';
import { usePinHandles } from './usePinHandles';

/** Handles that move, turn and gather the chosen pin set. */
export const pinHandles: UseViewTool = ({ stage, scene }) => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const pins = usePinHandles(() => scene().frame);
  const mode = computed(() => (document.readOnly || pins.chosen() === null ? null : placeModeOf(selection.tool)));

  const release = stage.handles.serve({
    dragging: (on) => {
      if (!on) document.endMerge();
    },
    placed: (pose, how) => pins.placed(pose, how),
    sized: (by, done) => done && pins.gathered(by),
  });
  watch(
    [mode, scene, () => selection.holdId] as const,
    ([now]) => stage.showHandles(now, pins.poseNow()?.pose ?? null),
    { immediate: true },
  );
  onScopeDispose(() => {
    stage.showHandles(null, null);
    release();
  });
  return { press: () => stage.handles.engaged };
};
