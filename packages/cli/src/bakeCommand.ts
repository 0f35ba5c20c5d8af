import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import {
  activeCloths,
  bakeFrames,
  BakeRun,
  bakeReport,
  brokenText,
  finishTake,
  FrameClock,
  handTake,
  HAND_DEFAULTS,
  inputsHash,
  keptPromises,
  readShotFile,
  reportTable,
  retimingSteps,
  runInputs,
  shapeMesh,
  type BakedFrame,
  type BakeReport,
  type CacheFormat,
  type FrameStats,
  type HandedFrame,
  useThreads,
  writeApart,
  type HandOptions,
  type Shot,
} from '@lumbra/core';
import { reportPage } from '@lumbra/core/report';
import { startNodeHelper } from '@lumbra/core/node';
import { writeInto } from './folderSink';

interface BakeOptions {
  out: string;
  format: CacheFormat;
  frames?: { first: number; last: number };
  report?: string;
  threads?: number;
  /** Whether finish lists are left out. */
  unfinished?: boolean;
  /** Whether other things that are shown are written too. */
  things?: boolean;
  /** Whether each of them is written in files of its own. */
  apart?: boolean;
  step?: number;
  unit?: HandOptions['unit'];
  up?: HandOptions['up'];
}

/** `lumbra bake SHOT`: runs the shot, writes its cloth and says what came out. Progress goes to stderr. */
export async function bakeCommand(file: string, options: BakeOptions): Promise<void> {
  const { shot, assets } = await readShotFile(await readInput(file));
  const range = options.frames ?? { first: shot.firstFrame, last: shot.lastFrame };
  if (range.first < shot.firstFrame) {
    throw new Error(`The shot begins at frame ${shot.firstFrame}; it has no frame ${range.first}.`);
  }
  const simulated = activeCloths(shot).map((cloth) => ({ cloth, mesh: shapeMesh(cloth.shape, assets) }));
  const done = finishTake(simulated, {
    shot,
    assets,
    finished: !options.unfinished,
    withThings: options.things ?? false,
  });
  takeThreads(options.threads);
  const run = new BakeRun(shot, assets);
  await mkdir(options.out, { recursive: true });
  const stats: { frame: number; stats: FrameStats; took: number }[] = [];
  const clock = new FrameClock();
  const retimes = !options.unfinished && simulated.some(({ cloth }) => retimingSteps(cloth).length > 0);
  // What is retimed shows other frames than those that are asked for.
  const lastBaked = retimes ? shot.lastFrame : range.last;
  /** The frames of the run as they come; all are counted. */
  async function* frames(): AsyncGenerator<HandedFrame> {
    let begun = performance.now();
    for await (const baked of bakeFrames(run, lastBaked)) {
      stats.push({ frame: baked.frame, stats: baked.stats, took: (performance.now() - begun) / 1000 });
      clock.tell(performance.now());
      progress(baked, lastBaked, clock);
      yield baked;
      begun = performance.now();
    }
  }
  const { step, unit, up } = { ...HAND_DEFAULTS, ...options };
  const take = { cloths: done.cloths, frames: done.frames(frames()), frameRate: shot.frameRate, stem: fileStem(shot) };
  // All that a retimed take has, where no frames are asked for.
  const handed = handTake(take, { ...(options.frames ?? { first: range.first }), step, unit, up }, options.format);
  await writeInto(options.out, (sink) =>
    options.apart ? writeApart(options.format, handed, sink) : options.format.write(handed, sink),
  );
  process.stderr.write('\n');
  const report = bakeReport(shot, inputsHash(runInputs(shot, assets)), stats);
  if (options.report) await writeFile(options.report, reportFile(options.report, report));
  const worst = Math.max(...stats.map((entry) => entry.stats.maxStretch));
  const counts = stats.flatMap(({ stats: { substeps } }) => substeps ?? []);
  console.log(
    `${shot.code || shot.name}: ${stats.length} frames, ${Math.min(...counts)} to ${Math.max(...counts)} substeps, worst stretch ${(worst * 100).toFixed(1)} %${promiseText(stats)}, fingerprint ${report.fingerprint}`,
  );
  const broken = keptPromises(stats)?.worst;
  if (broken) console.log(brokenText(broken, (id) => shot.things.find((thing) => thing.id === id)?.name));
}

/** Takes as many threads as are asked for, or else as the machine has processors, up to four. */
function takeThreads(asked: number | undefined): void {
  const lost = () =>
    process.stderr.write('\nA thread stopped in the middle. The bake goes on with one; nothing is lost.\n');
  const taken = useThreads(asked ?? Math.min(4, availableParallelism()), startNodeHelper, { lost });
  if (asked !== undefined && taken < asked) process.stderr.write(`Computes on ${taken} threads: more are of no use.\n`);
}

/** The report as the ending of its file asks for: a page to read, a table, else JSON. */
function reportFile(file: string, report: BakeReport): string {
  const ending = path.extname(file).toLowerCase();
  if (ending === '.html' || ending === '.htm') return reportPage(report);
  if (ending === '.csv') return reportTable(report);
  return JSON.stringify(report, null, 2) + '\n';
}

/** How what the quality promises was kept, where it promises something. */
function promiseText(stats: { frame: number; stats: FrameStats }[]): string {
  const kept = keptPromises(stats);
  if (!kept) return '';
  const again = kept.retaken > 0 ? `, ${kept.retaken} taken again` : '';
  return kept.broken === 0 ? `, promise kept${again}` : `, promise broken in ${kept.broken} frames${again}`;
}

function fileStem(shot: Shot): string {
  return (shot.code || shot.name).replace(/[^\w-]+/g, '_');
}

async function readInput(file: string): Promise<Uint8Array> {
  try {
    return await readFile(file);
  } catch (error) {
    const reason = (error as NodeJS.ErrnoException).code === 'ENOENT' ? 'there is no such file' : String(error);
    throw new Error(`${file} cannot be read: ${reason}.`);
  }
}

function progress({ frame }: BakedFrame, last: number, { perFrame }: FrameClock): void {
  const left = perFrame === null ? '' : `, ${Math.ceil((perFrame * (last - frame)) / 1000)} s left`;
  process.stderr.write(`\rframe ${frame} of ${last}${left}   `);
}
