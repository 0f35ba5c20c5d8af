import { deleteKnots, holdNumber } from '@lumbra/core';
import { resizedBrush } from '../stores/brush';
import type { useThingActs } from '../acts/useThingActs';
import type { useDocumentStore } from '../session/document';
import { STATIONS } from '../stations';
import type { useFinishedStore } from '../stores/finished';
import type { useKeyingStore } from '../stores/keying';
import type { usePatternStore } from '../stores/pattern';
import type { useRunStore } from '../stores/run';
import type { Tool, useSelectionStore } from '../stores/selection';
import type { useUndoStore } from '../stores/undo';

// The keys of the bench: one table for what they do and for the sheet that says so.

/** What keys work on. */
export interface Bench {
  document: ReturnType<typeof useDocumentStore>;
  run: ReturnType<typeof useRunStore>;
  selection: ReturnType<typeof useSelectionStore>;
  keying: ReturnType<typeof useKeyingStore>;
  undoing: ReturnType<typeof useUndoStore>;
  finished: ReturnType<typeof useFinishedStore>;
  pattern: ReturnType<typeof usePatternStore>;
  acts: ReturnType<typeof useThingActs>;
  centre: () => void;
  play: () => void;
  showKeys: () => void;
}

/** Where keys hold: everywhere on the bench, or only there. The narrower scope goes first. */
export type Scope = 'live pins' | 'live run' | 'keys' | 'pattern' | 'stage' | 'bench';

export const SCOPES: Record<Scope, { label: string; holds: (bench: Bench) => boolean }> = {
  bench: { label: 'Everywhere on the bench', holds: () => true },
  stage: { label: 'At the Stage', holds: ({ selection }) => selection.station === 'stage' },
  pattern: { label: 'At Pattern', holds: ({ selection }) => selection.station === 'pattern' },
  keys: { label: 'With selected keys', holds: ({ selection }) => selection.knots.length > 0 },
  'live run': { label: 'In a live run', holds: ({ run }) => run.status === 'live' },
  'live pins': {
    label: 'In a live run, with a chosen pin set at Hold',
    holds: ({ run, selection }) =>
      run.status === 'live' && selection.station === 'hold' && chosenPins(selection) !== undefined,
  },
};

export interface Binding {
  /** Key presses as tinykeys names them; “$mod” is ctrl, or command on a Mac. */
  keys: readonly string[];
  /** The same as a person reads it. */
  shown: string;
  does: string;
  scope: Scope;
  act: (bench: Bench, key: string) => void;
}

const chosenPins = (selection: Bench['selection']) =>
  selection.cloth?.pinSets.find(({ id }) => id === selection.holdId);

/** Moves the chosen pin set by a step, along x or y. */
function nudge({ selection, keying }: Bench, axis: 'x' | 'y', sign: 1 | -1): void {
  const [cloth, set] = [selection.cloth!, chosenPins(selection)!];
  const number = holdNumber(set.id, `move.${axis}`);
  const value = keying.shown(cloth.id, number) + selection.nudge * sign;
  keying.change(cloth.id, { [number]: value }, { label: `Nudge ${set.name}`, live: true, merge: `nudge.${set.id}` });
}

/** Makes the chosen pin set narrower or wider by a twentieth. */
function gather({ selection, keying }: Bench, sign: 1 | -1): void {
  const [cloth, set] = [selection.cloth!, chosenPins(selection)!];
  const number = holdNumber(set.id, 'gather.x');
  const value = Math.min(5, Math.max(0.05, keying.shown(cloth.id, number) * (1 + 0.05 * sign)));
  keying.change(cloth.id, { [number]: value }, { label: `Gather ${set.name}`, live: true, merge: `nudge.${set.id}` });
}

function deleteKeys({ document, selection }: Bench): void {
  const places = selection.knots;
  const label = places.length > 1 ? `Delete ${places.length} keys` : 'Delete a key';
  if (document.edit(label, (draft) => deleteKnots(draft, places))) selection.knots = [];
}

function takeTool({ selection }: Bench, tool: Tool): void {
  if (selection.station === 'hold' && selection.holdId !== null) selection.holdWork = 'holds';
  else if (selection.station !== 'pattern' && (selection.station !== 'air' || selection.thing?.role !== 'air'))
    selection.station = 'stage';
  selection.tool = selection.tool === tool ? 'look' : tool;
}

function leave({ selection, run }: Bench): void {
  if (selection.tool !== 'look') selection.tool = 'look';
  else if (selection.knots.length > 0) selection.knots = [];
  else run.stop();
}

