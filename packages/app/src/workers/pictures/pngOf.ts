/** A picture as PNG; the picture is let go of. */
export async function pngOf(picture: ImageBitmap): Promise<Uint8Array> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(picture);
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  return new Uint8Array(await blob.arrayBuffer());
}
