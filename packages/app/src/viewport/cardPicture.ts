/** A picture cut to the middle and scaled to a width and height in pixels, as PNG. The picture is let go of. */
export async function cardPicture(whole: ImageBitmap, width: number, height: number): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  // It is read right away: drawn by the graphics card it would have to be fetched from there again.
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const scale = Math.max(width / whole.width, height / whole.height);
  const [w, h] = [whole.width * scale, whole.height * scale];
  context.imageSmoothingQuality = 'high';
  context.drawImage(whole, (width - w) / 2, (height - h) / 2, w, h);
  whole.close();
  return canvas.convertToBlob({ type: 'image/png' });
}
