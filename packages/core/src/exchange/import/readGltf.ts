import type { Document, GLTF, JSONDocument, Node } from '@gltf-transform/core';
import type { NamedMesh } from '../objRead';
import { openGlb, parseGltf } from '../openGlb';
import { ReadError } from '../readError';
import { PACKINGS, readerFor, type StartDraco } from './decoders';
import { readMotion } from './readMotion';
import { readPrimitives } from './readPrimitives';

/**
 * Reads the meshes of a glTF or GLB file, each where its node puts it, with skins, morph targets and animation clips. Materials and
 * pictures are left aside.
 * @throws ReadError
 */
export async function readGltf(
  bytes: Uint8Array,
  format: 'glb' | 'gltf',
  others: ReadonlyMap<string, Uint8Array>,
  draco: StartDraco,
): Promise<{ parts: NamedMesh[]; clips: string[]; notes: string[] }> {
  const json = format === 'glb' ? openGlb(bytes) : openGltf(bytes, others);
  const notes = strip(json.json, others);
  checkSkins(json.json);
  let document: Document;
  try {
    const reader = await readerFor(json.json.extensionsUsed ?? [], draco);
    document = await reader.readJSON(json);
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

function openGltf(bytes: Uint8Array, others: ReadonlyMap<string, Uint8Array>): JSONDocument {
  const json = parseGltf(bytes, 'glTF');
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  for (const { uri } of json.buffers ?? []) {
    if (uri === undefined || uri.startsWith('data:')) continue;
    const found = others.get(nameIn(uri));
    if (!found) throw new ReadError(`The glTF file needs “${uri}”. Choose both files together.`);
    resources[uri] = found as Uint8Array<ArrayBuffer>;
  }
  return { json, resources };
}

/** The name of a file that an address ends with, whatever its folder. */
function nameIn(uri: string): string {
  try {
    return decodeURIComponent(uri).split('/').pop()!;
  } catch {
    return uri.split('/').pop()!;
  }
}

/** Takes out what Lumbra has no use for, so that a missing picture is no reason to refuse a mesh. */
function strip(json: GLTF.IGLTF, others: ReadonlyMap<string, Uint8Array>): string[] {
  const needed = (json.extensionsRequired ?? []).find((name) => !SEEN_ONLY.test(name) && !PACKINGS.includes(name));
  if (needed) {
    throw new ReadError(`The file uses something that Lumbra does not read (${needed}). Export it without that.`);
  }
  const notes: string[] = [];
  const missing = (json.images ?? [])
    .map(({ uri }) => uri)
    .filter((uri) => uri && !uri.startsWith('data:') && !others.has(uri));
  if (missing.length > 0) notes.push(`The picture “${missing[0]}” is missing; the mesh comes without it.`);
  else if ((json.images ?? []).length > 0) notes.push('Its pictures and materials are left aside.');
  for (const key of ['images', 'textures', 'samplers', 'materials', 'extensionsRequired'] as const) delete json[key];
  json.extensionsUsed = (json.extensionsUsed ?? []).filter((name) => PACKINGS.includes(name));
  for (const mesh of json.meshes ?? []) for (const primitive of mesh.primitives) delete primitive.material;
  return notes;
}

const SEEN_ONLY = /^(KHR_(materials|texture|lights)|EXT_texture)/;

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
