import { useEventListener } from '@vueuse/core';
import { useTakesStore } from '../stores/takes';
import { useDocumentStore } from './document';

/** Warns when a tab is closed that has what is not saved, saves when it is hidden, and asks the browser not to throw anything away. */
export function useSafeLeaving(): void {
  const document = useDocumentStore();
  const takes = useTakesStore();
  useEventListener(window, 'beforeunload', (event) => {
    if (document.unsaved || takes.unkept.length > 0) event.preventDefault();
  });
  useEventListener(window, 'pagehide', () => void document.flush());
  void navigator.storage?.persist?.().catch(() => false);
}
