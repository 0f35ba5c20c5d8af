import type { GLTF, JSONDocument } from '@gltf-transform/core';
import { checkGltf } from './checkGltf';
import { decodeText } from './decodeText';
import { ReadError } from './readError';

const JSON_CHUNK = 0x4e4f534a;
const BINARY_CHUNK = 0x004e4942;
/** How the reader of glTF names the buffer inside a GLB. */
const GLB_BUFFER = '@glb.bin';

/** Opens a binary glTF file, and checks what its description says. @throws ReadError */
export function openGlb(bytes: Uint8Array): JSONDocument {
  if (bytes.length < 20 || new TextDecoder().decode(bytes.subarray(0, 4)) !== 'glTF') {
    throw new ReadError('This is not a GLB file: it does not begin with “glTF”.');
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const version = view.getUint32(4, true);
  if (version === 1) throw new ReadError(olderVersion('1.0'));
  if (version !== 2) throw new ReadError('The GLB file is damaged: it does not say which version it has.');
  const declared = view.getUint32(8, true);
  if (declared > bytes.length) {
    throw new ReadError(`The GLB file is cut short: it should have ${declared} bytes and has ${bytes.length}.`);
  }
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  let json: GLTF.IGLTF | undefined;
  for (let at = 12; at + 8 <= declared;) {
    const [length, kind] = [view.getUint32(at, true), view.getUint32(at + 4, true)];
    if (at + 8 + length > declared) throw new ReadError('The GLB file is damaged: one of its chunks does not end.');
    const chunk = bytes.slice(at + 8, at + 8 + length);
    if (kind === JSON_CHUNK) json ??= parseGltf(chunk, 'GLB');
    else if (kind === BINARY_CHUNK) resources[GLB_BUFFER] = chunk;
    at += 8 + length;
  }
  if (!json) throw new ReadError('The GLB file is damaged: it has no description of its contents.');
  return { json, resources };
}

/** The description of a glTF file. @throws ReadError */
export function parseGltf(bytes: Uint8Array, format: string): GLTF.IGLTF {
  let json: unknown;
  try {
    json = JSON.parse(decodeText(bytes));
  } catch (error) {
    throw new ReadError(`The ${format} file is damaged: ${error instanceof Error ? error.message : String(error)}.`);
  }
  const version = (json as { asset?: { version?: unknown } } | null)?.asset?.version;
  if (version === undefined) throw new ReadError('This is not a glTF file: it says nothing of its version.');
  if (!String(version).startsWith('2.')) throw new ReadError(olderVersion(String(version).slice(0, 20)));
  return checkGltf(json, format);
}

function olderVersion(version: string): string {
  return `This is a glTF file of version ${version}; Lumbra reads version 2. Export it as glTF 2.0.`;
}
