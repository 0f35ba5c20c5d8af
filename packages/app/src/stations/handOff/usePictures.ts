import { activeCloths, type Mesh } from '@lumbra/core';
import * as Comlink from 'comlink';
import type { useHandOff } from '../../acts/useHandOff';
import { useDocumentStore } from '../../session/document';
import { useFinishedStore, type ShownMesh } from '../../stores/finished';
import { PICTURE_SIZES, useHandingStore } from '../../stores/handing';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';
import { useThemeStore } from '../../stores/theme';
import { PictureView } from '../../viewport/pictureView';
import { filesHost } from '../../workers/hosts';
import type { PictureFormat } from '../../workers/pictures/pictureFormat';

/** Pictures and films of what the view shows, from where it is looked at, in a size that is chosen. */
export function usePictures({
  writeTake,
  writeFrame,
}: Pick<ReturnType<typeof useHandOff>, 'writeTake' | 'writeFrame'>) {
  const document = useDocumentStore();
  const finished = useFinishedStore();
  const handing = useHandingStore();
  const run = useRunStore();
  const selection = useSelectionStore();
  const theme = useThemeStore();

  const size = () => PICTURE_SIZES.find(({ id }) => id === handing.pictureSize)!;

  function view(): PictureView {
    const { width, height } = size();
    const [shot, assets] = [document.shot!, document.currentAssets()];
    return new PictureView({ shot, assets, mode: selection.viewMode, evening: theme.evening, width, height });
  }

  /** The frame that is looked at, as it is shown. */
  const picture = () =>
    writeFrame('png', async () => {
      const taken = view();
      try {
        const bitmap = await taken.take(run.shownFrame, run.shownPositions(), finished.shown);
        return await filesHost.call((api) => api.png(Comlink.transfer(bitmap, [bitmap])));
      } finally {
        taken.dispose();
      }
    });

  /** The take that is looked at. */
  const pictures = (format: PictureFormat) =>
    writeTake(format, async (api, how, from, heard, folder) => {
      const taken = view();
      // What is judged by its stretch or its mesh is shown as it was simulated.
      const told = { ...how, finished: how.finished && selection.viewMode === 'print' };
      const others = new Set(
        activeCloths(told.shot).flatMap(({ id, finish }) => (told.finished && finish.some(({ on }) => on) ? [id] : [])),
      );
      let meshes: ReadonlyMap<string, Mesh> = new Map();
      const photographer = {
        begin: (of: ReadonlyMap<string, Mesh>) => {
          meshes = of;
        },
        take: async (frame: number, places: ReadonlyMap<string, Float32Array>) => {
          const [own, instead] = [new Map<string, Float32Array>(), new Map<string, ShownMesh>()];
          for (const [id, positions] of places) {
            if (others.has(id)) instead.set(id, { mesh: meshes.get(id)!, positions });
            else own.set(id, positions);
          }
          const bitmap = await taken.take(frame, own, instead);
          return Comlink.transfer(bitmap, [bitmap]);
        },
      };
      try {
        const { width, height } = size();
        return await api.pictures(format.id, told, { width, height }, from, Comlink.proxy(photographer), heard, folder);
      } finally {
        taken.dispose();
      }
    });

  return { picture, pictures };
}
