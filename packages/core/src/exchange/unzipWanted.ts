import { unzipSync } from 'fflate';
import { ShotError } from '../shot/readShot';

/** How large an entry may be once it is inflated, in bytes; null where it is not wanted. */
export type Wanted = (name: string) => number | null;

/**
 * Inflates the entries of a zip that are wanted, and only those. How large each will be is known before, and nothing larger is inflated.
 * @throws ShotError for a damaged zip, and for entries that are too large, each or together
 */
export function unzipWanted(bytes: Uint8Array, wanted: Wanted, most: number): Map<string, Uint8Array> {
  let total = 0;
  const filter = ({ name, originalSize }: { name: string; originalSize: number }) => {
    const limit = wanted(name);
    if (limit === null) return false;
    total += originalSize;
    if (originalSize > limit)
      throw new ShotError(`The file is too large to open: ${name} would have ${megabytes(originalSize)}.`);
    if (total > most)
      throw new ShotError(`The file is too large to open: it would unpack to more than ${megabytes(most)}.`);
    return true;
  };
  try {
    return new Map(Object.entries(unzipSync(bytes, { filter })));
  } catch (error) {
    if (error instanceof ShotError) throw error;
    throw new ShotError('The file is damaged: it cannot be unpacked.');
  }
}

export function megabytes(bytes: number): string {
  return `${Math.ceil(bytes / 1e6)} MB`;
}
