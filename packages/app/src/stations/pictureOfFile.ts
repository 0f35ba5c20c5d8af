/** No side is longer than this, in pixels: larger pictures are made smaller. */
const MOST_PIXELS = 1024;

/**
 * Draws a picture from a file, on a ground where one is given.
 * @throws Error with a message for the artist when it cannot be read
 */
export async function pictureOfFile(file: File, ground?: string): Promise<OffscreenCanvas> {
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
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  if (ground) {
    context.fillStyle = ground;
    context.fillRect(0, 0, width, height);
  }
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  return canvas;
}
