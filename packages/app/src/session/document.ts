import {
  difference,
  edit as editShot,
  followShapes,
  inputsHash,
  meshId,
  readShot,
  redo as redoShot,
  runInputs,
  undo as undoShot,
  usedAssets,
  type Edit,
  type Mesh,
  type Shot,
} from '@lumbra/core';
import { freeze } from 'immer';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { storageProblem, type ProductionRow } from '../storage/database';
import { addProduction } from '../storage/productions';
import { addShot, forgetUnused, openShot } from '../storage/shots';
import { ShotChangedError, ShotGoneError } from '../storage/writeShot';
import { errorText, useNoticeStore } from '../stores/notice';
import { cutAhead } from '../workers/meshWork';
import { ShotSaver } from './saver';
import { takeShot, waitForShot, type ShotLock } from '../storage/shotLock';
import { askTabs, hearTabs, PATIENCE, TAB, tellTabs } from './tabs';

/** A save that was refused is tried again after so many ms, then after twice as many, at most after the last. */
const RETRY = { first: 3000, most: 60_000 };

/** The open shot: its lock, its document with its history, and how it is kept. The one way to change it is `edit`. */
export const useDocumentStore = defineStore('document', () => {
  const notice = useNoticeStore();
  const shot = shallowRef<Shot | null>(null);
  const production = shallowRef<ProductionRow | null>(null);
  /** Meshes of the shot by id. They are only added, so that undo always finds them. */
  const assets = shallowRef<Map<string, Mesh>>(new Map());
  const done = shallowRef<Edit[]>([]);
  const undone = shallowRef<Edit[]>([]);
  /** “lost”: the shot as it is here can no longer be kept under its name, since it was erased or changed elsewhere. */
  const saving = ref<'saved' | 'waiting' | 'refused' | 'lost'>('saved');
  /** The take that was looked at when the shot was opened. */
  const takeAtOpening = shallowRef<string | undefined>();
  /** Edits with the same key, one after the other, become one: a dragged label is one undo. They began at this document. */
  let merge: { key: string; base: Shot } | null = null;
  let saver: ShotSaver | null = null;
  let flushing: Promise<boolean> | null = null;
  let retry = { timer: 0 as unknown as ReturnType<typeof setTimeout>, wait: RETRY.first };
  /** Another tab has this shot: here it can only be looked at. */
  const readOnly = ref(false);
  /** The tab that has it could not save; pressed again, it is taken all the same. */
  const takesAnyway = ref(false);
  let lock: ShotLock | null = null;
  let waiting: AbortController | null = null;
  /** Rises with every opening and closing: what was asked for before has no say any more. */
  let visit = 0;
  let closing: Promise<void> = Promise.resolve();

  const undoLabel = computed(() => done.value.at(-1)?.label);
  const redoLabel = computed(() => undone.value.at(-1)?.label);
  /** What a run of the shot depends on. */
  const inputs = computed(() => (shot.value ? runInputs(shot.value, assets.value) : {}));
  const hash = computed(() => inputsHash(inputs.value));
  const unsaved = computed(() => saving.value !== 'saved');

  /** Opens a shot, to edit it unless another tab does; false when there is none with this id, or it was left meanwhile. */
  async function open(id: string): Promise<boolean> {
    const closed = close();
    const mine = ++visit;
    await closed;
    const taken = await takeShot(id);
    if (mine !== visit || !(await read(id, mine))) {
      taken?.release();
      return false;
    }
    readOnly.value = taken === null;
    if (taken) hold(id, taken);
    else void editWhenFree(id);
    return true;
  }

  /** Reads the shot from the storage, and puts it here if that is `still` wanted when it has come. */
  async function read(id: string, mine = visit, still = () => true): Promise<boolean> {
    const opened = await openShot(id);
    if (!opened || mine !== visit || !still()) return false;
    // Without a worker the page cuts them itself, when they are drawn.
    await Promise.all(patternsOf(opened.shot).map((pattern) => cutAhead(pattern).catch(() => undefined)));
    if (mine !== visit || !still()) return false;
    // Read anew, a shot keeps the meshes that are here: what is known of them stays known.
    const here = shot.value?.id === id ? assets.value : [];
    assets.value = new Map([...opened.assets, ...here]);
    shot.value = opened.shot;
    production.value = opened.production ?? null;
    done.value = opened.history.done;
    undone.value = opened.history.undone;
    takeAtOpening.value = opened.take;
    saver = new ShotSaver(opened);
    merge = null;
    saving.value = 'saved';
    takesAnyway.value = false;
    return true;
  }

  /** Keeps the shot for this tab until it is closed or given over. */
  function hold(id: string, taken: ShotLock): void {
    lock = taken;
    // Only whoever edits knows that nothing is about to be named.
    void forgetUnused(id).catch(() => undefined);
    void taken.lost.then(() => {
      if (lock !== taken) return;
      lock = null;
      readOnly.value = true;
      notice.problem(
        unsaved.value
          ? 'Another tab has taken this shot over, and what was changed here last is not kept. Keep it as a new shot, or save it as a file.'
          : 'Another tab has taken this shot over. All changes made here are kept; from now on it can only be looked at here.',
      );
      if (unsaved.value) saving.value = 'lost';
      else void editWhenFree(id);
    });
  }

  async function editWhenFree(id: string): Promise<void> {
    const stop = (waiting = new AbortController());
    const taken = await waitForShot(id, stop.signal);
    if (!taken) return;
    if (stop.signal.aborted || shot.value?.id !== id) return taken.release();
    await becomeEditor(id, taken);
  }

  /** Takes the shot over from the tab that has it, once that has saved; from one that sleeps or is gone at once. */
  async function takeOver(): Promise<void> {
    const id = shot.value?.id;
    if (!id || !readOnly.value) return;
    const mine = visit;
    const asked = takesAnyway.value
      ? null
      : await askTabs({ kind: 'wanted', shot: id, from: TAB }, ['saved for', 'cannot save for']);
    if (mine !== visit || !readOnly.value) return;
    if (asked?.kind === 'cannot save for') {
      takesAnyway.value = true;
      return notice.problem(
        'The other tab has changes that the browser refuses to keep. Save the shot as a file there first; pressed once more, it is taken over without them.',
      );
    }
    waiting?.abort();
    const taken = await takeShot(id, { steal: true });
    if (!taken) return;
    if (mine !== visit) return taken.release();
    await becomeEditor(id, taken);
  }

  async function becomeEditor(id: string, taken: ShotLock): Promise<void> {
    // What the other tab did is in the storage.
    if (!(await read(id))) {
      taken.release();
      if (shot.value?.id === id)
        notice.problem('This shot was deleted in another tab. What is shown here can be kept as a new shot.');
      return;
    }
    readOnly.value = false;
    hold(id, taken);
    notice.say('This shot can be edited here now.');
  }

  hearTabs((message) => {
    if (message.shot !== shot.value?.id) return;
    const looks = () => readOnly.value && saving.value === 'saved';
    if (message.kind === 'written' && looks()) void read(message.shot, visit, looks);
    if (!lock) return;
    if (message.kind === 'wanted') void giveOver(message.shot, message.from);
    if (message.kind === 'name') {
      const { name, code } = message;
      edit('Rename the shot', (draft) => void Object.assign(draft, { name, code }));
      void flush().then((kept) => kept && tellTabs({ kind: 'named', shot: message.shot, to: message.from }));
    }
  });

  /** Another tab wants the shot: from now on nothing is changed here, and it may have it once all is kept. */
  async function giveOver(id: string, to: string): Promise<void> {
    readOnly.value = true;
    const kept = await flush();
    if (shot.value?.id !== id) return;
    if (!kept) readOnly.value = false;
    tellTabs({ kind: kept ? 'saved for' : 'cannot save for', shot: id, to });
    // Who asked may be gone: then it is still edited here.
    const given = lock;
    setTimeout(() => {
      if (lock === given && lock !== null && saving.value !== 'lost') readOnly.value = false;
    }, PATIENCE);
  }

  /** Saves, then lets other tabs edit the shot. What is asked for afterwards finds no shot. */
  function close(): Promise<void> {
    visit++;
    waiting?.abort();
    waiting = null;
    const held = lock;
    lock = null;
    endMerge();
    closing = Promise.all([closing, held ? flush() : true]).then(() => held?.release());
    return closing;
  }

  /** Saves what is not saved yet; resolves to whether all is kept. What changes meanwhile is saved too. */
  function flush(): Promise<boolean> {
    flushing ??= saveAll().finally(() => (flushing = null));
    return flushing;
  }

  async function saveAll(): Promise<boolean> {
    clearTimeout(retry.timer);
    while (saver && shot.value && saving.value !== 'saved' && saving.value !== 'lost') {
      const [mine, saved, editor] = [visit, shot.value, saver];
      try {
        await editor.save({ shot: saved, done: done.value, undone: undone.value, inputsHash: hash.value });
      } catch (error) {
        if (editor === saver) refused(error);
        return false;
      }
      tellTabs({ kind: 'written', shot: saved.id });
      if (editor !== saver || (mine !== visit && shot.value !== saved)) continue;
      if (shot.value === saved) saving.value = 'saved';
      retry.wait = RETRY.first;
    }
    return saving.value !== 'lost';
  }

  function refused(error: unknown): void {
    if (error instanceof ShotGoneError || error instanceof ShotChangedError) {
      saving.value = 'lost';
      readOnly.value = true;
      return notice.problem(
        `${error.message} What is shown here is not kept: keep it as a new shot, or save it as a file.`,
      );
    }
    if (saving.value !== 'refused') notice.problem(storageProblem(error));
    saving.value = 'refused';
    retry = { timer: setTimeout(() => void flush(), retry.wait), wait: Math.min(RETRY.most, retry.wait * 2) };
  }

  function changed(next: Shot): void {
    shot.value = next;
    if (saving.value === 'saved') saving.value = 'waiting';
    void flush();
  }

  /**
   * Changes the shot by a recipe on a draft; undoable. Edits with the same `merge` key join into one undo.
   * An impossible result is refused with a message, and nothing changes. Returns whether it was accepted.
   */
  function edit(label: string, recipe: (draft: Shot) => void, key: string | null = null): boolean {
    if (!shot.value || !writable()) return false;
    try {
      const before = shot.value;
      const { shot: next, edit: made } = editShot(before, label, (draft) => {
        recipe(draft);
        followShapes(draft, before, assets.value);
      });
      if (made.forward.length === 0) return true;
      const joins = key !== null && key === merge?.key && undone.value.length === 0;
      if (joins) done.value = [...done.value.slice(0, -1), difference(label, merge!.base, next)];
      else {
        done.value = [...done.value, made];
        merge = key === null ? null : { key, base: before };
      }
      undone.value = [];
      changed(next);
      return true;
    } catch (error) {
      notice.problem(errorText(error));
      return false;
    }
  }

  /** Keeps from where the shot is looked at, in m; no edit, so not undone. Whoever may not edit, or has closed it, keeps nothing. */
  function keepCamera(seen: Shot['camera']): void {
    if (!shot.value || readOnly.value || lock === null) return;
    const tidy = ([x, y, z]: Shot['camera']['position']) => [x, y, z].map((v) => Math.round(v * 1e4) / 1e4);
    const camera = { position: tidy(seen.position), target: tidy(seen.target) } as Shot['camera'];
    if (JSON.stringify(camera) === JSON.stringify(shot.value.camera)) return;
    // Undoing what is being dragged leaves the view where it is.
    if (merge) merge = { ...merge, base: { ...merge.base, camera } };
    changed(freeze({ ...shot.value, camera }, true));
  }

  /** Puts another version of the shot in its place, exactly as it is; undoable. Returns whether it was accepted. */
  function replace(label: string, next: Shot): boolean {
    if (!shot.value || !writable()) return false;
    const made = difference(label, shot.value, readShot(next));
    if (made.forward.length === 0) return true;
    done.value = [...done.value, made];
    undone.value = [];
    merge = null;
    changed(redoShot(shot.value, made));
    return true;
  }

  /** Whether the shot may be changed here; says why when not. */
  function writable(): boolean {
    if (saving.value === 'lost') notice.problem('Nothing was changed: keep this as a new shot first.');
    else if (readOnly.value) notice.problem('Nothing was changed: this shot is being edited in another tab.');
    return !readOnly.value;
  }

  /** Takes back what edits with a key have joined into so far, as if it had not been: a drag that is given up. */
  function giveUp(key: string): void {
    if (merge?.key !== key || !shot.value || readOnly.value) return;
    const { base } = merge;
    merge = null;
    done.value = done.value.slice(0, -1);
    changed(base);
  }

  /** Ends the joining of edits, when a drag is over. One that came back to where it began is not kept: undoing it would do nothing. */
  function endMerge(): void {
    if (merge && done.value.at(-1)?.forward.length === 0) giveUp(merge.key);
    merge = null;
  }

  function undo(): void {
    const last = done.value.at(-1);
    const before = last && stepped(last, undoShot);
    if (!before) return;
    done.value = done.value.slice(0, -1);
    undone.value = [...undone.value, last];
    merge = null;
    changed(before);
  }

  function redo(): void {
    const last = undone.value.at(-1);
    const after = last && stepped(last, redoShot);
    if (!after) return;
    undone.value = undone.value.slice(0, -1);
    done.value = [...done.value, last];
    merge = null;
    changed(after);
  }

  /** The shot one edit back or on; null where it may not be changed, or what is kept of the edit is damaged. */
  function stepped(step: Edit, way: (from: Shot, step: Edit) => Shot): Shot | null {
    if (!shot.value || !writable()) return null;
    try {
      return way(shot.value, step);
    } catch {
      notice.problem(
        `“${step.label}” cannot be undone or redone: what is kept of it is damaged. The shot is as it was.`,
      );
      return null;
    }
  }

  /** Goes back or on in the history, until so many edits are done. */
  function goToEdit(count: number): void {
    if (!writable()) return;
    // Each step takes one away; one that cannot be taken ends it.
    for (let left = done.value.length - Math.max(0, count); left > 0; left--) undo();
    for (let left = Math.min(count - done.value.length, undone.value.length); left > 0; left--) redo();
  }

  /** Adds a mesh to the shot's assets; it is kept with the edit that names it. */
  function addAsset(id: string, mesh: Mesh): void {
    if (assets.value.has(id)) return;
    assets.value = new Map(assets.value).set(id, mesh);
    if (!readOnly.value) saver?.addMesh(id, mesh);
  }

  /** Adds a mesh under the name that its content gives it, so that the same mesh is kept once; returns that. */
  function addMesh(mesh: Mesh): string {
    const id = meshId(mesh);
    addAsset(id, mesh);
    return id;
  }

  /** The assets that a document names, for a run or a file. */
  function assetsOf(of: Shot): Map<string, Mesh> {
    return new Map(
      usedAssets(of).flatMap((id) => (assets.value.has(id) ? [[id, assets.value.get(id)!] as const] : [])),
    );
  }

  const currentAssets = (): Map<string, Mesh> => (shot.value ? assetsOf(shot.value) : new Map());

  /** Keeps the shot as it is here as a new one beside it; resolves to its id. */
  async function keepAsNew(id: string): Promise<string | null> {
    if (!shot.value) return null;
    const copy = { ...shot.value, id, name: `${shot.value.name}, kept`.slice(0, 120) };
    try {
      const into = production.value ?? (await addProduction('Own shots', 'Shots made in this browser.'));
      await addShot(into.id, copy, currentAssets());
      saving.value = 'saved';
      return id;
    } catch (error) {
      notice.problem(storageProblem(error));
      return null;
    }
  }

  /** Whether what was begun in a visit still concerns the open shot. */
  const visitNow = () => visit;

  return {
    shot,
    production,
    assets,
    done,
    undone,
    saving,
    unsaved,
    readOnly,
    takesAnyway,
    takeAtOpening,
    inputs,
    hash,
    undoLabel,
    redoLabel,
    visitNow,
    open,
    close,
    flush,
    takeOver,
    keepAsNew,
    goToEdit,
    writable,
    edit,
    keepCamera,
    replace,
    endMerge,
    giveUp,
    undo,
    redo,
    addAsset,
    addMesh,
    assetsOf,
    currentAssets,
  };
});

/** The patterns among the cloths of a shot. */
function patternsOf({ things }: Shot) {
  return things.flatMap((thing) => (thing.role === 'cloth' && thing.shape.kind === 'pattern' ? [thing.shape] : []));
}
