import { frameNumber, writeWhole } from '@lumbra/core';
import { pngOf } from './pngOf';
import type { PictureFormat } from './pictureFormat';

/** One PNG a frame. */
export const pngPictures: PictureFormat = {
  id: 'png',
  label: 'Every PNG',
  type: 'application/zip',
  oneFile: false,
  works: () => true,
  open: (sink, { stem }) =>
    Promise.resolve({
      add: async (picture, frame) => writeWhole(sink, `${stem}.${frameNumber(frame)}.png`, await pngOf(picture)),
      close: () => Promise.resolve(),
      abandon: () => Promise.resolve(),
    }),
};
