import { decode } from 'fast-png';

/** Pixels from the top left, red, green, blue and opacity each, 0 to 255. */
export interface Picture {
  width: number;
  height: number;
  pixels: Uint8Array | Uint8ClampedArray;
}

/** How a picture of a print stands in the document. */
export const PICTURE_PREFIX = 'data:image/png;base64,';

/** The picture of a print from the text that it is kept as; null where there is none, or it is damaged: the cloth is then plain. */
export function pictureOf(text: string): Picture | null {
  if (!text.startsWith(PICTURE_PREFIX)) return null;
  try {
    const bytes = Uint8Array.from(atob(text.slice(PICTURE_PREFIX.length)), (letter) => letter.charCodeAt(0));
    const { width, height, data, depth, channels, palette } = decode(bytes);
    if (palette || depth < 8 || width * height === 0) return null;
    const part = (at: number) => (depth === 16 ? data[at]! >> 8 : data[at]!);
    const [grey, clear] = [channels < 3, channels % 2 === 0];
    const pixels = new Uint8Array(width * height * 4);
    for (let pixel = 0; pixel < width * height; pixel++) {
      const at = pixel * channels;
      for (let channel = 0; channel < 3; channel++) pixels[pixel * 4 + channel] = part(at + (grey ? 0 : channel));
      pixels[pixel * 4 + 3] = clear ? part(at + channels - 1) : 255;
    }
    return { width, height, pixels };
  } catch {
    return null;
  }
}
