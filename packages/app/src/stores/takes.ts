import { changedInputs, newId, type BakedFrame, type Edit, type FrameStats, type Shot } from '@lumbra/core';
import { liveQuery } from 'dexie';
import { defineStore } from 'pinia';
import { computed, markRaw, ref, shallowRef } from 'vue';
import { WorkerEndedError } from '../jobs/workerHost';
import { useDocumentStore } from '../session/document';
import { database, storageProblem, type TakeRow, type TakeSpan } from '../storage/database';
import { noteTake } from '../storage/shots';
import {
  beginTake,
  changeTake,
  eraseTakes,
  keepStill,
  readAccount,
  takenShot,
  type NewTake,
  type TimedFrame,
} from '../storage/takes';
import { FrameCache } from '../takes/frameCache';
import { missingFrames, stretches } from '../takes/missing';
import { framesHost } from '../workers/hosts';
import { errorText, useNoticeStore } from './notice';

/** A frame of the take that is looked at. */
export interface AccountFrame {
  frame: number;
  stats: FrameStats;
  seconds: number;
  /** Whether it is stored; else it is in memory only. */
  kept: boolean;
}

/** An act on takes that can be taken back; see stores/undo.ts. */
export interface TakeStep {
  label: string;
  undo: () => Promise<unknown>;
  redo: () => Promise<unknown>;
  /** The edit after which it came. */
  edit: Edit | undefined;
}

/** While playing, so many frames ahead are read. */
const AHEAD = 12;

/** What a take is called. */
export const takeName = ({ name, number, source }: Pick<TakeRow, 'name' | 'number' | 'source'>): string =>
  name || (source === 'bake' ? `Take ${number}` : `Still ${number}`);

