import { WebIO, type Document, type GLTF, type JSONDocument, type Node } from '@gltf-transform/core';
import type { NamedMesh } from '../objRead';
import { ReadError } from '../readError';
import { readMotion } from './readMotion';
import { readPrimitives } from './readPrimitives';

const JSON_CHUNK = 0x4e4f534a;
const BINARY_CHUNK = 0x004e4942;
/** How the reader of glTF names the buffer inside a GLB. */
const GLB_BUFFER = '@glb.bin';

/**
 * Reads the meshes of a glTF or GLB file, each where its node puts it, with skins, morph targets and animation clips. Materials and
 * pictures are left aside.
 * @throws ReadError
 */
export async function readGltf(
  bytes: Uint8Array,
  format: 'glb' | 'gltf',
  others: ReadonlyMap<string, Uint8Array>,
): Promise<{ parts: NamedMesh[]; clips: string[]; notes: string[] }> {
  const json = format === 'glb' ? openGlb(bytes) : openGltf(bytes, others);
  const notes = strip(json.json, others);
  checkSkins(json.json);
  let document: Document;
  try {
    document = await new WebIO().readJSON(json);
  } catch (error) {
    throw new ReadError(`The ${format.toUpperCase()} file is damaged: ${errorText(error)}`);
  }
  const root = document.getRoot();
  const clips = root.listAnimations().map((clip, i) => clip.getName() || `Clip ${i + 1}`);
  const parts: NamedMesh[] = [];
  for (const node of placedNodes(document)) {
    const read = readPrimitives(node, notes);
    if (!read) continue;
    parts.push({
      name: node.getName() || node.getMesh()!.getName(),
      mesh: readMotion(read, node, root.listAnimations()),
    });
  }
  if (parts.length === 0) throw new ReadError(`The ${format.toUpperCase()} file holds no triangles.`);
  return { parts, clips, notes };
}

function openGlb(bytes: Uint8Array): JSONDocument {
  if (bytes.length < 20 || new TextDecoder().decode(bytes.subarray(0, 4)) !== 'glTF') {
    throw new ReadError('This is not a GLB file: it does not begin with “glTF”.');
  }
  const declared = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(8, true);
  if (declared > bytes.length) {
    throw new ReadError(`The GLB file is cut short: it should have ${declared} bytes and has ${bytes.length}.`);
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  let json: GLTF.IGLTF | undefined;
  for (let at = 12; at + 8 <= declared;) {
    const [length, kind] = [view.getUint32(at, true), view.getUint32(at + 4, true)];
    if (at + 8 + length > declared) throw new ReadError('The GLB file is damaged: one of its chunks does not end.');
    const chunk = bytes.slice(at + 8, at + 8 + length);
    if (kind === JSON_CHUNK) json = parse(chunk, 'GLB');
    else if (kind === BINARY_CHUNK) resources[GLB_BUFFER] = chunk;
    at += 8 + length;
  }
  if (!json) throw new ReadError('The GLB file is damaged: it has no description of its contents.');
  return { json, resources };
}

function parse(bytes: Uint8Array, format: string): GLTF.IGLTF {
  try {
    const json = JSON.parse(new TextDecoder().decode(bytes)) as unknown;
    if (typeof json === 'object' && json !== null && 'asset' in json) return json as GLTF.IGLTF;
  } catch (error) {
    throw new ReadError(`The ${format} file is damaged: ${errorText(error)}`);
  }
  throw new ReadError('This is not a glTF file: it says nothing of its version.');
}

function openGltf(bytes: Uint8Array, others: ReadonlyMap<string, Uint8Array>): JSONDocument {
  const json = parse(bytes, 'glTF');
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  for (const { uri } of json.buffers ?? []) {
    if (uri === undefined || uri.startsWith('data:')) continue;
    const found = others.get(decodeURIComponent(uri).split('/').pop()!);
    if (!found) throw new ReadError(`The glTF file needs “${uri}”. Choose both files together.`);
    resources[uri] = found as Uint8Array<ArrayBuffer>;
  }
  return { json, resources };
}

/** Takes out what Lumbra has no use for, so that a missing picture is no reason to refuse a mesh. */
function strip(json: GLTF.IGLTF, others: ReadonlyMap<string, Uint8Array>): string[] {
  const needed = (json.extensionsRequired ?? []).find((name) => !SEEN_ONLY.test(name));
  if (needed) {
    throw new ReadError(
      `The file is packed in a way that Lumbra does not read (${needed}). Export it without compression.`,
    );
  }
  const notes: string[] = [];
  const missing = (json.images ?? [])
    .map(({ uri }) => uri)
    .filter((uri) => uri && !uri.startsWith('data:') && !others.has(uri));
  if (missing.length > 0) notes.push(`The picture “${missing[0]}” is missing; the mesh comes without it.`);
  else if ((json.images ?? []).length > 0) notes.push('Its pictures and materials are left aside.');
  for (const key of ['images', 'textures', 'samplers', 'materials', 'extensionsRequired', 'extensionsUsed'] as const)
    delete json[key];
  for (const mesh of json.meshes ?? []) for (const primitive of mesh.primitives) delete primitive.material;
  return notes;
}

const SEEN_ONLY = /^(KHR_(materials|texture|lights|mesh_quantization)|EXT_texture)/;

function checkSkins(json: GLTF.IGLTF): void {
  const nodes = json.nodes?.length ?? 0;
  (json.skins ?? []).forEach((skin, i) => {
    const name = skin.name || `skin ${i + 1}`;
    if (!Array.isArray(skin.joints) || skin.joints.length === 0)
      throw new ReadError(`The skin “${name}” has no joints.`);
    const missing = skin.joints.find((joint) => !Number.isInteger(joint) || joint < 0 || joint >= nodes);
    if (missing !== undefined) {
      throw new ReadError(`The skin “${name}” names joint ${missing}, and the file has only ${nodes} nodes.`);
    }
  });
  (json.nodes ?? []).forEach((node, i) => {
    if (node.skin === undefined || (json.skins ?? [])[node.skin]) return;
    throw new ReadError(`The node “${node.name ?? i + 1}” uses a skin that the file does not have.`);
  });
}

/** The nodes of the default scene that have a mesh; of all nodes when the file names no scene. */
function placedNodes(document: Document): Node[] {
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  const found: Node[] = [];
  if (!scene) return root.listNodes().filter((node) => node.getMesh());
  scene.traverse((node) => {
    if (node.getMesh()) found.push(node);
  });
  return found;
}

function errorText(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  return text.endsWith('.') ? text : `${text}.`;
}
