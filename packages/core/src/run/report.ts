import type { Shot } from '../shot/schema';
import type { FrameStats } from './frame';
import { findProblems, type Problem } from './problemFinder';
import { QUALITIES } from '../solver/substeps';
import { bakeFingerprint } from './fingerprint';

/** The account of a bake, as JSON. */
export interface BakeReport {
  shot: { id: string; name: string; code: string };
  /** Names of the things that are told of, by their ids. */
  things: Record<string, string>;
  settings: {
    frameRate: number;
    firstFrame: number;
    lastFrame: number;
    preRoll: number;
    quality: string;
    /** Set by hand; null where they follow what each frame needs. */
    substeps: number | null;
    /** What is promised of every frame: the largest stretch beyond what the fabric gives, as a share; null for nothing. */
    promise: { stretch: number } | null;
  };
  /** Hash of everything that the run depended on. */
  inputs: string;
  fingerprint: string;
  /** `took`: how long it took to compute, in seconds, where that is known. */
  frames: ({ frame: number; took?: number } & FrameStats)[];
}

export function bakeReport(
  shot: Shot,
  inputs: string,
  frames: readonly { frame: number; stats: FrameStats; took?: number }[],
): BakeReport {
  const { quality, substeps } = shot.run;
  const { promised } = QUALITIES[quality];
  return {
    shot: { id: shot.id, name: shot.name, code: shot.code },
    things: Object.fromEntries(shot.things.map(({ id, name }) => [id, name])),
    settings: {
      frameRate: shot.frameRate,
      firstFrame: shot.firstFrame,
      lastFrame: frames.at(-1)?.frame ?? shot.lastFrame,
      preRoll: shot.preRoll,
      quality,
      substeps,
      promise: substeps === null && promised !== null ? { stretch: promised } : null,
    },
    inputs,
    fingerprint: bakeFingerprint(frames.map((frame) => frame.stats.fingerprint)),
    frames: frames.map(({ frame, stats, took }) => ({ frame, ...stats, ...(took === undefined ? {} : { took }) })),
  };
}

/** The problems of a bake, in the order in which its page tells of them. */
export function reportProblems({ frames }: BakeReport): Problem[] {
  return findProblems(frames.map(({ frame, ...stats }) => ({ frame, stats })));
}
