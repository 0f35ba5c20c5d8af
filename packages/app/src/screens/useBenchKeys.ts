import { useEventListener } from '@vueuse/core';
import { useDocumentStore } from '../stores/document';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';
import { STATIONS } from './stations';

/** What the keys do, for the sheet under “?”. */
export const KEYS = [
  { keys: 'space', does: 'play or pause' },
  { keys: 'left, right', does: 'one frame back or on' },
  { keys: `1 to ${STATIONS.length}`, does: 'go to a station' },
  { keys: 'J, L, B', does: 'settle, live, bake' },
  { keys: 'C', does: 'centre the view on the selection' },
  { keys: 'Esc', does: 'stop what runs, leave a tool' },
  { keys: 'ctrl+Z, ctrl+shift+Z', does: 'undo, redo' },
  { keys: '?', does: 'this sheet' },
];

/** The bench's keys; fields keep theirs. */
export function useBenchKeys(acts: { centre: () => void; showKeys: () => void; play: () => void }): void {
  const document = useDocumentStore();
  const run = useRunStore();
  const selection = useSelectionStore();

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    if (target.matches('input[type="text"], textarea, select') || event.altKey) return;
    const key = event.key.toLowerCase();
    if (event.ctrlKey || event.metaKey) {
      if (key === 'z') {
        event.preventDefault();
        if (event.shiftKey) document.redo();
        else document.undo();
      }
      return;
    }
    const station = STATIONS[Number(key) - 1];
    if (station) selection.station = station.id;
    else if (key === ' ') {
      // A focused button or switch keeps its own space.
      if (target.matches('button, a, input')) return;
      acts.play();
    } else if (key === 'arrowleft') run.goTo(run.frame - 1);
    else if (key === 'arrowright') run.goTo(run.frame + 1);
    else if (key === 'b') void run.startBake();
    else if (key === 'l') void run.startLive();
    else if (key === 'j') void run.startSettle();
    else if (key === 'c') acts.centre();
    else if (key === '?') acts.showKeys();
    else if (key === 'escape') {
      if (selection.tool !== 'look') selection.tool = 'look';
      else run.stop();
    } else return;
    event.preventDefault();
  });
}
