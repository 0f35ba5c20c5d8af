import { computed, type Ref } from 'vue';
import { useDocumentStore } from '../session/document';

const MARGIN = 20;
/** Room for the last tick's label. */
const RIGHT = 28;

/** Frames along the track, in CSS pixels from its left edge. */
export interface FrameScale {
  low: number;
  high: number;
  pixelsPerFrame: number;
  x: (frame: number) => number;
  frameAt: (x: number) => number;
  ticks: number[];
}

/** The scale of a track of a width: from the first frame of the pre-roll to the last frame of the shot. */
export function useFrameScale(width: Ref<number>): Ref<FrameScale> {
  const document = useDocumentStore();
  return computed(() => {
    const shot = document.shot!;
    const low = shot.firstFrame - shot.preRoll;
    const high = Math.max(shot.lastFrame, low + 1);
    const pixelsPerFrame = Math.max(1, width.value - 2 * MARGIN - RIGHT) / (high - low);
    const wanted = 60 / pixelsPerFrame;
    const step = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].find((candidate) => candidate >= wanted) ?? 2000;
    const first = Math.ceil(low / step) * step;
    const ticks = Array.from({ length: Math.floor((high - first) / step) + 1 }, (_, i) => first + i * step);
    return {
      low,
      high,
      pixelsPerFrame,
      ticks,
      x: (frame) => MARGIN + (frame - low) * pixelsPerFrame,
      frameAt: (x) => low + (x - MARGIN) / pixelsPerFrame,
    };
  });
}
