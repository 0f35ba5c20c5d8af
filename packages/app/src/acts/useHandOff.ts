import {
  activeCloths,
  bakeReport,
  frameNumber,
  lastShownFrame,
  patternSvg,
  reportTable,
  shapeMesh,
  type BakeReport,
  type CacheFormat,
  type Cloth,
  type Shot,
  type ShownPlaces,
  type TakeDifference,
} from '@lumbra/core';
import type { reportPage } from '@lumbra/core/report';
import * as Comlink from 'comlink';
import { storeToRefs } from 'pinia';
import { computed, ref } from 'vue';
import { download } from './download';
import { useDocumentStore } from '../session/document';
import { errorText, useNoticeStore } from '../stores/notice';
import { takenShot } from '../storage/takes';
import { useFinishedStore } from '../stores/finished';
import { useHandingStore } from '../stores/handing';
import { useRetimed } from '../stores/retimed';
import { useRunStore } from '../stores/run';
import { useTakesStore } from '../stores/takes';
import { filesHost } from '../workers/hosts';
import type { FilesWorker, FrameSource, TakeOptions, WrittenTake } from '../workers/files.worker';

/** A file that is being written: how much of it is done, where that is known, and since when, in ms. */
interface Writing {
  name: string;
  share: number | null;
  started: number;
  stopped: boolean;
  /** A file is read, not written. */
  reads?: boolean;
}

type Pictures = ReadonlyMap<number, string>;

/** The page of a report, which holds what draws its curves: loaded when one is made. */
const page: (...of: Parameters<typeof reportPage>) => Promise<string> = async (...of) =>
  (await import('@lumbra/core/report')).reportPage(...of);

/** A report as a file, by its ending. */
const REPORTS = {
  html: { type: 'text/html', text: (report: BakeReport, pictures: Pictures) => page(report, { pictures }) },
  csv: { type: 'text/csv', text: reportTable },
  json: { type: 'application/json', text: (report: BakeReport) => JSON.stringify(report, null, 2) },
} as const;
export type ReportFile = keyof typeof REPORTS;
export const REPORT_FILES = Object.keys(REPORTS) as ReportFile[];

/** What the browser's window has where it can write into folders (File System Access). */
declare global {
  interface Window {
    showDirectoryPicker?: (options: { mode: 'readwrite'; id: string }) => Promise<FileSystemDirectoryHandle>;
  }
}
export const canChooseFolder = (): boolean => typeof window.showDirectoryPicker === 'function';

/** Makes pictures for the report of a bake of a shot, by the places of its problems. */
type Illustrate = (report: BakeReport, shot: Shot) => Promise<Map<number, string>>;

/** Has the worker write a take. */
type WriteTake = (
  api: Comlink.Remote<FilesWorker>,
  how: TakeOptions,
  from: FrameSource,
  heard: (done: number) => boolean,
  folder: FileSystemDirectoryHandle | undefined,
) => Promise<WrittenTake | null>;

/** How long a worker has to hear that it is to stop, in ms. */
const STOP_MS = 2000;

/** A name as files have it. */
const fileStem = (name: string): string => name.replace(/[^\w-]+/g, '_');

/** The name of a zip in place of a file that has pictures beside it. */
const zipName = (name: string): string => (name.endsWith('.zip') ? name : `${name.replace('.', '-')}.zip`);

