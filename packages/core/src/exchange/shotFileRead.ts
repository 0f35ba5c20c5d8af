import { z } from 'zod';
import type { Mesh } from '../mesh/mesh';
import { id as idSchema } from '../shot/ids';
import { describeIssue, readShot, ShotError } from '../shot/readShot';
import type { Shot } from '../shot/schema';
import { usedAssets } from '../shot/usedAssets';
import { decodeText } from './decodeText';
import { readGlb } from './glbRead';
import { readMotion } from './motionFile';
import { ReadError } from './readError';
import { DOCUMENT, PRODUCTION } from './shotFileWrite';
import { megabytes, unzipWanted } from './unzipWanted';

/** Larger files are refused before they are read. */
export const LARGEST_SHOT_FILE = 512e6;
/** What a file may unpack to, in bytes: all in all, and of each kind. */
const MOST = { all: 1e9, production: 1e6, document: 64e6, mesh: 512e6, motionHeader: 1e6, shots: 500 };

/** A shot as a file holds it. */
export interface ShotInFile {
  shot: Shot;
  assets: Map<string, Mesh>;
}

export function shotFileTooLarge(bytes: number): string {
  return `The file has ${megabytes(bytes)}; Lumbra opens files of up to ${megabytes(LARGEST_SHOT_FILE)}.`;
}

/**
 * Reads a `.lumbra` file of one shot, or a bare shot.json.
 * @throws ShotError with what is wrong and where; ReadError for a damaged mesh
 */
export async function readShotFile(bytes: Uint8Array): Promise<ShotInFile> {
  const { production, shots } = await readLumbraFile(bytes);
  if (!production && shots.length === 1) return shots[0]!;
  throw new ShotError('This file holds a whole production. Open it at home, and save the one shot from there.');
}

/**
 * Reads a `.lumbra` file, of a shot or of a production, or a bare shot.json. Only what it needs is unpacked, and nothing that is larger than
 * it may be.
 * @throws ShotError with what is wrong and where; ReadError for a damaged mesh
 */
export async function readLumbraFile(
  bytes: Uint8Array,
): Promise<{ production: { name: string; note: string } | null; shots: ShotInFile[] }> {
  if (bytes.length > LARGEST_SHOT_FILE) throw new ShotError(shotFileTooLarge(bytes.length));
  try {
    return await read(bytes[0] === 0x50 && bytes[1] === 0x4b ? zipped(bytes) : bare(bytes));
  } catch (error) {
    if (error instanceof ShotError || error instanceof ReadError) throw error;
    // Whatever a reader did not foresee, such as a file that asks for more memory than there is.
    throw new ShotError(
      `The file is damaged and cannot be read (${error instanceof Error ? error.message : String(error)}).`,
    );
  }
}

/** Gives entries of a file by their names; those that are not there are missing. */
type Entries = (limits: ReadonlyMap<string, number>) => Map<string, Uint8Array>;

function zipped(bytes: Uint8Array): Entries {
  let left = MOST.all;
  return (limits) => {
    const entries = unzipWanted(bytes, (name) => limits.get(name) ?? null, left);
    for (const { length } of entries.values()) left -= length;
    return entries;
  };
}

function bare(bytes: Uint8Array): Entries {
  if (bytes.length > MOST.document) throw new ShotError(shotFileTooLarge(bytes.length));
  return (limits) => new Map(limits.has(DOCUMENT) ? [[DOCUMENT, bytes]] : []);
}

async function read(entries: Entries): ReturnType<typeof readLumbraFile> {
  const head = entries(
    new Map([
      [PRODUCTION, MOST.production],
      [DOCUMENT, MOST.document],
    ]),
  );
  const list = head.get(PRODUCTION);
  if (!list) return { production: null, shots: [await readOne(entries, '', head.get(DOCUMENT))] };
  const result = productionSchema.safeParse(parse(list, PRODUCTION));
  if (!result.success) throw new ShotError(`${PRODUCTION} cannot be used: ${describeIssue(result.error.issues[0]!)}.`);
  const { name, note, shots: ids } = result.data;
  const documents = entries(new Map(ids.map((one) => [`shots/${one}/${DOCUMENT}`, MOST.document])));
  const shots: ShotInFile[] = [];
  for (const one of ids) shots.push(await readOne(entries, `shots/${one}/`, documents.get(`shots/${one}/${DOCUMENT}`)));
  const twice = shots.find(({ shot }, i) => shots.some((other, j) => j < i && other.shot.id === shot.id));
  if (twice) throw new ShotError(`${PRODUCTION} cannot be used: two of its shots have the id “${twice.shot.id}”.`);
  return { production: { name, note }, shots };
}

const productionSchema = z.strictObject({
  name: z.string().min(1).max(120),
  note: z.string().max(500).default(''),
  shots: z
    .array(idSchema)
    .max(MOST.shots)
    .refine((ids) => new Set(ids).size === ids.length, 'names a shot twice'),
});

async function readOne(entries: Entries, folder: string, text: Uint8Array | undefined): Promise<ShotInFile> {
  const file = folder + DOCUMENT;
  if (!text) throw new ShotError(`This is not a Lumbra shot file: it has no ${file} inside.`);
  const shot = named(folder, () => readShot(parse(text, file)));
  const ids = usedAssets(shot);
  const at = (asset: string, ending: string) => `${folder}assets/${asset}.${ending}`;
  const files = entries(
    new Map(
      ids.flatMap((asset) => [
        [at(asset, 'glb'), MOST.mesh],
        [at(asset, 'motion.json'), MOST.motionHeader],
        [at(asset, 'motion.bin'), MOST.mesh],
      ]),
    ),
  );
  const assets = new Map<string, Mesh>();
  for (const asset of ids) {
    const glb = files.get(at(asset, 'glb'));
    if (!glb) throw new ShotError(`The file lacks ${at(asset, 'glb')}, a mesh that the shot uses.`);
    const [header, numbers] = [files.get(at(asset, 'motion.json')), files.get(at(asset, 'motion.bin'))];
    try {
      const mesh = await readGlb(glb, { material: true });
      assets.set(asset, header && numbers ? readMotion(mesh, decodeText(header), numbers) : mesh);
    } catch (error) {
      if (error instanceof ReadError) throw new ReadError(`${at(asset, 'glb')}: ${error.message}`);
      throw error;
    }
  }
  return { shot, assets };
}

/** Says in which of several shots something is wrong. */
function named<T>(folder: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (folder === '' || !(error instanceof ShotError)) throw error;
    throw new ShotError(`${folder}: ${error.message}`);
  }
}

function parse(bytes: Uint8Array, file: string): unknown {
  try {
    return JSON.parse(decodeText(bytes));
  } catch (error) {
    throw new ShotError(`${file} cannot be read: ${error instanceof Error ? error.message : String(error)}.`);
  }
}
