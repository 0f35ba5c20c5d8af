import type { Shot } from '../shot/schema';
import type { FrameStats } from './frame';
import { bakeFingerprint } from './fingerprint';

/** The account of a bake, as JSON. */
export interface BakeReport {
  shot: { id: string; name: string; code: string };
  settings: {
    frameRate: number;
    firstFrame: number;
    lastFrame: number;
    preRoll: number;
    quality: string;
    substeps: number;
  };
  /** Hash of everything that the run depended on. */
  inputs: string;
  fingerprint: string;
  frames: ({ frame: number } & FrameStats)[];
}

export function bakeReport(
  shot: Shot,
  substeps: number,
  inputs: string,
  frames: readonly { frame: number; stats: FrameStats }[],
): BakeReport {
  return {
    shot: { id: shot.id, name: shot.name, code: shot.code },
    settings: {
      frameRate: shot.frameRate,
      firstFrame: shot.firstFrame,
      lastFrame: frames.at(-1)?.frame ?? shot.lastFrame,
      preRoll: shot.preRoll,
      quality: shot.run.quality,
      substeps,
    },
    inputs,
    fingerprint: bakeFingerprint(frames.map((frame) => frame.stats.fingerprint)),
    frames: frames.map(({ frame, stats }) => ({ frame, ...stats })),
  };
}
