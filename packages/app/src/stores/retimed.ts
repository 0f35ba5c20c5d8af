import { activeCloths, sourceFrame, type Cloth, type FramesAround, type ShownPlaces } from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { useRunStore } from './run';
import { useTakesStore } from './takes';

/**
 * Where cloth is shown as its retiming has it: at another frame of the take than the one that is looked at, or between two. Poses of settles and
 * live runs are not retimed, nor is what is not baked.
 */
export function useRetimed() {
  const document = useDocumentStore();
  const run = useRunStore();
  const takes = useTakesStore();

  const isThere = (frame: number) => takes.byFrame.has(frame) && !takes.holes.has(frame);

  /** The frame of the take that a cloth shows, not always whole; null where it is not retimed. */
  function sourceOf(cloth: Cloth): number | null {
    const shot = document.shot;
    const last = takes.account.at(-1)?.frame;
    if (!shot || run.pose || last === undefined) return null;
    const source = Math.min(last, sourceFrame(cloth, shot.firstFrame, run.shownFrame));
    return source === run.shownFrame ? null : source;
  }

  /**
   * Places of all cloths, from those that they have at the frame that is looked at. Of cloth of which a frame is still being read there is none:
   * it is asked for, and the takes' version tells when it is there.
   */
  function retimed(positions: ReadonlyMap<string, Float32Array>): Map<string, ShownPlaces> {
    const places = new Map<string, ShownPlaces>(positions);
    const cloths = document.shot ? activeCloths(document.shot) : [];
    for (const [index, cloth] of cloths.entries()) {
      const source = sourceOf(cloth);
      if (source === null) continue;
      const whole = Math.floor(source);
      const at = (frame: number) => (isThere(frame) ? takes.positionsAt(frame)?.[index] : undefined);
      const [from, to] = [at(whole), source === whole ? undefined : at(whole + 1)];
      const [before, after] = [at(whole - 1) ?? null, at(whole + 2) ?? null];
      const complete = [whole - 1, whole + 2].every((frame, i) => !isThere(frame) || [before, after][i] !== null);
      if (source === whole && from) places.set(cloth.id, from);
      else if (from && to && complete) {
        const around: FramesAround = [before, from, to, after];
        places.set(cloth.id, { around, share: source - whole });
      } else places.delete(cloth.id);
    }
    return places;
  }

  return { sourceOf, retimed };
}
