import type { FileStream } from '../../formats/fileSink';
import { frameRange, type UsdAttribute, type UsdLayer, type UsdPrim, type UsdSample } from '../layer';
import { Bytes } from './bytes';
import { literals } from './literals';
import { pathSection, pathsInOrder, putPacked, type CratePath } from './paths';
import { CrateTokens } from './tokens';
import { attributeValue, doubleValue, inlined, KIND, placed, type Place } from './values';

// The binary form of a layer (.usdc), as OpenUSD describes it in “Crate file format”, version 0.8: values first, as they come, then tables of words,
// fields, paths and specs, and at the end a table of those tables. Where that is, is said at the start of the file.

const VERSION = [0, 8, 0];
const HEAD = 88;
const SPEC = { attribute: 1, prim: 6, root: 7, relationship: 8 } as const;
/** Ends a set of fields. */
const END = -1;
/** Flags of a list of changes: items that are given as they are, or put before others. */
const EXPLICIT = 0b11;
const PREPENDED = 0b100000;

interface Spec {
  path: CratePath;
  kind: number;
  fields: [name: string, value: bigint][];
}

/** A layer as a crate, written as its samples come: what is held of a sample is where it is. */
export async function writeCrate(
  layer: UsdLayer,
  samples: AsyncIterable<UsdSample>,
  stream: FileStream,
): Promise<void> {
  const tokens = new CrateTokens();
  let at = 0;
  const put = async (bytes: Uint8Array): Promise<void> => {
    await stream.write(bytes);
    at += bytes.length;
  };
  /** At the next multiple of eight, where readers can take numbers as they are. */
  const place: Place = async (bytes) => {
    if (at % 8 > 0) await put(new Uint8Array(8 - (at % 8)));
    const own = at;
    await put(bytes);
    return own;
  };
  await put(new Uint8Array(HEAD));

  const typeOf = new Map(sampledOf(layer.root, ''));
  const sampled = new Map<string, bigint[]>([...typeOf.keys()].map((path) => [path, []]));
  const frames: number[] = [];
  for await (const { frame, values } of samples) {
    frames.push(frame);
    for (const [path, value] of values) {
      sampled.get(path)!.push(await attributeValue(typeOf.get(path)!, value, tokens, place));
    }
  }
  const times = placed(KIND.doubleVector, await place(doubles(frames)));
  const samplesValue = async (path: string): Promise<bigint> => {
    // Times and values each stand behind how far on they are: at once.
    const bytes = new Bytes().u64(8).u64(times).u64(8);
    const own = sampled.get(path)!;
    bytes.u64(own.length);
    for (const value of own) bytes.u64(value);
    return placed(KIND.timeSamples, await place(bytes.taken()));
  };

  const { start, end } = frameRange(frames);
  const rootPath: CratePath = { name: '/', isProperty: false, children: [] };
  const specs: Spec[] = [];
  const names = async (all: readonly string[]) => placed(KIND.tokenVector, await place(tokenList(all, tokens)));
  specs.push({
    path: rootPath,
    kind: SPEC.root,
    fields: [
      ['defaultPrim', inlined(KIND.token, tokens.token(layer.root.name))],
      ['documentation', inlined(KIND.string, tokens.string('Cloth by Lumbra'))],
      ['endTimeCode', await doubleValue(end, place)],
      ['framesPerSecond', await doubleValue(layer.frameRate, place)],
      ['metersPerUnit', await doubleValue(layer.metresPerUnit, place)],
      ['startTimeCode', await doubleValue(start, place)],
      ['timeCodesPerSecond', await doubleValue(layer.frameRate, place)],
      ['upAxis', inlined(KIND.token, tokens.token(layer.up))],
      ['primChildren', await names([layer.root.name])],
    ],
  });

  /** Relations and connections name paths, whose numbers are known once all are there. */
  const later: { field: [string, bigint]; to: string }[] = [];
  const toPath = (name: string, to: string): [string, bigint] => {
    const field: [string, bigint] = [name, 0n];
    later.push({ field, to });
    return field;
  };
  const byText = new Map<string, CratePath>();
  const addProperty = (parent: CratePath, text: string, name: string): CratePath => {
    const path: CratePath = { name, isProperty: true, children: [] };
    parent.children.push(path);
    byText.set(`${text}.${name}`, path);
    return path;
  };
  const addAttribute = async (parent: CratePath, text: string, attribute: UsdAttribute): Promise<void> => {
    const { name, type, uniform, value, interpolation, from } = attribute;
    const fields: Spec['fields'] = [['typeName', inlined(KIND.token, tokens.token(type))]];
    if (uniform) fields.push(['variability', inlined(KIND.variability, 1)]);
    if (value !== undefined) fields.push(['default', await attributeValue(type, value, tokens, place)]);
    if (attribute.sampled) fields.push(['timeSamples', await samplesValue(`${text}.${name}`)]);
    if (interpolation) fields.push(['interpolation', inlined(KIND.token, tokens.token(interpolation))]);
    if (from !== undefined) fields.push(toPath('connectionPaths', from));
    specs.push({ path: addProperty(parent, text, name), kind: SPEC.attribute, fields });
  };
  const addPrim = async (parent: CratePath, parentText: string, prim: UsdPrim): Promise<void> => {
    const path: CratePath = { name: prim.name, isProperty: false, children: [] };
    parent.children.push(path);
    const text = `${parentText}/${prim.name}`;
    byText.set(text, path);
    const { attributes, relations = [], children = [] } = prim;
    const fields: Spec['fields'] = [
      ['specifier', inlined(KIND.specifier, 0)],
      ['typeName', inlined(KIND.token, tokens.token(prim.type))],
    ];
    if (prim.label !== undefined) fields.push(['displayName', inlined(KIND.string, tokens.string(prim.label))]);
    if (prim.schemas) {
      const bytes = new Bytes().u8(PREPENDED).bytes(tokenList(prim.schemas, tokens));
      fields.push(['apiSchemas', placed(KIND.tokenListOp, await place(bytes.taken()))]);
    }
    const properties = [...attributes, ...relations].map(({ name }) => name);
    if (properties.length > 0) fields.push(['properties', await names(properties)]);
    if (children.length > 0) fields.push(['primChildren', await names(children.map(({ name }) => name))]);
    specs.push({ path, kind: SPEC.prim, fields });
    for (const attribute of attributes) await addAttribute(path, text, attribute);
    for (const { name, to } of relations) {
      const fields: Spec['fields'] = [['variability', inlined(KIND.variability, 1)], toPath('targetPaths', to)];
      specs.push({ path: addProperty(path, text, name), kind: SPEC.relationship, fields });
    }
    for (const child of children) await addPrim(path, text, child);
  };
  await addPrim(rootPath, '', layer.root);

  const numbers = new Map(pathsInOrder(rootPath).map((path, i) => [path, i]));
  for (const { field, to } of later) {
    const bytes = new Bytes()
      .u8(EXPLICIT)
      .u64(1)
      .u32(numbers.get(byText.get(to)!)!);
    field[1] = placed(KIND.pathListOp, await place(bytes.taken()));
  }

  const { fieldSection, setSection, specSection } = tables(specs, numbers, tokens);
  const paths = pathSection(rootPath, tokens);
  const sections: [string, Uint8Array][] = [
    ['TOKENS', tokens.tokenSection()],
    ['STRINGS', tokens.stringSection()],
    ['FIELDS', fieldSection],
    ['FIELDSETS', setSection],
    ['PATHS', paths],
    ['SPECS', specSection],
  ];
  const contents = new Bytes().u64(sections.length);
  for (const [name, bytes] of sections) {
    const title = new Uint8Array(16);
    title.set(new TextEncoder().encode(name));
    contents
      .bytes(title)
      .u64(await place(bytes))
      .u64(bytes.length);
  }
  const contentsAt = await place(contents.taken());
  const head = new Uint8Array(HEAD);
  head.set(new TextEncoder().encode('PXR-USDC'));
  head.set(VERSION, 8);
  new DataView(head.buffer).setBigUint64(16, BigInt(contentsAt), true);
  await stream.close(head);
}

