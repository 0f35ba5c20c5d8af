import { givenTake, meshId, type Mesh } from '@lumbra/core';
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

  /**
   * The motion of one of the cloths of a take, as a mesh that moves, and the id that its content gives it; frames that cannot be read back are filled in
   * evenly, and counted. Null where none can be, or not all have so many points.
   */
  async motion(
    take: string,
    cloth: number,
    frames: readonly { frame: number; fingerprint: string }[],
    { mesh, frameRate }: { mesh: Mesh; frameRate: number },
  ): Promise<{ id: string; mesh: Mesh; start: number; lost: number } | null> {
    const read: { frame: number; positions: Float32Array }[] = [];
    for (const { frame, fingerprint } of frames) {
      const positions = await readFrame(take, frame, { fingerprint }).catch(() => null);
      if (!positions) continue;
      const own = positions[cloth];
      if (own?.length !== mesh.positions.length) return null;
      read.push({ frame, positions: own });
    }
    if (read.length === 0) return null;
    const moving = givenTake(mesh, read, frameRate);
    return { id: meshId(moving), mesh: moving, start: read[0]!.frame, lost: frames.length - read.length };
  },

  /** Copies the frames of a take up to one to another take. */
  copy: (from: string, to: string, last: number): Promise<void> => copyFrames(from, to, last),
};

export type FramesWorker = typeof reader;

Comlink.expose(reader);
