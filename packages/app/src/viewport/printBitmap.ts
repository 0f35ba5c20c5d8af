/** So many pictures are kept decoded: cloths of a shot often share one, and going back and forth asks for the last again. */
const MOST = 6;
const decoded = new Map<string, Promise<ImageBitmap | null>>();

/** The picture of a print, decoded off the page’s thread; null where it is damaged, and the cloth is plain. */
export function printBitmap(text: string): Promise<ImageBitmap | null> {
  const known = decoded.get(text) ?? decode(text);
  // The one that was asked for last is forgotten last.
  decoded.delete(text);
  decoded.set(text, known);
  if (decoded.size > MOST) decoded.delete(decoded.keys().next().value!);
  return known;
}

async function decode(text: string): Promise<ImageBitmap | null> {
  try {
    return await createImageBitmap(await (await fetch(text)).blob());
  } catch {
    return null;
  }
}
