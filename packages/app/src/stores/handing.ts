import { CACHE_FORMATS, HAND_DEFAULTS, type HandOptions } from '@lumbra/core';
import { defineStore } from 'pinia';
import { ref, watch } from 'vue';
import { useDocumentStore } from '../session/document';

/** Sizes of pictures and films, in pixels. */
export const PICTURE_SIZES = [
  [1280, 720],
  [1920, 1080],
  [3840, 2160],
  [1080, 1080],
  [1080, 1920],
].map(([width, height]) => ({
  id: `${width}x${height}`,
  name: `${width} × ${height}`,
  width: width!,
  height: height!,
}));

/** How files are written, kept while the page is open: Hand off is left and come back to. */
export const useHandingStore = defineStore('handing', () => {
  const document = useDocumentStore();
  /** Which frames, in what, which axis up; all of the take where no frames are given. */
  const options = ref<HandOptions>({ ...HAND_DEFAULTS });
  /** Whether the other things that are shown are written too. */
  const withThings = ref(false);
  /** Whether each cloth, and each other thing, is written in files of its own. */
  const apart = ref(false);
  /** The format that takes and frames are written in, by its id. */
  const format = ref(CACHE_FORMATS[0]!.id);
  /** How large pictures are, by the id of a size. */
  const pictureSize = ref(PICTURE_SIZES[0]!.id);
  /** Whether takes go into a folder that is chosen then, where the browser can: large caches need no room in its own storage. */
  const into = ref(false);

  // Frames are those of one shot.
  watch(
    () => document.shot?.id,
    () => {
      const kept = { ...options.value };
      delete kept.first;
      delete kept.last;
      options.value = kept;
    },
  );

  return { options, withThings, apart, format, pictureSize, into };
});
