import type { Mesh } from '../../mesh/mesh';
import { decodeText } from '../decodeText';
import { readObjParts, type NamedMesh } from '../objRead';
import { ReadError } from '../readError';
import { unzipWanted } from '../unzipWanted';
import { movingMesh } from '../../mesh/movingMesh';
import { missingNote } from './missingNote';
import { readPly } from './readPly';

/** NAME/0001.obj, or 0001.ply without a folder; other files in the zip are left aside. */
const FRAME = /^(?:(.*)\/)?([^/]*?)(-?\d+)\.(obj|ply)$/i;
/** What a zip may unpack to, in bytes. */
const LARGEST = 2 ** 31;

interface Sequence {
  name: string;
  frames: { number: number; path: string }[];
}

/** Reads sequences of meshes from a zip; see `readSequence`. @throws ReadError, ShotError */
export function readZippedSequence(bytes: Uint8Array, rate: number): ReturnType<typeof readSequence> {
  return readSequence(
    unzipWanted(bytes, (name) => (FRAME.test(name) ? LARGEST : null), LARGEST),
    rate,
  );
}

/**
 * Reads sequences of meshes from files by their paths: of each folder the frames in order of their numbers, as one mesh that moves; `rate` is how many
 * there are a second. Frames that are missing between others are filled in evenly, and said.
 * @throws ReadError where frames are of different meshes, or there are none
 */
export function readSequence(
  all: ReadonlyMap<string, Uint8Array>,
  rate: number,
): { parts: NamedMesh[]; clips: string[]; notes: string[] } {
  const files = new Map([...all].filter(([path]) => FRAME.test(path)));
  const sequences = new Map<string, Sequence>();
  for (const path of files.keys()) {
    const [, folder = '', stem, digits, ending] = FRAME.exec(path)!;
    const key = `${folder}/${stem}.${ending!.toLowerCase()}`;
    const name = folder.split('/').at(-1) || stem!.replace(/[\W_]+$/, '');
    const known = sequences.get(key) ?? { name, frames: [] };
    known.frames.push({ number: Number(digits), path });
    sequences.set(key, known);
  }
  if (sequences.size === 0)
    throw new ReadError(
      'There is no sequence of meshes: Lumbra reads OBJ and PLY files that end in a number, such as cloth/0001.obj.',
    );
  const notes: string[] = [];
  const parts = [...sequences.values()].map(({ name, frames }) => {
    frames.sort((a, b) => a.number - b.number);
    const meshes = frames.map(({ number, path }) => readFrame(path, files.get(path)!, name, number));
    requireSame(name, frames, meshes);
    const gap = missingNote(name, frames);
    if (gap) notes.push(gap);
    return { name, mesh: movingMesh(meshes, frames, rate) };
  });
  return {
    parts,
    clips: [...new Set(parts.flatMap(({ mesh }) => mesh.motion?.clips.map((clip) => clip.name) ?? []))],
    notes,
  };
}

function readFrame(path: string, bytes: Uint8Array, name: string, number: number): Mesh {
  try {
    if (/ply$/i.test(path)) return readPly(bytes);
    const parts = readObjParts(decodeText(bytes));
    if (parts.length !== 1) throw new ReadError(`it has ${parts.length} meshes, not one`);
    return parts[0]!.mesh;
  } catch (error) {
    throw new ReadError(
      `Frame ${number} of “${name}” cannot be read: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
}

function requireSame(name: string, frames: Sequence['frames'], meshes: readonly Mesh[]): void {
  const [first] = meshes;
  meshes.forEach((mesh, i) => {
    const same =
      mesh.positions.length === first!.positions.length &&
      mesh.triangles.length === first!.triangles.length &&
      mesh.triangles.every((point, corner) => point === first!.triangles[corner]);
    if (same) return;
    throw new ReadError(
      `Frame ${frames[i]!.number} of “${name}” is of another mesh than frame ${frames[0]!.number}: a mesh that moves has the same points and faces in all frames.`,
    );
  });
}
