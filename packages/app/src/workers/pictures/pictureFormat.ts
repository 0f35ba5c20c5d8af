import type { FileSink } from '@lumbra/core';

/** How the pictures of a take are, and what their files are called, without an ending. */
export interface PictureTake {
  width: number;
  height: number;
  /** Pictures a second. */
  frameRate: number;
  stem: string;
}

/** Pictures that are being written, one after another. */
export interface PictureWriter {
  /** Adds the picture of a frame, and lets go of it. */
  add: (picture: ImageBitmap, frame: number) => Promise<void>;
  close: () => Promise<void>;
  /** Lets go of what was begun, whether or not it was closed. */
  abandon: () => Promise<void>;
}

/** A way to write what the view shows of a take. */
export interface PictureFormat {
  id: string;
  label: string;
  /** Its media type where it is one file. */
  type: string;
  /** Whether it is one file, else one a frame. */
  oneFile: boolean;
  /** Whether this browser can. */
  works: () => boolean;
  /** @throws Error with a sentence for the artist */
  open: (sink: FileSink, take: PictureTake) => Promise<PictureWriter>;
}
