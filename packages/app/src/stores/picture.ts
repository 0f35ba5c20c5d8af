import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';

/** How the view is drawn on this machine. */
export const usePictureStore = defineStore('picture', () => {
  /** With fewer pixels, without shadows, and from the next shot that is opened on without smoothed edges, for a machine that draws slowly. */
  const quick = useLocalStorage('lumbra.quickPicture', false);
  return { quick };
});
