import { onScopeDispose, watchEffect } from 'vue';
import { useSelectionStore } from '../../stores/selection';
import { LineDrawing } from '../lineDrawing';
import type { ViewLayer } from '../viewPart';
import { tieLines } from './tieLines';

/** Stitches from tied points to what they are tied to. */
export const ties: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const lines = new LineDrawing({ width: 2, stitch: { dash: 0.008, gap: 0.004 }, onTop: true });
  const remove = stage.add(lines.group);

  watchEffect(() => {
    const { shot, assets, positions, frame, evening } = scene();
    // The theme is asked so that the colour is read anew with it.
    void evening;
    const colour = getComputedStyle(document.documentElement).getPropertyValue('--madder').trim();
    lines.set(selection.showTies ? tieLines(shot, assets, positions, frame) : [], colour);
    stage.invalidate();
  });
  onScopeDispose(() => {
    lines.dispose();
    remove();
  });
};
