import { newId, substepsOf, type Shot } from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import type { TakeRow, TakeSpan } from '../storage/database';
import { eraseCut, takenShot } from '../storage/takes';
import { missingFrames } from '../takes/missing';
import { runSender } from '../workers/hosts';
import type { BakeRequest } from '../workers/run.worker';
import { useTakesStore } from './takes';

/** Inputs of the open shot as they are kept with frames. */
export function spanNow(shot: Shot, first: number): TakeSpan {
  const document = useDocumentStore();
  const { inputs, hash: inputsHash } = document;
  return { first, inputs, inputsHash, substeps: substepsOf(shot, document.assets) };
}

/** What is to be baked, and into which take. */
export async function planBake(
  shot: Shot,
  from: number | null,
): Promise<{ row: TakeRow; plan: BakeRequest['plan'] } | null> {
  const [document, takes] = [useDocumentStore(), useTakesStore()];
  const { take } = takes;
  const range = { firstFrame: shot.firstFrame, lastFrame: shot.lastFrame };
  const given = { id: newId(), shot: shot.id, source: 'bake' as const, document: shot, quality: shot.run.quality };
  const origin = async (row: TakeRow, at: number) => ({
    frame: at,
    sent: runSender.pack((await takenShot(row)) ?? shot, document.assets),
    fingerprint: takes.byFrame.get(at)!.stats.fingerprint,
  });
  if (from === null && take && !takes.stale) {
    if (take.cut !== undefined) await eraseCut(take.id);
    if (take.lastFrame !== shot.lastFrame) await takes.change(take.id, { lastFrame: shot.lastFrame });
    const wanted = takes.wanted;
    if (wanted.length === 0) return null;
    return { row: take, plan: { take: take.id, wanted, after: boundaryOf(take.spans), origin: null } };
  }
  if (from !== null && take && takes.byFrame.has(from)) {
    const before = take.spans.filter(({ first }) => first <= from);
    const same = before.at(-1)!.inputsHash === document.hash;
    const spans = same ? before : [...before, spanNow(shot, from + 1)];
    const wasMade = { from: { number: take.number, frame: from }, firstFrame: take.firstFrame };
    const wanted = missingFrames(from + 1, shot.lastFrame, () => false);
    if (wanted.length === 0) return null;
    const led = same ? null : await origin(take, from);
    const row = await takes.begin({ ...given, ...range, ...wasMade, spans }, { row: take, frame: from });
    return { row, plan: { take: row.id, wanted, after: boundaryOf(spans), origin: led } };
  }
  const row = await takes.begin({ ...given, ...range, spans: [spanNow(shot, shot.firstFrame)] });
  const wanted = missingFrames(shot.firstFrame, shot.lastFrame, () => false);
  return { row, plan: { take: row.id, wanted, after: null, origin: null } };
}

/** The last frame that another document led to; null where one led to all. */
function boundaryOf(spans: readonly TakeSpan[]): number | null {
  return spans.length > 1 ? spans.at(-1)!.first - 1 : null;
}