/** The takes of the open shot, the one that is looked at, and its frames. */
export const useTakesStore = defineStore('takes', () => {
  const document = useDocumentStore();
  const notice = useNoticeStore();
  /** The latest first; deleted ones apart. */
  const list = shallowRef<readonly TakeRow[]>([]);
  const deleted = shallowRef<readonly TakeRow[]>([]);
  /** The take that is looked at. */
  const take = shallowRef<TakeRow | null>(null);
  const account = shallowRef<readonly AccountFrame[]>([]);
  /** Stored frames that could not be read back. */
  const holes = shallowRef<ReadonlySet<number>>(new Set());
  const cache = markRaw(new FrameCache());
  /** Rises when frames come into memory. */
  const version = ref(0);
  const steps = shallowRef<{ done: readonly TakeStep[]; undone: readonly TakeStep[] }>({ done: [], undone: [] });
  /** Frames are being added here; their account is kept as they come. */
  const baking = ref(false);
  const reading = new Map<number, Promise<void>>();
  /** Rises when another take is looked at: what was read for the last has no place here. */
  let look = 0;
  /** Rises with every take that is asked for. */
  let asked = 0;
  let following: { unsubscribe: () => void } | null = null;

  const byFrame = computed(() => new Map(account.value.map((entry) => [entry.frame, entry])));
  const lastSpan = computed(() => take.value?.spans.at(-1) ?? null);
  const stale = computed(() => lastSpan.value !== null && lastSpan.value.inputsHash !== document.hash);
  const changes = computed(() => (stale.value ? changedInputs(lastSpan.value!.inputs, document.inputs) : []));
  const bakedUntil = computed(() => account.value.at(-1)?.frame ?? null);
  const isThere = (frame: number) => byFrame.value.has(frame) && !holes.value.has(frame);
  /** Frames of the shot that the take lacks and that can be baked from what it has. */
  const wanted = computed(() => {
    const { shot } = document;
    if (!shot || !take.value) return [];
    return missingFrames(Math.max(shot.firstFrame, lastSpan.value!.first), shot.lastFrame, isThere);
  });
  /** Holes between frames that are there. */
  const missing = computed(() =>
    take.value && bakedUntil.value !== null
      ? missingFrames(Math.min(take.value.firstFrame, bakedUntil.value), bakedUntil.value, isThere)
      : [],
  );
  const complete = computed(() => take.value !== null && !stale.value && wanted.value.length === 0);
  const unkept = computed(() => account.value.filter(({ kept }) => !kept));

  /** The span of a take that a frame belongs to. */
  function spanOf({ spans }: Pick<TakeRow, 'spans'>, frame: number): TakeSpan {
    return spans.findLast(({ first }) => first <= frame) ?? spans[0]!;
  }

  /** Stretches of the timeline: firm, stale, or with nothing that could be read. */
  const thread = computed(() => {
    const shown = take.value;
    if (!shown) return { firm: [], stale: [], holes: [] };
    const there = account.value.filter(({ frame }) => !holes.value.has(frame)).map(({ frame }) => frame);
    const isFirm = (frame: number) => spanOf(shown, frame).inputsHash === document.hash;
    return {
      firm: stretches(there.filter(isFirm)),
      stale: stretches(there.filter((frame) => !isFirm(frame))),
      holes: stretches(missing.value),
    };
  });

  /** Reads the takes of the open shot and looks at the one that was looked at last. */
  async function open(): Promise<void> {
    const visit = document.visitNow();
    const id = document.shot?.id;
    close();
    if (!id) return;
    try {
      const rows = await database.takes.where('shot').equals(id).toArray();
      if (document.visitNow() !== visit) return;
      setRows(rows);
      const known = list.value.filter(({ source }) => source === 'bake');
      await lookAt(known.find((row) => row.id === document.takeAtOpening) ?? known[0] ?? null, false);
    } catch (error) {
      notice.problem(`The takes of this shot could not be read: ${errorText(error)} The shot itself is as it was.`);
    }
    if (document.visitNow() !== visit) return;
    following = liveQuery(() => database.takes.where('shot').equals(id).toArray()).subscribe({
      next: setRows,
      error: () => undefined,
    });
  }

  function close(): void {
    following?.unsubscribe();
    following = null;
    steps.value = { done: [], undone: [] };
    list.value = deleted.value = [];
    forget();
  }

  function setRows(rows: readonly TakeRow[]): void {
    const sorted = [...rows].sort((a, b) => b.number - a.number);
    list.value = sorted.filter((row) => row.deleted === undefined);
    deleted.value = sorted.filter((row) => row.deleted !== undefined);
    const shown = rows.find(({ id }) => id === take.value?.id);
    if (!shown) return;
    const before = take.value!.sum;
    take.value = shown;
    // Another tab adds frames to it.
    if (!baking.value && shown.sum.frames !== before.frames) void refresh().catch(() => undefined);
  }

  /** Puts a changed row where the old one is, before the storage tells. */
  async function change(id: string, values: Parameters<typeof changeTake>[1]): Promise<void> {
    await changeTake(id, values);
    const row = await database.takes.get(id);
    if (row && row.shot === document.shot?.id) {
      setRows([row, ...[...list.value, ...deleted.value].filter((other) => other.id !== id)]);
    }
  }

  function forget(): void {
    look++;
    reading.clear();
    cache.clear();
    take.value = null;
    account.value = [];
    holes.value = new Set();
    version.value++;
  }

  /** Looks at a take: its frames are on the timeline. */
  async function lookAt(row: TakeRow | null, note = true): Promise<void> {
    if (row && row.id === take.value?.id) return;
    const mine = ++asked;
    if (!(await keepsAll())) return;
    const frames = row ? await readAccount(row) : [];
    // Another one was asked for meanwhile, or the shot was left.
    if (mine !== asked || (row && row.shot !== document.shot?.id)) return;
    forget();
    take.value = row;
    account.value = frames.map(({ frame, stats, seconds }) => ({ frame, stats, seconds, kept: true }));
    version.value++;
    if (note && document.shot && !document.readOnly) await noteTake(document.shot.id, row?.id).catch(() => undefined);
  }

  /** Whether no frame would be lost if another take were looked at: those that are in memory only are kept, or it is said that they cannot be. */
  async function keepsAll(): Promise<boolean> {
    if (unkept.value.length === 0 || baking.value || (await keepAgain())) return true;
    notice.problem(
      `${unkept.value.length} frames of ${takeName(take.value!)} are only in memory. Make room for them before you look at another take.`,
    );
    return false;
  }

  /** Reads the account of the take that is looked at anew. */
  async function refresh(): Promise<void> {
    const row = take.value && (await database.takes.get(take.value.id));
    if (!row || row.id !== take.value?.id) return;
    const mine = look;
    const frames = await readAccount(row);
    if (mine !== look) return;
    take.value = row;
    const stored = new Set(frames.map(({ frame }) => frame));
    const inMemory = account.value.filter(({ frame, kept }) => !kept && !stored.has(frame));
    const kept = frames.map(({ frame, stats, seconds }) => ({ frame, stats, seconds, kept: true }));
    account.value = [...kept, ...inMemory].sort((a, b) => a.frame - b.frame);
    version.value++;
  }

  /** Positions per cloth of a frame, where they are in memory; else they are read, and `version` rises when they have come. */
  function positionsAt(frame: number): readonly Float32Array[] | undefined {
    const found = cache.get(frame);
    if (!found) void read(frame);
    return found;
  }

  function read(frame: number): Promise<void> {
    const entry = byFrame.value.get(frame);
    if (!entry || !take.value || cache.has(frame) || holes.value.has(frame)) return Promise.resolve();
    const under = reading.get(frame);
    if (under) return under;
    const [mine, { id }] = [look, take.value];
    const work = framesHost
      .call((api) => api.read(id, frame, entry.stats.fingerprint))
      .then((positions) => {
        if (mine !== look) return;
        cache.put(frame, positions);
        version.value++;
      })
      .catch((error: unknown) => {
        if (mine !== look || error instanceof WorkerEndedError) return;
        if (holes.value.size === 0) {
          notice.problem(
            `Frame ${frame} of ${takeName(take.value!)} could not be read back (${errorText(error)}) It is shown as a hole on the thread and can be baked again; nothing else is lost.`,
          );
        }
        holes.value = new Set([...holes.value, frame]);
        version.value++;
      })
      .finally(() => {
        if (mine === look) reading.delete(frame);
      });
    reading.set(frame, work);
    return work;
  }

  /** Reads frames that will be shown next, while playing. */
  function readAhead(frame: number, first: number, last: number): void {
    const count = last - first + 1;
    for (let n = 1; n <= Math.min(AHEAD, count - 1); n++) {
      if (reading.size >= 3) return;
      void read(first + ((frame - first + n) % count));
    }
  }

  /** A frame that was just computed for the take that is looked at; it is in memory only until `kept`. */
  function add({ frame, stats, seconds, positions }: TimedFrame): void {
    cache.put(frame, positions, true);
    const entry = { frame, stats, seconds, kept: false };
    const others = account.value.filter((other) => other.frame !== frame);
    const at = others.findLastIndex((other) => other.frame < frame) + 1;
    account.value = [...others.slice(0, at), entry, ...others.slice(at)];
    if (holes.value.has(frame)) holes.value = new Set([...holes.value].filter((hole) => hole !== frame));
    version.value++;
  }

  function kept(frames: readonly number[]): void {
    const stored = new Set(frames);
    account.value = account.value.map((entry) => (stored.has(entry.frame) ? { ...entry, kept: true } : entry));
    cache.unpin(frames);
  }

  /** Tries once more to keep the frames that are in memory only. */
  async function keepAgain(): Promise<boolean> {
    const row = take.value;
    const waiting = unkept.value.map(({ frame, stats, seconds }) => ({
      ...{ frame, stats, seconds },
      positions: (cache.get(frame) ?? []) as Float32Array<ArrayBuffer>[],
    }));
    if (!row || waiting.length === 0) return true;
    try {
      // A few at a time, so that what there is room for is kept.
      for (let at = 0; at < waiting.length; at += 8) {
        const some = waiting.slice(at, at + 8);
        const problem = await framesHost.call((api) => api.keep(row.id, some));
        if (problem !== null) throw new Error(problem);
        if (take.value?.id === row.id) kept(some.map(({ frame }) => frame));
      }
      return true;
    } catch (error) {
      notice.problem(errorText(error));
      return false;
    }
  }

  /** Begins a take and looks at it; with `after`, its frames up to there are those of the take that is looked at. */
  async function begin(given: NewTake, after?: { row: TakeRow; frame: number }): Promise<TakeRow> {
    const row = await beginTake(given);
    if (after) await framesHost.call((api) => api.copy(after.row.id, row.id, after.frame));
    if (row.source === 'bake') await lookAt(row, false);
    return row;
  }

  /** Keeps one pose as a take of its own. */
  function keepPose(source: 'settle' | 'live', still: BakedFrame, of: Shot, span: TakeSpan): Promise<TakeRow> {
    const { id: shot, firstFrame, run } = of;
    const given = { shot, source, document: of, quality: run.quality, firstFrame, lastFrame: firstFrame };
    return keepStill({ ...given, id: newId(), spans: [span] }, { ...still, seconds: 0 });
  }

  /** The first frame that a take has. */
  const statsOf = async (row: TakeRow) => (await readAccount(row))[0];

  /** Acts on takes are done one after the other, whenever they are asked for: an undo that is pressed at once comes after its act. */
  let queue: Promise<unknown> = Promise.resolve();
  const inTurn = (work: () => Promise<unknown>) => (queue = queue.then(work, work));

  /** Does something to a take that can be undone; says what is wrong when it cannot be done. */
  async function act(label: string, redo: () => Promise<unknown>, undo: () => Promise<unknown>): Promise<void> {
    if (!document.writable()) return;
    document.endMerge();
    const step = { label, redo, undo, edit: document.done.at(-1) };
    steps.value = { done: [...steps.value.done.slice(-100), step], undone: [] };
    try {
      await inTurn(redo);
    } catch (error) {
      // What could not be done is not there to be undone.
      steps.value = { ...steps.value, done: steps.value.done.filter((other) => other !== step) };
      notice.problem(storageProblem(error));
    }
  }

  const say = (row: TakeRow, values: { name?: string; note?: string; keep?: boolean }, label: string) =>
    act(
      label,
      () => change(row.id, values),
      () => change(row.id, Object.fromEntries(Object.keys(values).map((key) => [key, row[key as keyof TakeRow]]))),
    );

  /** Takes a take away; nothing of it is lost until it is erased. */
  const remove = (row: TakeRow) =>
    act(
      `Delete ${takeName(row)}`,
      async () => {
        await change(row.id, { deleted: Date.now() });
        if (take.value?.id === row.id) await lookAt(list.value.find(({ source }) => source === 'bake') ?? null);
      },
      () => change(row.id, { deleted: undefined }).then(() => (row.source === 'bake' ? lookAt(row) : undefined)),
    );

  const bringBack = (row: TakeRow) =>
    act(
      `Bring back ${takeName(row)}`,
      () => change(row.id, { deleted: undefined }),
      () => change(row.id, { deleted: row.deleted }),
    );

  /** Cuts everything after a frame of the take that is looked at; with null what was cut comes back. */
  const cutAfter = (row: TakeRow, frame: number | null) =>
    act(
      frame === null ? `Bring back what was cut` : `Cut ${takeName(row)} after frame ${frame}`,
      () => change(row.id, { cut: frame ?? undefined }).then(refresh),
      () => change(row.id, { cut: row.cut }).then(refresh),
    );

  /** Erases takes for good. */
  async function erase(rows: readonly TakeRow[]): Promise<void> {
    if (!document.writable()) return;
    const ids = rows.map(({ id }) => id);
    try {
      await eraseTakes(ids);
      steps.value = { done: [], undone: [] };
      setRows([...list.value, ...deleted.value].filter(({ id }) => !ids.includes(id)));
      if (take.value && ids.includes(take.value.id))
        await lookAt(list.value.find(({ source }) => source === 'bake') ?? null);
    } catch (error) {
      notice.problem(storageProblem(error));
    }
  }

  /** Brings the shot back as it was when a take was made: one edit, undoable. */
  async function takeUp(row: TakeRow): Promise<boolean> {
    if (!document.writable()) return false;
    const visit = document.visitNow();
    try {
      const then = await takenShot(row);
      if (document.visitNow() !== visit || !document.shot) return false;
      if (!then) {
        notice.remark(`${takeName(row)} was kept by an older Lumbra that did not keep the shot with it.`);
        return false;
      }
      // Who it is and from where it is looked at are not what was tried.
      const { id, name, code, camera } = document.shot;
      if (!document.replace(`Take up ${takeName(row)}`, { ...then, id, name, code, camera })) return false;
      if (row.source === 'bake') await lookAt(row);
      return true;
    } catch (error) {
      notice.problem(`${takeName(row)} could not be taken up; nothing was changed. ${errorText(error)}`);
      return false;
    }
  }

  async function stepBack(): Promise<void> {
    const step = steps.value.done.at(-1);
    if (!step) return;
    steps.value = { done: steps.value.done.slice(0, -1), undone: [...steps.value.undone, step] };
    await inTurn(step.undo).catch((error: unknown) => notice.problem(storageProblem(error)));
  }

  async function stepOn(): Promise<void> {
    const step = steps.value.undone.at(-1);
    if (!step) return;
    steps.value = { done: [...steps.value.done, step], undone: steps.value.undone.slice(0, -1) };
    await inTurn(step.redo).catch((error: unknown) => notice.problem(storageProblem(error)));
  }

  return {
    list,
    deleted,
    take,
    baking,
    account,
    holes,
    version,
    steps,
    stale,
    changes,
    bakedUntil,
    wanted,
    missing,
    complete,
    unkept,
    thread,
    lastSpan,
    byFrame,
    open,
    close,
    lookAt,
    keepsAll,
    refresh,
    positionsAt,
    read,
    readAhead,
    add,
    kept,
    keepAgain,
    begin,
    keepPose,
    statsOf,
    change,
    say,
    remove,
    bringBack,
    cutAfter,
    erase,
    takeUp,
    stepBack,
    stepOn,
    cache,
  };
});