/** In the order of the sheet; of two with the same key the one whose scope is narrower goes first. */
export const BINDINGS: readonly Binding[] = [
  { keys: ['Space'], shown: 'space', does: 'play or pause', scope: 'bench', act: ({ play }) => play() },
  {
    ...{ keys: ['ArrowLeft'], shown: 'left', does: 'one frame back', scope: 'bench' },
    act: ({ run }) => run.goTo(run.frame - 1),
  },
  {
    ...{ keys: ['ArrowRight'], shown: 'right', does: 'one frame on', scope: 'bench' },
    act: ({ run }) => run.goTo(run.frame + 1),
  },
  {
    keys: STATIONS.map((_, i) => String(i + 1)),
    shown: `1 to ${STATIONS.length}`,
    does: 'go to a station',
    scope: 'bench',
    act: ({ selection }, key) => (selection.station = STATIONS[Number(key) - 1]!.id),
  },
  { keys: ['b'], shown: 'B', does: 'bake', scope: 'bench', act: ({ run }) => void run.startBake() },
  { keys: ['l'], shown: 'L', does: 'live', scope: 'bench', act: ({ run }) => void run.startLive() },
  { keys: ['j'], shown: 'J', does: 'settle', scope: 'bench', act: ({ run }) => void run.startSettle() },
  {
    ...{ keys: ['k'], shown: 'K', does: 'key the place of the selection at this frame', scope: 'bench' },
    act: ({ keying }) => keying.keyPlace(),
  },
  { keys: ['m'], shown: 'M', does: 'move the selection', scope: 'bench', act: (bench) => takeTool(bench, 'move') },
  { keys: ['t'], shown: 'T', does: 'turn it', scope: 'bench', act: (bench) => takeTool(bench, 'turn') },
  { keys: ['y'], shown: 'Y', does: 'size it, gather pins', scope: 'bench', act: (bench) => takeTool(bench, 'size') },
  {
    ...{ keys: ['r'], shown: 'R', does: 'show cloth as simulated, or finished', scope: 'bench' },
    act: ({ finished }) => (finished.raw = !finished.raw),
  },
  { keys: ['c'], shown: 'C', does: 'centre the view on the selection', scope: 'bench', act: ({ centre }) => centre() },
  {
    ...{ keys: ['['], shown: '[', does: 'a smaller brush', scope: 'bench' },
    act: ({ selection }) => (selection.brush = resizedBrush(selection.brush, 1 / 1.15)),
  },
  {
    ...{ keys: [']'], shown: ']', does: 'a larger brush', scope: 'bench' },
    act: ({ selection }) => (selection.brush = resizedBrush(selection.brush, 1.15)),
  },
  {
    ...{ keys: ['Escape'], shown: 'Esc', does: 'give up a drag, leave a tool, stop what runs', scope: 'bench' },
    act: leave,
  },
  { keys: ['$mod+z'], shown: 'ctrl+Z', does: 'undo', scope: 'bench', act: ({ undoing }) => undoing.undo() },
  { keys: ['$mod+Shift+z'], shown: 'ctrl+shift+Z', does: 'redo', scope: 'bench', act: ({ undoing }) => undoing.redo() },
  { keys: ['?', 'Shift+?'], shown: '?', does: 'this sheet', scope: 'bench', act: ({ showKeys }) => showKeys() },
  {
    ...{ keys: ['$mod+d'], shown: 'ctrl+D', does: 'duplicate the selected things', scope: 'stage' },
    act: ({ acts }) => acts.duplicate(),
  },
  {
    ...{ keys: ['Delete', 'Backspace'], shown: 'Delete', does: 'delete the selected things', scope: 'stage' },
    act: ({ acts }) => acts.remove(),
  },
  {
    ...{ keys: ['f'], shown: 'F', does: 'lay the pieces out flat, or back in the stage', scope: 'pattern' },
    act: ({ pattern }) => (pattern.flat = !pattern.flat),
  },
  { keys: ['Delete', 'Backspace'], shown: 'Delete', does: 'delete them', scope: 'keys', act: deleteKeys },
  {
    ...{ keys: ['p'], shown: 'P', does: 'set a checkpoint', scope: 'live run' },
    act: ({ run }) => void run.setCheckpoint(),
  },
  {
    ...{ keys: ['Shift+p'], shown: 'shift+P', does: 'go back to the last checkpoint', scope: 'live run' },
    act: ({ run }) => void run.toCheckpoint(),
  },
  {
    keys: ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'],
    shown: 'arrows',
    does: 'nudge the pins',
    scope: 'live pins',
    act: (bench, key) =>
      nudge(
        bench,
        key === 'arrowleft' || key === 'arrowright' ? 'x' : 'y',
        key === 'arrowright' || key === 'arrowup' ? 1 : -1,
      ),
  },
  { keys: [','], shown: 'comma', does: 'gather them', scope: 'live pins', act: (bench) => gather(bench, -1) },
  { keys: ['.'], shown: 'full stop', does: 'spread them', scope: 'live pins', act: (bench) => gather(bench, 1) },
];
