import type { GLTF } from '@gltf-transform/core';
import { z } from 'zod';
import { describeIssue } from '../shot/readShot';
import { ReadError } from './readError';

// What the reader of glTF relies on without looking. A file that says otherwise is refused with the place, before it is read.

/** Numbers that a file may make up without holding them. */
const MOST_EMPTY = 10_000_000;
const MOST = { list: 200_000, count: 100_000_000 };

const index = z.number().int().min(0);
const name = z.string().optional();
const list = <T extends z.ZodType>(entry: T) => z.array(entry).max(MOST.list).optional();
const numbers = (length: number) => z.array(z.number()).length(length).optional();

const node = z.looseObject({
  name,
  mesh: index.optional(),
  skin: index.optional(),
  children: list(index),
  matrix: numbers(16),
  translation: numbers(3),
  rotation: numbers(4),
  scale: numbers(3),
});
const primitive = z.looseObject({
  attributes: z.record(z.string(), index),
  indices: index.optional(),
  mode: z.number().int().min(0).max(6).optional(),
  targets: list(z.record(z.string(), index)),
});
const accessor = z.looseObject({
  bufferView: index.optional(),
  byteOffset: index.optional(),
  componentType: z.union([5120, 5121, 5122, 5123, 5125, 5126].map((type) => z.literal(type))),
  count: z.number().int().min(1).max(MOST.count),
  type: z.enum(['SCALAR', 'VEC2', 'VEC3', 'VEC4', 'MAT2', 'MAT3', 'MAT4']),
});
const view = z.looseObject({
  buffer: index,
  byteOffset: index.optional(),
  byteLength: index,
  byteStride: index.optional(),
});
const animation = z.looseObject({
  name,
  channels: z.array(
    z.looseObject({ sampler: index, target: z.looseObject({ node: index.optional(), path: z.string() }) }),
  ),
  samplers: z.array(z.looseObject({ input: index, output: index })),
});
const gltf = z.looseObject({
  scene: index.optional(),
  scenes: list(z.looseObject({ nodes: list(index) })),
  nodes: list(node),
  meshes: list(
    z.looseObject({ name, primitives: z.array(primitive).min(1, 'has no primitives, so it has no surface') }),
  ),
  accessors: list(accessor),
  bufferViews: list(view),
  buffers: list(z.looseObject({ byteLength: index, uri: z.string().optional() })),
  skins: list(z.looseObject({ name, joints: z.array(index), inverseBindMatrices: index.optional() })),
  animations: list(animation),
  images: list(z.looseObject({ uri: z.string().optional() })),
  extensionsUsed: list(z.string()),
  extensionsRequired: list(z.string()),
});

type Gltf = z.infer<typeof gltf>;

/** Checks the description of a glTF 2.0 file. @throws ReadError with the place that is wrong */
export function checkGltf(json: unknown, format: string): GLTF.IGLTF {
  const read = gltf.safeParse(json);
  const problem = read.success ? firstLost(read.data) : describe(read.error.issues[0]!);
  if (problem) throw new ReadError(`The ${format} file is damaged: ${problem}.`);
  return json as GLTF.IGLTF;
}

function describe(issue: z.core.$ZodIssue): string {
  const [kind, at, key] = issue.path;
  if (kind === 'meshes' && key === 'primitives' && issue.code === 'too_small')
    return `mesh ${Number(at) + 1} ${issue.message}`;
  return describeIssue(issue);
}

/** The first place that names something that the file does not have. */
function firstLost(json: Gltf): string | null {
  const { nodes = [], meshes = [], accessors = [], bufferViews = [], buffers = [], skins = [], scenes = [] } = json;
  const has = (list: readonly unknown[], at: number | undefined, what: string, where: string) =>
    at === undefined || at < list.length ? null : `${where} names ${what} ${at}, and there are ${list.length}`;
  const parents = new Map<number, number>();
  for (const [i, one] of nodes.entries()) {
    const lost = has(meshes, one.mesh, 'mesh', `nodes[${i}]`) ?? has(skins, one.skin, 'skin', `nodes[${i}]`);
    if (lost) return lost;
    for (const child of one.children ?? []) {
      if (child >= nodes.length) return `nodes[${i}] names node ${child}, and there are ${nodes.length}`;
      if (parents.has(child)) return `nodes[${child}] hangs on two others`;
      parents.set(child, i);
    }
  }
  for (const start of parents.keys()) {
    let steps = 0;
    for (let at: number | undefined = start; at !== undefined; at = parents.get(at)) {
      if (++steps > nodes.length) return `nodes[${start}] hangs on itself`;
    }
  }
  for (const [i, one] of scenes.entries()) {
    for (const at of one.nodes ?? [])
      if (at >= nodes.length) return `scenes[${i}] names node ${at}, and there are ${nodes.length}`;
  }
  for (const [i, { primitives }] of meshes.entries()) {
    for (const { attributes, indices, targets = [] } of primitives) {
      const all = [
        ...Object.values(attributes),
        ...(indices === undefined ? [] : [indices]),
        ...targets.flatMap(Object.values<number>),
      ];
      for (const at of all)
        if (at >= accessors.length) return `meshes[${i}] names accessor ${at}, and there are ${accessors.length}`;
    }
  }
  let empty = 0;
  for (const [i, one] of accessors.entries()) {
    const lost = has(bufferViews, one.bufferView, 'buffer view', `accessors[${i}]`);
    if (lost) return lost;
    if (one.bufferView === undefined) empty += one.count;
  }
  if (empty > MOST_EMPTY) return `its accessors have ${empty} elements that it does not hold`;
  for (const [i, one] of bufferViews.entries()) {
    const buffer = buffers[one.buffer];
    if (!buffer) return `bufferViews[${i}] names buffer ${one.buffer}, and there are ${buffers.length}`;
    if ((one.byteOffset ?? 0) + one.byteLength > buffer.byteLength)
      return `bufferViews[${i}] reaches beyond its buffer`;
  }
  return null;
}
