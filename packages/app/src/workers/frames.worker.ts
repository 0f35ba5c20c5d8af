import * as Comlink from 'comlink';
import { keepFrames, readFrame, type TimedFrame } from '../storage/takes';

// Reads stored frames off the page's thread, where they are also compared with their fingerprints.

const reader = {
  /** The points of a stored frame. @throws FrameError */
  async read(take: string, frame: number, fingerprint: string): Promise<Float32Array<ArrayBuffer>[]> {
    const positions = await readFrame(take, frame, { fingerprint });
    return Comlink.transfer(positions, [...new Set(positions.map(({ buffer }) => buffer))]);
  },

  /** Keeps frames that could not be kept before. */
  keep: (take: string, frames: TimedFrame[]): Promise<void> => keepFrames(take, frames, null),
};

export type FramesWorker = typeof reader;

Comlink.expose(reader);
