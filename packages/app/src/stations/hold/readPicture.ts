import type { GreyPicture } from '@lumbra/core';

/** Masks are no finer than cloth: larger pictures are made smaller. */
const MOST_PIXELS = 1024;

/**
 * Reads a picture as shades of grey; what is transparent counts as black.
 * @throws Error with a message for the artist when it cannot be read
 */
export async function readPicture(file: File): Promise<GreyPicture> {
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(file);
  } catch {
    throw new Error(
      `“${file.name}” could not be read as a picture. Choose a PNG, JPEG or WebP file; nothing was changed.`,
    );
  }
  const scale = Math.min(1, MOST_PIXELS / Math.max(bitmap.width, bitmap.height));
  const [width, height] = [bitmap.width, bitmap.height].map((side) => Math.max(1, Math.round(side * scale))) as [
    number,
    number,
  ];
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.fillStyle = '#000';
  context.fillRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  // How bright colours look (ITU-R BT.709).
  const values = Uint8ClampedArray.from(
    { length: width * height },
    (_, i) => 0.2126 * data[i * 4]! + 0.7152 * data[i * 4 + 1]! + 0.0722 * data[i * 4 + 2]!,
  );
  return { width, height, values };
}
