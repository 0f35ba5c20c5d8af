import { pictureOfFile } from '../pictureOfFile';

/**
 * Reads a picture to be printed, as the document keeps it: a PNG as a data URL.
 * @throws Error with a message for the artist when it cannot be read
 */
export async function readPrint(file: File): Promise<string> {
  const canvas = await pictureOfFile(file);
  const reader = new FileReader();
  reader.readAsDataURL(await canvas.convertToBlob({ type: 'image/png' }));
  await new Promise((resolve) => reader.addEventListener('loadend', resolve));
  return reader.result as string;
}
