import {
  holdsOf,
  maskBytes,
  maskValues,
  releaseFrames,
  shapeMesh,
  type Cloth,
  type Mesh,
  type Shot,
} from '@lumbra/core';
import { onScopeDispose, watchEffect } from 'vue';
import { useSelectionStore } from '../../stores/selection';
import type { ViewLayer } from '../viewPart';

const NONE: ReadonlyMap<string, Uint8Array> = new Map();

/** When the points of a hold become free, as a mask: light at the first frame, dark at the last; never is darkest. */
function releaseBytes(
  shot: Shot,
  cloth: Cloth,
  mesh: Mesh,
  hold: Parameters<typeof releaseFrames>[1],
): Uint8Array | null {
  const frames = releaseFrames(cloth, hold, mesh, shot);
  if (!frames) return null;
  const bytes = new Uint8Array(mesh.positions.length / 3);
  const span = Math.max(1, shot.lastFrame - shot.firstFrame);
  hold.points.forEach((point, i) => {
    bytes[point] = Math.round(255 * Math.min(1, (frames[i]! - shot.firstFrame) / span));
  });
  return bytes;
}

/** The chosen mask in colour on its cloth, as it is at the frame that is shown. */
export const mask: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();

  watchEffect(() => {
    const { shot, assets, frame } = scene();
    // As it is in the scene, where it may have values that wait to be keyed.
    const cloth = shot.things.find(({ id }) => id === selection.cloth?.id);
    if (cloth?.role !== 'cloth') return stage.setMasks(NONE);
    const chosen = cloth.masks.find(({ id }) => id === selection.maskId);
    const known = cloth.shape.kind !== 'mesh' || assets.has(cloth.shape.asset);
    const held = selection.holdWork === 'holds' ? holdsOf(cloth).find(({ id }) => id === selection.holdId) : undefined;
    const freed = held && known ? releaseBytes(shot, cloth, shapeMesh(cloth.shape, assets), held) : null;
    if (freed) stage.setMasks(new Map([[cloth.id, freed]]));
    else if (selection.maskDraft) stage.setMasks(new Map([[cloth.id, selection.maskDraft]]));
    else if (!chosen || !known) stage.setMasks(NONE);
    else
      stage.setMasks(
        new Map([[cloth.id, maskBytes(maskValues(cloth, chosen, shapeMesh(cloth.shape, assets), frame))]]),
      );
  });
  onScopeDispose(() => stage.setMasks(NONE));
};
