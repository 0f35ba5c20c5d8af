import { deleteKnots, holdNumber } from '@lumbra/core';
import { useEventListener } from '@vueuse/core';
import { resizedBrush } from '../stations/hold/brush';
import { useStageActs } from '../stations/stage/useStageActs';
import { useDocumentStore } from '../session/document';
import { useKeyingStore } from '../stores/keying';
import { useRunStore } from '../stores/run';
import { useSelectionStore, type Tool } from '../stores/selection';
import { useUndoStore } from '../stores/undo';
import { STATIONS } from './stations';

/** What the keys do, for the sheet under “?”. */
export const KEYS = [
  { keys: 'space', does: 'play or pause' },
  { keys: 'left, right', does: 'one frame back or on' },
  { keys: `1 to ${STATIONS.length}`, does: 'go to a station' },
  { keys: 'J, L, B', does: 'settle, live, bake' },
  { keys: 'K', does: 'key the place of the selection at this frame' },
  { keys: 'M, T, Y', does: 'move, turn, size the selection' },
  { keys: 'Delete', does: 'delete the selected keys, else the selected things' },
  { keys: 'ctrl+D', does: 'duplicate the selected things' },
  { keys: 'P, shift+P', does: 'set a checkpoint in a live run, go back to the last' },
  { keys: 'arrows', does: 'nudge the chosen pins in a live run' },
  { keys: 'comma, full stop', does: 'gather them, spread them' },
  { keys: '[, ]', does: 'a smaller or larger brush' },
  { keys: 'C', does: 'centre the view on the selection' },
  { keys: 'Esc', does: 'give up what is being dragged, leave a tool, stop what runs' },
  { keys: 'ctrl+Z, ctrl+shift+Z', does: 'undo, redo' },
  { keys: '?', does: 'this sheet' },
];

const TOOLS: Record<string, Tool> = { m: 'move', t: 'turn', y: 'size' };

/** The bench's keys; fields keep theirs. */
export function useBenchKeys(view: { centre: () => void; showKeys: () => void; play: () => void }): void {
  const document = useDocumentStore();
  const run = useRunStore();
  const selection = useSelectionStore();
  const keying = useKeyingStore();
  const undoing = useUndoStore();
  const acts = useStageActs();

  /** Moves the chosen pin set by a step while cloth runs live, or gathers it; false when there is none to nudge. */
  function nudge(key: string): boolean {
    const cloth = selection.cloth;
    const set = cloth?.pinSets.find(({ id }) => id === selection.holdId);
    if (!cloth || !set || run.status !== 'live' || selection.station !== 'hold') return false;
    const sign = key === 'arrowright' || key === 'arrowup' || key === '.' ? 1 : -1;
    const across = key === 'arrowleft' || key === 'arrowright';
    const gather = key === ',' || key === '.';
    const number = holdNumber(set.id, gather ? 'gather.x' : `move.${across ? 'x' : 'y'}`);
    const now = keying.shown(cloth.id, number);
    const value = gather ? Math.min(5, Math.max(0.05, now * (1 + 0.05 * sign))) : now + selection.nudge * sign;
    const label = `${gather ? 'Gather' : 'Nudge'} ${set.name}`;
    keying.change(cloth.id, { [number]: value }, { label, live: true, merge: `nudge.${set.id}` });
    return true;
  }

  function remove(): void {
    const places = selection.knots;
    if (places.length === 0) {
      if (selection.station === 'stage') acts.remove();
      return;
    }
    const label = places.length > 1 ? `Delete ${places.length} keys` : 'Delete a key';
    if (document.edit(label, (draft) => deleteKnots(draft, places))) selection.knots = [];
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement;
    if (target.matches('input[type="text"], textarea, select') || event.altKey) return;
    const key = event.key.toLowerCase();
    const plain = !event.ctrlKey && !event.metaKey;
    if (plain && (key.startsWith('arrow') || key === ',' || key === '.') && nudge(key)) {
      event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey) {
      if (key === 'z') {
        event.preventDefault();
        if (event.shiftKey) undoing.redo();
        else undoing.undo();
      } else if (key === 'd' && selection.station === 'stage') {
        event.preventDefault();
        acts.duplicate();
      }
      return;
    }
    const station = STATIONS[Number(key) - 1];
    if (station) selection.station = station.id;
    else if (key === ' ') {
      // A focused button or switch keeps its own space.
      if (target.matches('button, a, input')) return;
      view.play();
    } else if (key === 'arrowleft') run.goTo(run.frame - 1);
    else if (key === 'arrowright') run.goTo(run.frame + 1);
    else if (key === 'b') void run.startBake();
    else if (key === 'l') void run.startLive();
    else if (key === 'j') void run.startSettle();
    else if (key === 'c') view.centre();
    else if (key === '?') view.showKeys();
    else if (key === '[' || key === ']') {
      selection.brush = resizedBrush(selection.brush, key === '[' ? 1 / 1.15 : 1.15);
    } else if (key === 'p') void (event.shiftKey ? run.toCheckpoint() : run.setCheckpoint());
    else if (key === 'k') keying.keyPlace();
    else if (key === 'delete' || key === 'backspace') remove();
    else if (TOOLS[key]) {
      if (selection.station !== 'hold' || selection.holdId === null) selection.station = 'stage';
      selection.tool = selection.tool === TOOLS[key] ? 'look' : TOOLS[key];
    } else if (key === 'escape') {
      if (selection.tool !== 'look') selection.tool = 'look';
      else if (selection.knots.length > 0) selection.knots = [];
      else run.stop();
    } else return;
    event.preventDefault();
  });
}
