import type { App } from 'vue';
import { errorText, useNoticeStore } from './notice';

/** Whatever goes wrong where nobody waited for it is said, once for each kind, instead of being lost. */
export function tellFaults(app: App): void {
  const notice = useNoticeStore();
  const told = new Set<string>();
  const tell = (error: unknown) => {
    console.error(error);
    const text = errorText(error);
    // The browser's own remark that a resize was answered a frame later; nothing is wrong.
    if (told.has(text) || text.startsWith('ResizeObserver loop')) return;
    told.add(text);
    notice.problem(
      `Something went wrong that Lumbra did not expect: ${text} What is saved is safe. If it comes again, reload the page.`,
    );
  };
  app.config.errorHandler = tell;
  window.addEventListener('unhandledrejection', (event) => tell(event.reason));
  window.addEventListener('error', (event) => tell(event.error ?? event.message));
}
