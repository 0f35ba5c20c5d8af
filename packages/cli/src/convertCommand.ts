import { readdir, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { handTake, HAND_DEFAULTS, type CacheFormat, type HandOptions } from '@lumbra/core';
import { LARGEST_MESH_FILE, readMeshFile, readSequence, takeOfMeshes, tooLarge } from '@lumbra/core/import';
import { writeInto } from './folderSink';

interface ConvertOptions {
  to: CacheFormat;
  out: string;
  rate: number;
  step?: number;
  unit?: HandOptions['unit'];
  up?: HandOptions['up'];
}

/** `lumbra convert CACHE --to FORMAT`: reads a cache (USD, GLB, a zip, or a folder of OBJ or PLY files) and writes it otherwise. */
export async function convertCommand(cache: string, options: ConvertOptions): Promise<void> {
  const stem = path.basename(cache).replace(/\.\w+$/, '') || 'cache';
  const { parts, notes } = await readCache(cache, options.rate);
  const take = takeOfMeshes(parts, options.rate, stem);
  const { step, unit, up } = { ...HAND_DEFAULTS, ...options };
  const handed = handTake(take, { step, unit, up }, options.to);
  const files = await writeInto(options.out, (sink) => options.to.write(handed, sink));
  for (const note of notes) console.error(note);
  console.log(
    `${stem}: ${parts.length === 1 ? 'one mesh' : `${parts.length} meshes`}, ${files === 1 ? 'one file' : `${files} files`} written.`,
  );
}

async function readCache(cache: string, rate: number) {
  const found = await stat(cache).catch(() => undefined);
  if (!found) throw new Error(`${cache}: there is no such file or folder.`);
  const said = (error: unknown) => {
    throw new Error(`${cache}: ${error instanceof Error ? error.message : String(error)}`);
  };
  if (found.isDirectory()) return readSequenceOf(cache, rate).catch(said);
  if (found.size > LARGEST_MESH_FILE) throw new Error(`${cache}: ${tooLarge(found.size)}`);
  const bytes = new Uint8Array(await readFile(cache));
  return readMeshFile(path.basename(cache), bytes, undefined, undefined, rate).catch(said);
}

/** All files of a folder, by their paths in it. */
async function readSequenceOf(folder: string, rate: number) {
  const files = new Map<string, Uint8Array>();
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  for (const entry of entries.filter((one) => one.isFile() && /\.(obj|ply)$/i.test(one.name))) {
    const whole = path.join(entry.parentPath, entry.name);
    files.set(path.relative(folder, whole).split(path.sep).join('/'), new Uint8Array(await readFile(whole)));
  }
  return readSequence(files, rate);
}
