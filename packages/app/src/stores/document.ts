import {
  followShapes,
  edit as editShot,
  redo as redoShot,
  undo as undoShot,
  usedAssets,
  type Edit,
  type Mesh,
  type Shot,
} from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { storageProblem, type ProductionRow } from '../storage/database';
import { takeShot, waitForShot, type ShotLock } from '../storage/shotLock';
import { forgetUnused, openShot, saveAsset, saveShot } from '../storage/shots';
import { errorText, useNoticeStore } from './notice';

/** More edits than these are not kept when the tab is closed. */
const MOST_UNDOS = 300;

/** The open shot with its history. The one way to change it is `edit`. */
export const useDocumentStore = defineStore('document', () => {
  const notice = useNoticeStore();
  const shot = shallowRef<Shot | null>(null);
  const production = shallowRef<ProductionRow | null>(null);
  /** Meshes of the shot by id. They are only added, so that undo always finds them. */
  const assets = shallowRef<Map<string, Mesh>>(new Map());
  const done = shallowRef<Edit[]>([]);
  const undone = shallowRef<Edit[]>([]);
  const saving = ref<'saved' | 'waiting' | 'refused'>('saved');
  /** Edits with the same key, one after the other, become one: a dragged label is one undo. */
  let mergeKey: string | null = null;
  let saveRunning = false;
  /** Another tab has this shot: here it can only be looked at. */
  const readOnly = ref(false);
  let lock: ShotLock | null = null;
  let waiting: AbortController | null = null;

  const undoLabel = computed(() => done.value.at(-1)?.label);
  const redoLabel = computed(() => undone.value.at(-1)?.label);

  /** Opens a shot, to edit it unless another tab does; false when there is none with this id. */
  async function open(id: string): Promise<boolean> {
    close();
    if (!(await read(id))) return false;
    const taken = await takeShot(id);
    readOnly.value = taken === null;
    if (taken) hold(id, taken);
    else void editWhenFree(id);
    return true;
  }

  async function read(id: string): Promise<boolean> {
    const opened = await openShot(id);
    if (!opened) return false;
    shot.value = opened.shot;
    assets.value = opened.assets;
    production.value = opened.production ?? null;
    done.value = opened.history.done;
    undone.value = opened.history.undone;
    mergeKey = null;
    saving.value = 'saved';
    await forgetUnused(opened).catch(() => undefined);
    return true;
  }

  /** Keeps the shot for this tab until it is closed or taken over. */
  function hold(id: string, taken: ShotLock): void {
    lock = taken;
    void taken.lost.then(() => {
      if (lock !== taken) return;
      lock = null;
      readOnly.value = true;
      notice.problem(
        'Another tab has taken this shot over. All changes made here are kept; from now on it can only be looked at here.',
      );
      void editWhenFree(id);
    });
  }

  async function editWhenFree(id: string): Promise<void> {
    const stop = (waiting = new AbortController());
    const taken = await waitForShot(id, stop.signal);
    if (!taken) return;
    if (stop.signal.aborted || shot.value?.id !== id) return taken.release();
    await becomeEditor(id, taken);
  }

  /** Takes the shot away from the tab that has it. */
  async function takeOver(): Promise<void> {
    const id = shot.value?.id;
    if (!id || !readOnly.value) return;
    waiting?.abort();
    const taken = await takeShot(id, { steal: true });
    if (taken) await becomeEditor(id, taken);
  }

  async function becomeEditor(id: string, taken: ShotLock): Promise<void> {
    // What the other tab did is in the storage.
    await read(id);
    readOnly.value = false;
    hold(id, taken);
    notice.say('This shot can be edited here now.');
  }

  /** Lets other tabs edit the shot. */
  function close(): void {
    waiting?.abort();
    waiting = null;
    const held = lock;
    lock = null;
    held?.release();
  }

  /** Saves at once; what changes while a save is under way is saved right after it. */
  async function save(): Promise<void> {
    if (saveRunning) return;
    saveRunning = true;
    let saved: Shot | null = null;
    try {
      while (shot.value && saved !== shot.value) {
        saved = shot.value;
        await saveShot(saved, { done: done.value.slice(-MOST_UNDOS), undone: undone.value });
      }
      saving.value = 'saved';
    } catch (error) {
      if (saving.value !== 'refused') notice.problem(storageProblem(error));
      saving.value = 'refused';
    } finally {
      saveRunning = false;
    }
  }

  function changed(next: Shot): void {
    shot.value = next;
    if (saving.value !== 'refused') saving.value = 'waiting';
    void save();
  }

  /**
   * Changes the shot by a recipe on a draft; undoable. Edits with the same `merge` key join into one undo.
   * An impossible result is refused with a message, and nothing changes. Returns whether it was accepted.
   */
  function edit(label: string, recipe: (draft: Shot) => void, merge: string | null = null): boolean {
    if (!shot.value || !writable()) return false;
    try {
      const before = shot.value;
      const { shot: next, edit: made } = editShot(before, label, (draft) => {
        recipe(draft);
        followShapes(draft, before, assets.value);
      });
      if (made.forward.length === 0) return true;
      const last = done.value.at(-1);
      if (merge !== null && merge === mergeKey && last && undone.value.length === 0) {
        const joined: Edit = {
          label,
          forward: [...last.forward, ...made.forward],
          backward: [...made.backward, ...last.backward],
        };
        done.value = [...done.value.slice(0, -1), joined];
      } else {
        done.value = [...done.value, made];
      }
      undone.value = [];
      mergeKey = merge;
      changed(next);
      return true;
    } catch (error) {
      notice.problem(errorText(error));
      return false;
    }
  }

  /** Whether the shot may be changed here; says why when not. */
  function writable(): boolean {
    if (readOnly.value) notice.problem('Nothing was changed: this shot is being edited in another tab.');
    return !readOnly.value;
  }

  /** Takes back what edits with a key have joined into so far, as if it had not been: a drag that is given up. */
  function giveUp(merge: string): void {
    const last = done.value.at(-1);
    if (mergeKey !== merge || !last || !shot.value) return;
    done.value = done.value.slice(0, -1);
    mergeKey = null;
    changed(undoShot(shot.value, last));
  }

  /** Ends the joining of edits, when a drag is over. One that came back to where it began is not kept: undoing it would do nothing. */
  function endMerge(): void {
    const last = done.value.at(-1);
    if (mergeKey !== null && last && shot.value && isSame(undoShot(shot.value, last), shot.value)) giveUp(mergeKey);
    mergeKey = null;
  }

  function undo(): void {
    const last = done.value.at(-1);
    if (!last || !shot.value || !writable()) return;
    done.value = done.value.slice(0, -1);
    undone.value = [...undone.value, last];
    mergeKey = null;
    changed(undoShot(shot.value, last));
  }

  function redo(): void {
    const last = undone.value.at(-1);
    if (!last || !shot.value || !writable()) return;
    undone.value = undone.value.slice(0, -1);
    done.value = [...done.value, last];
    mergeKey = null;
    changed(redoShot(shot.value, last));
  }

  /** Goes back or on in the history, until so many edits are done. */
  function goToEdit(count: number): void {
    while (done.value.length > count) undo();
    while (done.value.length < count && undone.value.length > 0) redo();
  }

  /** Adds a mesh to the shot's assets. */
  async function addAsset(id: string, mesh: Mesh): Promise<void> {
    assets.value = new Map(assets.value).set(id, mesh);
    if (!shot.value || readOnly.value) return;
    try {
      await saveAsset(shot.value.id, id, mesh);
    } catch (error) {
      notice.problem(storageProblem(error));
    }
  }

  /** The assets that the shot now names, for a run or a file. */
  function currentAssets(): Map<string, Mesh> {
    const ids = shot.value ? usedAssets(shot.value) : [];
    return new Map(ids.flatMap((id) => (assets.value.has(id) ? [[id, assets.value.get(id)!] as const] : [])));
  }

  return {
    shot,
    production,
    assets,
    done,
    undone,
    saving,
    readOnly,
    undoLabel,
    redoLabel,
    open,
    close,
    takeOver,
    goToEdit,
    writable,
    edit,
    endMerge,
    giveUp,
    undo,
    redo,
    addAsset,
    currentAssets,
  };
});

function isSame(a: Shot, b: Shot): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
