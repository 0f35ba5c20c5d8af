import { HAND_DEFAULTS, type HandOptions } from '@lumbra/core';
import { defineStore } from 'pinia';
import { ref, watch } from 'vue';
import { useDocumentStore } from '../session/document';

/** How files are written, kept while the page is open: Hand off is left and come back to. */
export const useHandingStore = defineStore('handing', () => {
  const document = useDocumentStore();
  /** Which frames, in what, which axis up; all of the take where no frames are given. */
  const options = ref<HandOptions>({ ...HAND_DEFAULTS });
  /** Whether the other things that are shown are written too. */
  const withThings = ref(false);
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

  return { options, withThings, into };
});
