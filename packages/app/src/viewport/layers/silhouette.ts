import { onScopeDispose, watchEffect } from 'vue';
import { useSelectionStore } from '../../stores/selection';
import { lookOf } from '../looks';
import { Silhouette } from '../silhouette';
import type { ViewLayer } from '../viewPart';

/** A figure for scale beside everything, where it is asked for. */
export const silhouette: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const figure = new Silhouette();
  const { object } = figure;
  const remove = stage.add(object, (camera) => figure.face(camera));

  watchEffect(() => {
    figure.setColour(lookOf(scene().evening).figure);
    if (selection.silhouette && !object.visible) {
      const box = stage.boxAround(null);
      object.position.set(box ? box.low.x - 0.45 : -1, 0, box ? (box.low.z + box.high.z) / 2 : 0);
    }
    object.visible = selection.silhouette;
    stage.invalidate();
  });
  onScopeDispose(() => {
    figure.dispose();
    remove();
  });
};
