import type { Mesh } from '../../mesh/mesh';
import type { Print } from '../../shot/things';
import { writeWhole, type FileSink } from './fileSink';

/** A cloth as it is handed over. */
export interface HandedCloth {
  id: string;
  name: string;
  mesh: Mesh;
  /** RRGGBB as shown, with a leading #. */
  colour?: string;
  print?: Print;
}

/** A frame: points of each cloth in the order of the cloths, x y z in m. */
export interface HandedFrame {
  frame: number;
  positions: readonly Float32Array[];
}

/** How places are given: in what, and which axis points up. */
export interface HandedSpace {
  /** What one of the file's units is in m. */
  metresPerUnit: number;
  up: 'y' | 'z';
}

/** A motion that is handed over. */
export interface HandedTake {
  cloths: readonly HandedCloth[];
  frames: AsyncIterable<HandedFrame>;
  frameRate: number;
  /** In what its places are; metres and y up where it is missing. */
  space?: HandedSpace;
  /** The name that files of the whole shot have, without an ending. */
  stem: string;
}

/** A way to write the motion of cloth. */
export interface CacheFormat {
  id: string;
  label: string;
  /** What it is, in a few words, for the button and for the command line’s help. */
  note: string;
  /** Its media type where it is one file. */
  type: string;
  /** Whether it is one file for the whole shot (with pictures beside it, where cloth is printed), else many. */
  oneFile: boolean;
  /** It is always in metres with y up, whatever is asked for: its standard says so. */
  ownSpace?: true;
  /** The most frames that it is good for; more are better written in another one. */
  mostFrames?: number;
  /** Writes one frame of all cloths as one file. @throws Error with a sentence for the artist */
  writeFrame: (take: Omit<HandedTake, 'frames'>, frame: HandedFrame) => Promise<Uint8Array> | Uint8Array;
  /** Writes a take, frame by frame as they come. @throws Error with a sentence for the artist */
  write: (take: HandedTake, sink: FileSink) => Promise<void>;
}

/** A frame as names of files have it: of four digits at least, so that they are in order. */
export function frameNumber(frame: number): string {
  return `${frame < 0 ? '-' : ''}${String(Math.abs(frame)).padStart(4, '0')}`;
}

/** Where a frame of a cloth goes in a sequence: CLOTH-ID/0001.ext. */
export function sequencePath(cloth: Pick<HandedCloth, 'id'>, frame: number, ending: string): string {
  return `${cloth.id}/${frameNumber(frame)}.${ending}`;
}

/** A format with a file for each cloth and frame. */
export function sequenceFormat(
  format: Omit<CacheFormat, 'write' | 'oneFile'>,
  file: (cloth: HandedCloth, positions: Float32Array) => Uint8Array,
): CacheFormat {
  return {
    ...format,
    oneFile: false,
    write: async ({ cloths, frames }, sink) => {
      for await (const { frame, positions } of frames) {
        for (const [i, cloth] of cloths.entries())
          await writeWhole(sink, sequencePath(cloth, frame, format.id), file(cloth, positions[i]!));
      }
    },
  };
}
