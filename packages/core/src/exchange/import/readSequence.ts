import type { Mesh, Motion } from '../../mesh/mesh';
import { decodeText } from '../decodeText';
import { readObjParts, type NamedMesh } from '../objRead';
import { ReadError } from '../readError';
import { unzipWanted } from '../unzipWanted';
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
    return { name, mesh: moving(meshes, frames, rate) };
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

/** Which frames are missing, in words; nothing where the steps between them are all the same. */
function missingNote(name: string, frames: Sequence['frames']): string | null {
  const steps = frames.slice(1).map(({ number }, i) => number - frames[i]!.number);
  if (steps.every((step) => step === steps[0])) return null;
  const missing = steps.reduce((sum, step) => sum + step - 1, 0);
  return `${missing === 1 ? 'One frame' : `${missing} frames`} of “${name}” ${missing === 1 ? 'is' : 'are'} missing between the first and the last; what lies between is filled in evenly.`;
}

/** One mesh that is at each frame where it was read to be: each frame is a morph target of its own. */
function moving(meshes: readonly Mesh[], frames: Sequence['frames'], rate: number): Mesh {
  const [first, ...others] = meshes as [Mesh, ...Mesh[]];
  if (others.length === 0) return first;
  const points = first.positions.length / 3;
  const samples = frames.at(-1)!.number - frames[0]!.number + 1;
  const targetWeights = new Float32Array(samples * others.length);
  let after = 1;
  for (let sample = 0; sample < samples; sample++) {
    const number = frames[0]!.number + sample;
    while (after < frames.length - 1 && frames[after]!.number < number) after++;
    const [from, to] = [frames[after - 1]!.number, frames[after]!.number];
    const share = (number - from) / (to - from);
    // The first frame is where it is without any target.
    if (after > 1) targetWeights[sample * others.length + after - 2] = 1 - share;
    targetWeights[sample * others.length + after - 1] = share;
  }
  const motion: Motion = {
    bind: first.positions,
    joints: new Uint16Array(points * 4),
    weights: Float32Array.from({ length: points * 4 }, (_, i) => (i % 4 === 0 ? 1 : 0)),
    bones: 1,
    targets: others.map(({ positions }) => positions.map((value, i) => value - first.positions[i]!)),
    clips: [
      {
        name: 'Frames',
        rate,
        samples,
        matrices: Float32Array.from({ length: samples * 12 }, (_, i) =>
          i % 12 === 0 || i % 12 === 5 || i % 12 === 10 ? 1 : 0,
        ),
        targetWeights,
      },
    ],
  };
  return { ...first, motion };
}
