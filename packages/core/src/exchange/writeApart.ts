import type { CacheFormat, HandedTake } from './formats/format';
import type { FileSink } from './formats/fileSink';
import { shareFrames } from './shareFrames';

/**
 * Writes a take with each cloth, and each other thing, in files of its own, called STEM-ID; frames are gone through once. Formats of many
 * files have them apart in any case.
 * @throws Error with a sentence for the artist
 */
export async function writeApart(format: CacheFormat, take: HandedTake, sink: FileSink): Promise<void> {
  if (!format.oneFile) return format.write(take, sink);
  const shared = shareFrames(take.frames, take.cloths.length);
  const written = take.cloths.map((cloth, i) => {
    async function* own() {
      for await (const { frame, positions } of shared[i]!) yield { frame, positions: [positions[i]!] };
    }
    return format.write({ ...take, cloths: [cloth], frames: own(), stem: `${take.stem}-${cloth.id}` }, sink);
  });
  // All have ended before it is said that one failed: what is begun can then be taken away.
  const ends = await Promise.allSettled(written);
  const failed = ends.find((end) => end.status === 'rejected');
  if (failed) throw failed.reason;
}
