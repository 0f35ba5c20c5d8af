import * as Comlink from 'comlink';
import { storageProblem } from '../storage/database';
import { copyFrames, keepFrames, readFrame, TakeGoneError, type TimedFrame } from '../storage/takes';

// Reads stored frames off the page's thread, where they are also compared with their fingerprints.

const reader = {
  /** The points of a stored frame. @throws FrameError */
  async read(take: string, frame: number, fingerprint: string): Promise<Float32Array<ArrayBuffer>[]> {
    const positions = await readFrame(take, frame, { fingerprint });
    return Comlink.transfer(positions, [...new Set(positions.map(({ buffer }) => buffer))]);
  },

  /** Keeps frames that could not be kept before; gives the reason where they cannot be kept now either. */
  async keep(take: string, frames: TimedFrame[]): Promise<string | null> {
    try {
      await keepFrames(take, frames, null);
      return null;
    } catch (error) {
      return error instanceof TakeGoneError ? error.message : storageProblem(error);
    }
  },

  /** Copies the frames of a take up to one to another take. */
  copy: (from: string, to: string, last: number): Promise<void> => copyFrames(from, to, last),
};

export type FramesWorker = typeof reader;

Comlink.expose(reader);
