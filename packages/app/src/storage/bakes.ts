import { decodeChunk, encodeChunk, type BakedFrame } from '@lumbra/core';
import { database, type BakeRow } from './database';

/** Keeps a run of frames and the account of the bake so far, both or neither. */
export async function keepFrames(bake: BakeRow, frames: readonly BakedFrame[]): Promise<void> {
  await database.transaction('rw', database.bakes, database.chunks, async () => {
    if (frames.length > 0) {
      await database.chunks.put({ shot: bake.shot, firstFrame: frames[0]!.frame, bytes: encodeChunk(frames) });
    }
    await database.bakes.put(bake);
  });
}

/** Reads a bake with all its frames; undefined when there is none. Throws ChunkError for damaged frames. */
export async function readBake(shot: string): Promise<{ bake: BakeRow; frames: BakedFrame[] } | undefined> {
  const bake = await database.bakes.get(shot);
  if (!bake) return undefined;
  const chunks = await database.chunks.where('shot').equals(shot).sortBy('firstFrame');
  const frames: BakedFrame[] = [];
  for (const { bytes } of chunks) {
    frames.push(...decodeChunk(bytes, false));
    // Lets the page draw between chunks.
    await new Promise((resolve) => setTimeout(resolve, 0));
  }
  return { bake, frames };
}

export async function deleteBake(shot: string): Promise<void> {
  await database.transaction('rw', database.bakes, database.chunks, async () => {
    await database.bakes.delete(shot);
    await database.chunks.where('shot').equals(shot).delete();
  });
}