/** Fields, each kept once; sets of them; and what each path has. */
function tables(specs: readonly Spec[], numbers: ReadonlyMap<CratePath, number>, tokens: CrateTokens) {
  const known = new Map<string, number>();
  const fieldNames: number[] = [];
  const values = new Bytes();
  const sets: number[] = [];
  const starts = specs.map(({ fields }) => {
    const start = sets.length;
    for (const [name, value] of fields) {
      const key = `${name} ${value}`;
      let own = known.get(key);
      if (own === undefined) {
        own = known.size;
        known.set(key, own);
        fieldNames.push(tokens.token(name));
        values.u64(value);
      }
      sets.push(own);
    }
    sets.push(END);
    return start;
  });
  const packedValues = literals(values.taken());
  const specSection = new Bytes().u64(specs.length);
  for (const column of [specs.map(({ path }) => numbers.get(path)!), starts, specs.map(({ kind }) => kind)]) {
    putPacked(specSection, column);
  }
  return {
    fieldSection: putPacked(new Bytes().u64(fieldNames.length), fieldNames)
      .u64(packedValues.length)
      .bytes(packedValues)
      .taken(),
    setSection: putPacked(new Bytes().u64(sets.length), sets).taken(),
    specSection: specSection.taken(),
  };
}

/** The sampled attributes of a prim and those under it, by path. */
function sampledOf(prim: UsdPrim, parent: string): [string, UsdAttribute['type']][] {
  const path = `${parent}/${prim.name}`;
  return [
    ...prim.attributes
      .filter(({ sampled }) => sampled)
      .map(({ name, type }): [string, UsdAttribute['type']] => [`${path}.${name}`, type]),
    ...(prim.children ?? []).flatMap((child) => sampledOf(child, path)),
  ];
}

function tokenList(names: readonly string[], tokens: CrateTokens): Uint8Array {
  const bytes = new Bytes().u64(names.length);
  for (const name of names) bytes.u32(tokens.token(name));
  return bytes.taken();
}

function doubles(values: readonly number[]): Uint8Array {
  const bytes = new Bytes().u64(values.length);
  for (const value of values) bytes.f64(value);
  return bytes.taken();
}
