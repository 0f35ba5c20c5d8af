import { useEventListener } from '@vueuse/core';
import { useDocumentStore } from './document';

/** Warns when a tab is closed that has what is not saved, saves when it is hidden, and asks the browser not to throw anything away. */
export function useSafeLeaving(): void {
  const document = useDocumentStore();
  useEventListener(window, 'beforeunload', (event) => {
    if (document.unsaved) event.preventDefault();
  });
  useEventListener(window, 'pagehide', () => void document.flush());
  void navigator.storage?.persist?.().catch(() => false);
}
