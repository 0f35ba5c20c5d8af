import { strFromU8, strToU8, unzip, zip, type AsyncZippable, type Unzipped } from 'fflate';
import type { Mesh } from '../mesh/mesh';
import { readShot, ShotError } from '../shot/readShot';
import type { Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { readGlb } from './glbRead';
import { writeGlb } from './glbWrite';

const DOCUMENT = 'shot.json';
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

/** A `.lumbra` file: a zip of shot.json and the meshes that the shot uses, as GLB. */
export async function writeShotFile(shot: Shot, assets: Assets): Promise<Uint8Array> {
  const files: AsyncZippable = { [DOCUMENT]: strToU8(JSON.stringify(shot, null, 2) + '\n') };
  for (const id of usedAssets(shot)) {
    const mesh = assets.get(id);
    if (mesh) files[`assets/${id}.glb`] = await writeGlb([{ name: id, mesh }], { frameRate: shot.frameRate });
  }
  // A fixed date, so that the same shot gives the same file.
  const mtime = new Date(2026, 0, 1);
  return new Promise((resolve, reject) => {
    zip(files, { mtime }, (error, data) => (error ? reject(error) : resolve(data)));
  });
}

/**
 * Reads a `.lumbra` file, or a bare shot.json.
 * @throws ShotError with what is wrong and where; ReadError for a damaged mesh
 */
export async function readShotFile(bytes: Uint8Array): Promise<{ shot: Shot; assets: Map<string, Mesh> }> {
  const zipped = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const files: Record<string, Uint8Array> = zipped ? await unpack(bytes) : { [DOCUMENT]: bytes };
  const text = files[DOCUMENT];
  if (!text) throw new ShotError(`This is not a Lumbra shot file: it has no ${DOCUMENT} inside.`);
  let value: unknown;
  try {
    value = JSON.parse(strFromU8(text));
  } catch (error) {
    throw new ShotError(`The shot document cannot be read: ${error instanceof Error ? error.message : String(error)}.`);
  }
  const shot = readShot(value);
  const assets = new Map<string, Mesh>();
  for (const id of usedAssets(shot)) {
    const file = files[`assets/${id}.glb`];
    if (!file) throw new ShotError(`The shot file lacks the mesh “${id}” that the shot uses.`);
    assets.set(id, await readGlb(file, { material: true }));
  }
  return { shot, assets };
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
