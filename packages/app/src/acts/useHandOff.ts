import {
  activeCloths,
  bakeReport,
  HAND_DEFAULTS,
  lastShownFrame,
  reportPage,
  reportTable,
  shapeMesh,
  type BakeReport,
  type CacheFormat,
  type HandOptions,
  type ShownPlaces,
} from '@lumbra/core';
import * as Comlink from 'comlink';
import { computed, ref } from 'vue';
import { download } from './download';
import { useDocumentStore } from '../session/document';
import { errorText, useNoticeStore } from '../stores/notice';
import { takenShot } from '../storage/takes';
import { useFinishedStore } from '../stores/finished';
import { useRetimed } from '../stores/retimed';
import { useRunStore } from '../stores/run';
import { useTakesStore } from '../stores/takes';
import { filesHost } from '../workers/hosts';
import type { FrameSource } from '../workers/files.worker';

/** A file that is being written: how much of it is done, where that is known, and since when, in ms. */
interface Writing {
  name: string;
  share: number | null;
  started: number;
  stopped: boolean;
}

/** A report as a file, by its ending. */
const REPORTS = {
  html: { type: 'text/html', text: (report: BakeReport) => reportPage(report) },
  csv: { type: 'text/csv', text: reportTable },
  json: { type: 'application/json', text: (report: BakeReport) => JSON.stringify(report, null, 2) },
} as const;
export type ReportFile = keyof typeof REPORTS;
export const REPORT_FILES = Object.keys(REPORTS) as ReportFile[];

/** Writing files: each act says what it wrote, or what went wrong. */
export function useHandOff() {
  const document = useDocumentStore();
  const run = useRunStore();
  const takes = useTakesStore();
  const notice = useNoticeStore();
  const made = useFinishedStore();
  const { retimed } = useRetimed();
  /** Whether what is written has its finish lists done: as cloth is shown, so it is written. */
  const finished = computed({ get: () => !made.raw, set: (wanted) => (made.raw = !wanted) });
  /** Which frames, in what, which axis up; all of the take where no frames are given. */
  const options = ref<HandOptions>({ ...HAND_DEFAULTS });
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
    return (shot.code || shot.name).replace(/[^\w-]+/g, '_');
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

  async function write(name: string, work: () => Promise<{ data: Uint8Array | string; type: string }>): Promise<void> {
    const mine: Writing = { name, share: null, started: performance.now(), stopped: false };
    working.value = mine;
    try {
      const { data, type } = await work();
      download(name, data, type);
      notice.say(`${name} is written.`);
    } catch (error) {
      if (working.value.stopped) notice.say(`${name} was not written: it was stopped.`);
      else notice.problem(`${name} was not written. ${errorText(error)}`);
    } finally {
      working.value = null;
    }
  }

  function told() {
    const shot = document.shot!;
    const how = { finished: finished.value, shot, assets: document.currentAssets(), options: { ...options.value } };
    return { stem: stem(), cloths: cloths(), ...how };
  }

  /** Writes the take that is looked at in one of the formats for motion. */
  const take = ({ id, oneFile }: CacheFormat) =>
    write(oneFile ? `${stem()}.${id}` : `${stem()}-${id}.zip`, () =>
      filesHost.call((api) => {
        const from = source();
        const heard = (done: number) => working.value && (working.value.share = done / from.frames.length);
        return api.take(id, told(), from, Comlink.proxy(heard));
      }),
    );

  /** Gives up what is being written: nothing of it is left. */
  function stop(): void {
    if (!working.value) return;
    working.value.stopped = true;
    filesHost.kill('It was stopped.');
  }

  /** Writes the cloth as it is seen now as one file. */
  const frame = ({ id }: CacheFormat) =>
    write(`${stem()}-${String(run.frame).padStart(4, '0')}.${id}`, () => {
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
  async function account(): Promise<BakeReport> {
    const shot = (await takenShot(takes.take!)) ?? document.shot!;
    return bakeReport(shot, takes.lastSpan!.inputsHash, takes.account);
  }

  const report = (as: ReportFile) =>
    write(`${stem()}-report.${as}`, async () => {
      const { type, text } = REPORTS[as];
      return { data: text(await account()), type };
    });

  /** The report as a page to be read here. */
  const reportHere = async (evening: boolean) => reportPage(await account(), { evening });

  return { working, stop, finished, canFinish, range, options, take, frame, shotFile, report, reportHere };
}
