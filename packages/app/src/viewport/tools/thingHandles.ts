import { poseAt } from '@lumbra/core';
import { computed, onScopeDispose, watch } from 'vue';
import { useThingActs } from '../../acts/useThingActs';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { placeModeOf } from '../placeTool';
import type { UseViewTool } from '../viewPart';

/** Handles that move, turn and size the selected thing. */
export const thingHandles: UseViewTool = ({ stage, scene }) => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const acts = useThingActs();
  const mode = computed(() => {
    const wanted = document.readOnly ? null : placeModeOf(selection.tool);
    const { thing } = selection;
    // The ground is endless, and what has no shape has no size.
    const unsized = thing && (!('shape' in thing) || thing.shape.kind === 'ground');
    return wanted === 'size' && unsized ? null : wanted;
  });

  const release = stage.handles.serve({
    dragging: (on) => {
      if (!on) document.endMerge();
    },
    placed: (pose, how) => {
      const { thing } = selection;
      if (!thing) return;
      const moves = how === 'move';
      acts.moveTo(thing, pose, moves ? 'position' : 'rotation', `${moves ? 'Move' : 'Turn'} ${thing.name}`, true);
    },
    sized: (by, done) => {
      const { thing } = selection;
      if (!thing) return;
      stage.previewSize(thing.id, done ? [1, 1, 1] : by);
      if (done) acts.resize(thing, by);
    },
  });
  watch(
    [mode, scene, () => selection.thingId] as const,
    ([now, { shot, frame }, id]) => {
      const thing = shot.things.find((candidate) => candidate.id === id);
      stage.showHandles(now, thing ? poseAt(shot, thing, frame) : null);
    },
    { immediate: true },
  );
  onScopeDispose(() => {
    stage.showHandles(null, null);
    release();
  });
  // The handles listen to the pointer themselves; a press on one is no click on what is behind it.
  return { press: () => stage.handles.engaged };
};
