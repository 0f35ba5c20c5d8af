import { meshProblem } from '../../mesh/mesh';
import { readObjParts, type NamedMesh } from '../objRead';
import { decodeText } from '../decodeText';
import { ShotError } from '../../shot/readShot';
import { ReadError } from '../readError';
import { dracoAt, type StartDraco } from './decoders';
import { readGltf } from './readGltf';
import { readPly } from './readPly';
import { readZippedSequence } from './readSequence';
import { readStl } from './readStl';
import { readUsd } from './usd/readUsd';

export const MESH_FORMATS = ['obj', 'glb', 'gltf', 'stl', 'ply', 'usda', 'usdc', 'usd', 'zip'] as const;
export type MeshFormat = (typeof MESH_FORMATS)[number];

/** A larger file is refused before it is read. */
export const LARGEST_MESH_FILE = 512 * 1024 * 1024;

export interface MeshFile {
  format: MeshFormat;
  /** In the file's own unit and axes. */
  parts: NamedMesh[];
  /** Names of its animation clips. */
  clips: string[];
  /** Whether the format says its unit (m) and its up axis (y). */
  measured: boolean;
  /** What was left aside, in sentences. */
  notes: string[];
}

/**
 * Reads the meshes of a file. `others` are files that it may name, by name (a .gltf and its .bin); `rate` is how many frames a second a sequence
 * of meshes in a zip has.
 * @throws ReadError with what is wrong, and where
 */
export async function readMeshFile(
  name: string,
  bytes: Uint8Array,
  others: ReadonlyMap<string, Uint8Array> = new Map(),
  draco: StartDraco = dracoAt(),
  rate = 24,
): Promise<MeshFile> {
  try {
    return await read(name, bytes, others, draco, rate);
  } catch (error) {
    if (error instanceof ReadError) throw error;
    if (error instanceof ShotError) throw new ReadError(error.message);
    // Whatever a reader did not foresee, such as a file that asks for more memory than there is.
    throw new ReadError(
      `The file is damaged and cannot be read (${error instanceof Error ? error.message : String(error)}).`,
    );
  }
}

async function read(
  name: string,
  bytes: Uint8Array,
  others: ReadonlyMap<string, Uint8Array>,
  draco: StartDraco,
  rate: number,
): Promise<MeshFile> {
  if (bytes.length === 0) throw new ReadError('The file is empty.');
  if (bytes.length > LARGEST_MESH_FILE) throw new ReadError(tooLarge(bytes.length));
  const format = formatOf(name, bytes);
  const plain = { format, clips: [], measured: false, notes: [] };
  const base = name.replace(/\.\w+$/, '').slice(0, 100) || 'Mesh';
  const file: MeshFile =
    format === 'obj'
      ? { ...plain, parts: readObjParts(decodeText(bytes)) }
      : format === 'stl'
        ? { ...plain, parts: [{ name: '', mesh: readStl(bytes) }] }
        : format === 'ply'
          ? { ...plain, parts: [{ name: '', mesh: readPly(bytes) }] }
          : format === 'zip'
            ? { ...plain, ...readZippedSequence(bytes, rate) }
            : format === 'usda' || format === 'usdc' || format === 'usd'
              ? { format, measured: true, ...(await readUsd(bytes)) }
              : { format, measured: true, ...(await readGltf(bytes, format, others, draco)) };
  for (const part of file.parts) {
    const problem = meshProblem(part.mesh);
    part.name = part.name.trim().slice(0, 100) || base;
    if (problem) throw new ReadError(`“${part.name}” cannot be used: ${problem}.`);
  }
  return file;
}

export function tooLarge(bytes: number): string {
  const size = bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.round(bytes / 1e6)} MB`;
  return `The file has ${size}; Lumbra reads meshes of up to ${LARGEST_MESH_FILE / 1024 / 1024} MB. Export it coarser, or in parts.`;
}

function formatOf(name: string, bytes: Uint8Array): MeshFormat {
  const ending = name.toLowerCase().split('.').pop() ?? '';
  const known = MESH_FORMATS.find((format) => format === ending);
  // Byte by byte: browsers and node do not agree on what “latin1” makes of the bytes from 0x80 to 0x9f.
  const start = String.fromCharCode(...bytes.subarray(0, 256));
  if (/^\s*(<\?xml[^>]*>\s*)?(<!--.*?-->\s*)?<svg/is.test(start)) {
    throw new ReadError(
      'This is a drawing (SVG), not a mesh. Lumbra reads meshes from OBJ, GLB, glTF, STL, PLY and USD files, and sequences of OBJ and PLY files in a zip.',
    );
  }
  if (/^(\x89PNG|\xff\xd8\xff|GIF8|BM|RIFF....WEBP)/s.test(start)) {
    throw new ReadError(
      'This is a picture, not a mesh. Lumbra reads meshes from OBJ, GLB, glTF, STL, PLY and USD files, and sequences of OBJ and PLY files in a zip.',
    );
  }
  if (!known)
    throw new ReadError(
      'Lumbra reads meshes from OBJ, GLB, glTF, STL, PLY and USD files, and sequences of OBJ and PLY files in a zip.',
    );
  return known;
}
