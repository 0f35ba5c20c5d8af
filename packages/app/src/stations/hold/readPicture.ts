import type { GreyPicture } from '@lumbra/core';
import { pictureOfFile } from '../pictureOfFile';

/**
 * Reads a picture as shades of grey; what is transparent counts as black.
 * @throws Error with a message for the artist when it cannot be read
 */
export async function readPicture(file: File): Promise<GreyPicture> {
  const canvas = await pictureOfFile(file, '#000');
  const { width, height } = canvas;
  const { data } = canvas.getContext('2d')!.getImageData(0, 0, width, height);
  // How bright colours look (ITU-R BT.709).
  const values = Uint8ClampedArray.from(
    { length: width * height },
    (_, i) => 0.2126 * data[i * 4]! + 0.7152 * data[i * 4 + 1]! + 0.0722 * data[i * 4 + 2]!,
  );
  return { width, height, values };
}
