import { maskBytes, maskValues, shapeMesh } from '@lumbra/core';
import { onScopeDispose, watchEffect } from 'vue';
import { useSelectionStore } from '../../stores/selection';
import type { ViewLayer } from '../viewPart';

/** The chosen mask in colour on its cloth, as it is at the frame that is shown. */
export const mask: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();

  watchEffect(() => {
    const { shot, assets, frame } = scene();
    // As it is in the scene, where it may have values that wait to be keyed.
    const cloth = shot.things.find(({ id }) => id === selection.cloth?.id);
    if (cloth?.role !== 'cloth') return stage.setMask(null, null);
    const chosen = cloth.masks.find(({ id }) => id === selection.maskId);
    const known = cloth.shape.kind !== 'mesh' || assets.has(cloth.shape.asset);
    if (selection.maskDraft) stage.setMask(cloth.id, selection.maskDraft);
    else if (!chosen || !known) stage.setMask(null, null);
    else stage.setMask(cloth.id, maskBytes(maskValues(cloth, chosen, shapeMesh(cloth.shape, assets), frame)));
  });
  onScopeDispose(() => stage.setMask(null, null));
};
