import {
  CACHE_FORMATS,
  compareTakes,
  finishTake,
  handFrame,
  handTake,
  spaceOf,
  LARGEST_SHOT_FILE,
  placesShown,
  readLumbraFile,
  shotFileTooLarge,
  writeApart,
  writeProductionFile,
  writeShotFile,
  type FileSink,
  type HandOptions,
  type Mesh,
  type Shot,
  type ShownPlaces,
  type SimulatedCloth,
  type TakeDifference,
} from '@lumbra/core';
import * as Comlink from 'comlink';
import { readFrame } from '../storage/takes';
import { BlobFiles } from './blobFiles';
import { FolderFiles } from './folderFiles';
import { PICTURE_FORMATS } from './pictures';
import { pngOf } from './pictures/pngOf';

// Reads shot files and writes all files off the page's thread: a take as text or GLB is tens of megabytes.

/** The frames of a take that are written: from the storage, and those that are in memory only. */
export interface FrameSource {
  take: string;
  frames: { frame: number; fingerprint: string }[];
  unkept: { frame: number; positions: Float32Array[] }[];
}

export interface TakeOptions {
  stem: string;
  cloths: SimulatedCloth[];
  /** Whether finish lists are done. */
  finished: boolean;
  /** Whether each of them is written in files of its own. */
  apart: boolean;
  /** Whether the other things that are shown are written too. */
  withThings: boolean;
  options: HandOptions;
  /** The shot, and the meshes of its things: finish lists may be about them. */
  shot: Shot;
  assets: Map<string, Mesh>;
}

/** A written file. */
export interface WrittenTake {
  type: string;
  data: Uint8Array | Blob;
}

async function* framesOf(
  { take, frames, unkept }: FrameSource,
  cloths: readonly SimulatedCloth[],
): AsyncGenerator<{ frame: number; positions: Float32Array[] }> {
  const inMemory = new Map(unkept.map(({ frame, positions }) => [frame, positions]));
  for (const { frame, fingerprint } of frames) {
    const positions = inMemory.get(frame) ?? (await readFrame(take, frame, { fingerprint }));
    if (
      positions.length !== cloths.length ||
      positions.some((one, i) => one.length !== cloths[i]!.mesh.positions.length)
    ) {
      throw new Error(`Frame ${frame} is of other cloth than the shot has now. Take the take up again first.`);
    }
    yield { frame, positions };
  }
}

/** Is told how many frames have been read, and answers whether to go on. */
type Heard = (done: number) => Promise<boolean> | boolean;

/** The same frames; how many have come is told, not more often than it is read. @throws Error where it is not to go on */
async function* told<Frame>(frames: AsyncIterable<Frame>, heard: Heard): AsyncGenerator<Frame> {
  let [done, last] = [0, performance.now()];
  for await (const frame of frames) {
    yield frame;
    done++;
    if (performance.now() - last < 100) continue;
    last = performance.now();
    if (!(await heard(done))) throw new Error('It was stopped.');
  }
}

/**
 * Lets `write` write into the folder, or for a download: the file itself, or a zip of the tree of files. What was begun in a folder is taken away again where it
 * fails.
 */
async function intoFiles(
  folder: FileSystemDirectoryHandle | undefined,
  type: string,
  write: (sink: FileSink) => Promise<void>,
): Promise<WrittenTake | null> {
  if (!folder) {
    const files = new BlobFiles();
    await write(files);
    return files.asOne(type);
  }
  const files = new FolderFiles(folder);
  try {
    await write(files);
    return null;
  } finally {
    await files.abandon();
  }
}

/** Takes the pictures of a take: of cloth as it is handed over, frame by frame. */
export interface Photographer {
  /** Is told of the meshes of the cloths, by their ids. */
  begin: (meshes: ReadonlyMap<string, Mesh>) => Promise<void> | void;
  take: (frame: number, places: ReadonlyMap<string, Float32Array>) => Promise<ImageBitmap>;
}