/** Writing files: each act says what it wrote, or what went wrong. */
export function useHandOff(illustrate: Illustrate) {
  const document = useDocumentStore();
  const run = useRunStore();
  const takes = useTakesStore();
  const notice = useNoticeStore();
  const made = useFinishedStore();
  const { retimed } = useRetimed();
  /** Whether what is written has its finish lists done: as cloth is shown, so it is written. */
  const finished = computed({ get: () => !made.raw, set: (wanted) => (made.raw = !wanted) });
  const { options, withThings, apart, into } = storeToRefs(useHandingStore());
  const canFinish = computed(() => activeCloths(document.shot!).some(({ finish }) => finish.some(({ on }) => on)));
  const working = ref<Writing | null>(null);

  /** The frames that can be written: those of the take, and where cloth is retimed those that it then takes. */
  const range = computed(() => {
    const there = takes.account.map((row) => row.frame);
    const [first, last] = [Math.min(...there), Math.max(...there)];
    const shown = there.length > 0 && finished.value && document.shot;
    return { first, last: shown ? lastShownFrame(activeCloths(shown), shown.firstFrame, last) : last };
  });

  function stem(): string {
    const shot = document.shot!;
    return fileStem(shot.code || shot.name);
  }

  function cloths() {
    return activeCloths(document.shot!).map((cloth) => ({ cloth, mesh: shapeMesh(cloth.shape, document.assets) }));
  }

  /** The frames of the take that is looked at; staleness is the artist's choice, but is said. */
  function source(): FrameSource {
    const there = takes.account.filter(({ frame }) => !takes.holes.has(frame));
    return {
      take: takes.take!.id,
      frames: there.map(({ frame, stats: { fingerprint } }) => ({ frame, fingerprint })),
      unkept: takes.unkept.map(({ frame }) => ({ frame, positions: takes.cache.get(frame)! })),
    };
  }

  /** Writes a file of that name; work that gives nothing back has put it where it belongs. */
  async function write(
    name: string,
    work: () => Promise<{ data: Uint8Array | Blob | string; type: string } | null>,
    where = '',
  ): Promise<void> {
    const mine: Writing = { name, share: null, started: performance.now(), stopped: false };
    working.value = mine;
    try {
      const done = await work();
      if (done) download(done.type === 'application/zip' ? zipName(name) : name, done.data, done.type);
      notice.say(`${name} is written${where}.`);
    } catch (error) {
      if (working.value.stopped) notice.say(`${name} was not written: it was stopped.`);
      else notice.problem(`${name} was not written. ${errorText(error)}`);
    } finally {
      working.value = null;
    }
  }

  /** Whether there is more than one thing to write, and each goes into files of its own. */
  const isApart = () => apart.value && (cloths().length > 1 || withThings.value);

  function told() {
    const shot = document.shot!;
    const how = {
      finished: finished.value,
      withThings: withThings.value,
      apart: isApart(),
      shot,
      assets: document.currentAssets(),
      options: { ...options.value },
    };
    return { stem: stem(), cloths: cloths(), ...how };
  }

  /** Tells the bar how far reading a take is, and the worker whether to go on. */
  function progressOf(from: FrameSource) {
    return Comlink.proxy((done: number) => {
      if (!working.value) return false;
      working.value.share = done / from.frames.length;
      return !working.value.stopped;
    });
  }

  /** How far a cache that was written is from the take that is looked at; null where it cannot be told, which is said. */
  async function compare(cache: File): Promise<TakeDifference | null> {
    const mine: Writing = { name: cache.name, share: null, started: performance.now(), stopped: false, reads: true };
    working.value = mine;
    try {
      return await filesHost.call((api) => {
        const from = source();
        return api.compare(cache, told(), from, progressOf(from));
      });
    } catch (error) {
      if (working.value.stopped) notice.say(`${cache.name} was not compared: it was stopped.`);
      else notice.problem(`${cache.name} was not compared. ${errorText(error)}`);
      return null;
    } finally {
      working.value = null;
    }
  }

  /** Writes something of the take that is looked at, for a download or into a folder: one file, or many. `work` has the worker write it. */
  async function writeTake({ id, oneFile }: { id: string; oneFile: boolean }, work: WriteTake): Promise<void> {
    const folder = into.value ? await chosenFolder() : undefined;
    if (folder === null) return;
    const name = oneFile ? `${stem()}.${id}` : folder ? `${stem()}, ${id.toUpperCase()}` : `${stem()}-${id}.zip`;
    const call = () =>
      filesHost.call((api) => {
        const from = source();
        return work(api, told(), from, progressOf(from), folder);
      });
    await write(name, call, folder && ` to the folder ${folder.name || 'that was chosen'}`);
  }

  /** Writes the take that is looked at in one of the formats for motion. */
  const take = (format: CacheFormat) =>
    writeTake({ id: format.id, oneFile: format.oneFile && !isApart() }, (api, how, from, heard, folder) =>
      api.take(format.id, how, from, heard, folder),
    );

  /** Asks for a folder; null where the artist thinks better of it, or the browser refuses. */
  async function chosenFolder(): Promise<FileSystemDirectoryHandle | null> {
    try {
      return await window.showDirectoryPicker!({ mode: 'readwrite', id: 'hand-off' });
    } catch (error) {
      if (!(error instanceof DOMException && error.name === 'AbortError'))
        notice.problem(`Nothing was written: the folder could not be opened. ${errorText(error)}`);
      return null;
    }
  }

  /** Gives up what is being written: nothing of it is left. What does not hear of it in time is ended. */
  function stop(): void {
    const mine = working.value;
    if (!mine) return;
    mine.stopped = true;
    setTimeout(() => working.value === mine && filesHost.kill('It was stopped.'), STOP_MS);
  }

  /** Writes something of the frame that is looked at. */
  const writeFrame = (ending: string, work: () => Promise<WrittenTake>) =>
    write(`${stem()}-${frameNumber(run.frame)}.${ending}`, work);

  /** Writes the cloth as it is seen now as one file. */
  const frame = ({ id }: CacheFormat) =>
    writeFrame(id, () => {
      const shown = run.shownPositions();
      const all = finished.value ? retimed(shown) : shown;
      const places = cloths().map(({ cloth }) => all.get(cloth.id));
      if (places.includes(undefined)) throw new Error('Its frames are still being read. Try again in a moment.');
      const now = { frame: run.frame, places: places as ShownPlaces[] };
      return filesHost.call((api) => api.frame(id, told(), now));
    });

  const shotFile = () =>
    write(`${stem()}.lumbra`, async () => ({
      data: await filesHost.call((api) => api.shotFile(document.shot!, document.currentAssets())),
      type: 'application/zip',
    }));

  /** The account of the take that is looked at: of the shot that was baked, which may not be the one that is open any more. */
  async function account(): Promise<{ own: BakeReport; shot: Shot }> {
    const shot = (await takenShot(takes.take!)) ?? document.shot!;
    const timed = takes.account.map(({ frame, stats, seconds }) => ({ frame, stats, took: seconds }));
    return { own: bakeReport(shot, takes.lastSpan!.inputsHash, timed), shot };
  }

  const report = (as: ReportFile) =>
    write(`${stem()}-report.${as}`, async () => {
      const { type, text } = REPORTS[as];
      const { own, shot } = await account();
      return { data: await text(own, as === 'html' ? await illustrate(own, shot) : new Map()), type };
    });

  /** The report as a page to be read here. */
  async function reportHere(evening: boolean): Promise<string> {
    const { own, shot } = await account();
    return page(own, { evening, pictures: await illustrate(own, shot) });
  }

  /** Writes the pieces of a cloth that is cut as a drawing in its true size. */
  const drawing = ({ name, shape }: Cloth) =>
    write(`${fileStem(name)}.svg`, () => {
      if (shape.kind !== 'pattern') throw new Error('Only cloth that is cut from pieces has a pattern.');
      return Promise.resolve({ data: patternSvg(shape, name), type: 'image/svg+xml' });
    });

  return {
    compare,
    writeTake,
    writeFrame,
    drawing,
    working,
    stop,
    finished,
    canFinish,
    range,
    take,
    frame,
    shotFile,
    report,
    reportHere,
  };
}
