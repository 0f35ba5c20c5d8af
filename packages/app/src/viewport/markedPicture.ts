/** How wide the ring around the middle is, as a share of the height, and how thick, in pixels. */
const RING = 0.24;
const LINE = 2;

/** A picture with a ring around its middle, as a data URL; the picture is let go of. */
export async function markedPicture(picture: ImageBitmap, colour: string): Promise<string> {
  const { width, height } = picture;
  const canvas = new OffscreenCanvas(width, height);
  const pen = canvas.getContext('2d')!;
  pen.drawImage(picture, 0, 0);
  picture.close();
  pen.strokeStyle = colour;
  pen.lineWidth = LINE;
  pen.beginPath();
  pen.arc(width / 2, height / 2, (RING * height) / 2, 0, 2 * Math.PI);
  pen.stroke();
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('A picture of a problem could not be made.'));
    reader.readAsDataURL(blob);
  });
}