const worker = {
  /** The shots of a file from outside. Throws with a sentence that says what is wrong with it, and where. */
  async readShots(file: File): ReturnType<typeof readLumbraFile> {
    if (file.size > LARGEST_SHOT_FILE) throw new Error(shotFileTooLarge(file.size));
    return readLumbraFile(new Uint8Array(await file.arrayBuffer()));
  },

  /**
   * A take in one of the formats for motion: the file itself, or a zip of the tree of files that the command line writes. Into a `folder` those files
   * are written as they are, and nothing is given back. `heard` is told now and then how many frames have been read.
   */
  async take(
    format: string,
    { stem, cloths, options, ...how }: TakeOptions,
    source: FrameSource,
    heard: Heard,
    folder?: FileSystemDirectoryHandle,
  ): Promise<WrittenTake | null> {
    const found = CACHE_FORMATS.find(({ id }) => id === format)!;
    const done = finishTake(cloths, how);
    const whole = {
      cloths: done.cloths,
      frames: done.frames(told(framesOf(source, cloths), heard)),
      frameRate: how.shot.frameRate,
      stem,
    };
    return intoFiles(folder, found.type, (sink) => {
      const take = handTake(whole, options, found);
      return how.apart ? writeApart(found, take, sink) : found.write(take, sink);
    });
  },

  /** What the view shows of a take, as films or pictures: each frame is given to the photographer, who has the view. */
  async pictures(
    format: string,
    { stem, cloths, options, ...how }: TakeOptions,
    size: { width: number; height: number },
    source: FrameSource,
    photographer: Photographer,
    heard: Heard,
    folder?: FileSystemDirectoryHandle,
  ): Promise<WrittenTake | null> {
    const found = PICTURE_FORMATS.find(({ id }) => id === format)!;
    const done = finishTake(cloths, { ...how, withThings: false });
    const ids = done.cloths.map(({ id }) => id);
    await photographer.begin(new Map(done.cloths.map(({ id, mesh }) => [id, mesh])));
    const frameRate = how.shot.frameRate / options.step;
    const whole = { cloths: done.cloths, frames: done.frames(told(framesOf(source, cloths), heard)), frameRate, stem };
    // The view is in metres, with y up.
    const { frames } = handTake(whole, options, { ownSpace: true });
    return intoFiles(folder, found.type, async (sink) => {
      const writer = await found.open(sink, { ...size, frameRate, stem });
      try {
        for await (const { frame, positions } of frames) {
          const places = new Map(ids.map((id, i) => [id, positions[i]!]));
          await writer.add(await photographer.take(frame, places), frame);
        }
        await writer.close();
      } finally {
        await writer.abandon();
      }
    });
  },

  /**
   * How far a cache is from a take as it would be handed over: the chosen frames of the take, the first of them with the first of the cache.
   * @throws Error with a sentence where the cache cannot be read or is of another mesh
   */
  async compare(
    cache: File,
    { cloths, options, stem, ...how }: TakeOptions,
    source: FrameSource,
    heard: Heard,
  ): Promise<TakeDifference> {
    // Only whoever reads meshes needs the readers.
    const { readMeshFile, takeOfMeshes } = await import('@lumbra/core/import');
    const done = finishTake(cloths, { ...how, withThings: false });
    const frameRate = how.shot.frameRate;
    const whole = { cloths: done.cloths, frames: done.frames(told(framesOf(source, cloths), heard)), frameRate, stem };
    const bytes = new Uint8Array(await cache.arrayBuffer());
    const read = await readMeshFile(cache.name, bytes, new Map(), undefined, frameRate);
    return compareTakes(
      handTake(whole, options, { ownSpace: true }),
      takeOfMeshes(read.parts, frameRate / options.step, stem),
    );
  },

  /** A picture as PNG. */
  async png(picture: ImageBitmap): Promise<WrittenTake> {
    return { type: 'image/png', data: moved(await pngOf(picture)) };
  },

  /** One frame of all cloths as one file. */
  async frame(
    format: string,
    { stem, cloths, options, ...how }: TakeOptions,
    shown: { frame: number; places: ShownPlaces[] },
  ): Promise<WrittenTake> {
    const found = CACHE_FORMATS.find(({ id }) => id === format)!;
    const done = finishTake(cloths, how);
    const simulated = {
      frame: shown.frame,
      positions: shown.places.map((places, i) => placesShown(cloths[i]!.mesh, places)),
    };
    const take = { cloths: done.cloths, frameRate: how.shot.frameRate, stem, ...spaceOf(options, found) };
    const bytes = await found.writeFrame(take, handFrame(done.finish(simulated), options, found));
    return { type: found.type, data: moved(bytes) };
  },

  async shotFile(shot: Shot, assets: Map<string, Mesh>): Promise<Uint8Array> {
    return moved(await writeShotFile(shot, assets));
  },

  async productionFile(
    production: { name: string; note: string },
    shots: { shot: Shot; assets: Map<string, Mesh> }[],
  ): Promise<Uint8Array> {
    return moved(await writeProductionFile(production, shots));
  },
};

/** Bytes that are handed over without a copy. */
function moved(bytes: Uint8Array): Uint8Array {
  return Comlink.transfer(bytes, [bytes.buffer as ArrayBuffer]);
}

export type FilesWorker = typeof worker;

Comlink.expose(worker);
