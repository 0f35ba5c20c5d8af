import { strFromU8, strToU8, unzip, zip, type AsyncZippable, type Unzipped } from 'fflate';
import { z } from 'zod';
import type { Mesh } from '../mesh/mesh';
import { describeIssue, readShot, ShotError } from '../shot/readShot';
import type { Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { readGlb } from './glbRead';
import { writeGlb } from './glbWrite';
import { readMotion, writeMotion } from './motionFile';

const DOCUMENT = 'shot.json';
const PRODUCTION = 'production.json';
/** A shot file that would unpack to more than this is refused. */
const MOST_BYTES = 1 << 30;

/** Ids of the assets that the things of a shot name. */
export function usedAssets(shot: Shot): string[] {
  const ids = shot.things.flatMap((thing) => [
    ...('shape' in thing && thing.shape.kind === 'mesh' ? [thing.shape.asset] : []),
    ...(thing.role === 'cloth' && thing.start !== null ? [thing.start] : []),
  ]);
  return [...new Set(ids)];
}

/** A fixed date, so that the same shot gives the same file. */
const MODIFIED = new Date(2026, 0, 1);

/** A `.lumbra` file: a zip of shot.json and the meshes that the shot uses, as GLB, with their animation beside them. */
export async function writeShotFile(shot: Shot, assets: Assets): Promise<Uint8Array> {
  return pack(await shotEntries(shot, assets, ''));
}

/** A `.lumbra` file of a whole production: production.json names it, and each shot has a folder as in a shot file. */
export async function writeProductionFile(
  production: { name: string; note: string },
  shots: readonly { shot: Shot; assets: Assets }[],
): Promise<Uint8Array> {
  const order = shots.map(({ shot }) => shot.id);
  const files: AsyncZippable = {
    [PRODUCTION]: strToU8(JSON.stringify({ ...production, shots: order }, null, 2) + '\n'),
  };
  for (const { shot, assets } of shots) Object.assign(files, await shotEntries(shot, assets, `shots/${shot.id}/`));
  return pack(files);
}

async function shotEntries(shot: Shot, assets: Assets, folder: string): Promise<AsyncZippable> {
  const files: AsyncZippable = { [folder + DOCUMENT]: strToU8(JSON.stringify(shot, null, 2) + '\n') };
  for (const id of usedAssets(shot)) {
    const mesh = assets.get(id);
    if (!mesh) continue;
    files[`${folder}assets/${id}.glb`] = await writeGlb([{ name: id, mesh }], { frameRate: shot.frameRate });
    if (!mesh.motion) continue;
    const { header, numbers } = writeMotion(mesh.motion);
    files[`${folder}assets/${id}.motion.json`] = strToU8(header);
    files[`${folder}assets/${id}.motion.bin`] = numbers;
  }
  return files;
}

function pack(files: AsyncZippable): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    zip(files, { mtime: MODIFIED }, (error, data) => (error ? reject(error) : resolve(data)));
  });
}

/** A shot as a file holds it. */
export interface ShotInFile {
  shot: Shot;
  assets: Map<string, Mesh>;
}

/**
 * Reads a `.lumbra` file of one shot, or a bare shot.json.
 * @throws ShotError with what is wrong and where; ReadError for a damaged mesh
 */
export async function readShotFile(bytes: Uint8Array): Promise<ShotInFile> {
  const { shots } = await readLumbraFile(bytes);
  if (shots.length === 1) return shots[0]!;
  throw new ShotError('This file holds a whole production. Open it at home, and save the one shot from there.');
}

/**
 * Reads a `.lumbra` file, of a shot or of a production, or a bare shot.json.
 * @throws ShotError with what is wrong and where; ReadError for a damaged mesh
 */
export async function readLumbraFile(
  bytes: Uint8Array,
): Promise<{ production: { name: string; note: string } | null; shots: ShotInFile[] }> {
  const zipped = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const files: Record<string, Uint8Array> = zipped ? await unpack(bytes) : { [DOCUMENT]: bytes };
  const list = files[PRODUCTION];
  if (!list) return { production: null, shots: [await readEntries(files, '')] };
  const read = productionSchema.safeParse(parse(list, 'production'));
  if (!read.success) throw new ShotError(`The production cannot be read: ${describeIssue(read.error.issues[0]!)}.`);
  const shots: ShotInFile[] = [];
  for (const id of read.data.shots) shots.push(await readEntries(files, `shots/${id}/`));
  return { production: { name: read.data.name, note: read.data.note }, shots };
}

const productionSchema = z.strictObject({
  name: z.string().min(1).max(120),
  note: z.string().max(500).default(''),
  shots: z.array(z.string()),
});

async function readEntries(files: Record<string, Uint8Array>, folder: string): Promise<ShotInFile> {
  const text = files[folder + DOCUMENT];
  if (!text) throw new ShotError(`This is not a Lumbra shot file: it has no ${folder}${DOCUMENT} inside.`);
  const shot = readShot(parse(text, 'shot'));
  const assets = new Map<string, Mesh>();
  for (const id of usedAssets(shot)) {
    const file = files[`${folder}assets/${id}.glb`];
    if (!file) throw new ShotError(`The shot file lacks the mesh “${id}” that the shot uses.`);
    const mesh = await readGlb(file, { material: true });
    const [header, numbers] = [files[`${folder}assets/${id}.motion.json`], files[`${folder}assets/${id}.motion.bin`]];
    assets.set(id, header && numbers ? readMotion(mesh, strFromU8(header), numbers) : mesh);
  }
  return { shot, assets };
}

function parse(bytes: Uint8Array, what: string): unknown {
  try {
    return JSON.parse(strFromU8(bytes));
  } catch (error) {
    throw new ShotError(
      `The ${what} document cannot be read: ${error instanceof Error ? error.message : String(error)}.`,
    );
  }
}

function unpack(bytes: Uint8Array): Promise<Unzipped> {
  return new Promise((resolve, reject) => {
    let total = 0;
    const filter = ({ originalSize }: { originalSize: number }) => (total += originalSize) < MOST_BYTES;
    unzip(bytes, { filter }, (error, files) => {
      if (error) reject(new ShotError('The shot file is damaged: it cannot be unpacked.'));
      else if (total >= MOST_BYTES) reject(new ShotError('The shot file is too large to open.'));
      else resolve(files);
    });
  });
}
