import { anglesOf, composePoses, invertPose, poseAt, poseOf } from '@lumbra/core';
import { onScopeDispose, watch } from 'vue';
import { usePatternActs } from '../../acts/usePatternActs';
import { useDocumentStore } from '../../session/document';
import { usePatternStore } from '../../stores/pattern';
import { useSelectionStore } from '../../stores/selection';
import { placeModeOf } from '../placeTool';
import type { UseViewTool } from '../viewPart';

/** Handles that move and turn the selected piece of a pattern. */
export const pieceHandles: UseViewTool = ({ stage, scene }) => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const pattern = usePatternStore();
  const acts = usePatternActs();

  const release = stage.handles.serve({
    dragging: (on) => {
      if (!on) document.endMerge();
    },
    placed: (pose, how) => {
      const { cloth, piece } = pattern;
      if (!cloth || !piece) return;
      const { shot, frame } = scene();
      const own = composePoses(invertPose(poseAt(shot, cloth, frame)), pose);
      if (how === 'move') acts.placePiece(cloth, piece, 'place', { position: [...own.center] }, true);
      else acts.placePiece(cloth, piece, 'turn', { rotation: [...anglesOf(own.rotation, piece.rotation)] }, true);
    },
    sized: () => undefined,
  });
  watch(
    [() => selection.tool, scene, () => pattern.piece] as const,
    ([tool, { shot, frame }, piece]) => {
      const mode = document.readOnly || tool === 'size' ? null : placeModeOf(tool);
      const { cloth } = pattern;
      stage.showHandles(
        mode,
        cloth && piece ? composePoses(poseAt(shot, cloth, frame), poseOf(piece.position, piece.rotation)) : null,
      );
    },
    { immediate: true },
  );
  onScopeDispose(() => {
    stage.showHandles(null, null);
    release();
  });
  return { press: () => stage.handles.engaged };
};
