import type { FileStream } from '../formats/fileSink';
import {
  frameRange,
  NUMBERS_EACH,
  type UsdAttribute,
  type UsdLayer,
  type UsdPrim,
  type UsdSample,
  type UsdValue,
} from './layer';

/**
 * A layer as text (.usda). Samples of one attribute stand together, so those of all frames are collected, each as the bytes that it will be: a
 * frame of 10,000 points takes about a megabyte.
 */
export async function writeText(layer: UsdLayer, samples: AsyncIterable<UsdSample>, stream: FileStream): Promise<void> {
  const encoder = new TextEncoder();
  const said = new Map<string, Uint8Array[]>();
  const frames: number[] = [];
  for await (const { frame, values } of samples) {
    frames.push(frame);
    for (const [path, value] of values) {
      const lines = said.get(path) ?? [];
      said.set(path, lines);
      lines.push(encoder.encode(`${frame}: ${list(value, 3)},\n`));
    }
  }
  const put = async (text: string) => {
    await stream.write(encoder.encode(text));
  };
  await put(header(layer, frames));
  const write = async (prim: UsdPrim, parent: string, indent: string): Promise<void> => {
    const path = `${parent}/${prim.name}`;
    await put(primStart(prim, indent));
    const inner = `${indent}  `;
    for (const attribute of prim.attributes) {
      if (!attribute.sampled) {
        await put(attributeText(attribute, inner));
        continue;
      }
      // How an attribute goes with points is said of the attribute itself.
      if (attribute.interpolation)
        await put(`${inner}${attribute.type} ${attribute.name}${interpolation(attribute, inner)}\n`);
      await put(`${inner}${attribute.type} ${attribute.name}.timeSamples = {\n`);
      for (const line of said.get(`${path}.${attribute.name}`) ?? []) {
        await put(`${inner}  `);
        await stream.write(line);
      }
      await put(`${inner}}\n`);
    }
    for (const { name, to } of prim.relations ?? []) await put(`${inner}rel ${name} = <${to}>\n`);
    for (const child of prim.children ?? []) await write(child, path, inner);
    await put(`${indent}}\n`);
  };
  await write(layer.root, '', '');
  await stream.close();
}

function header({ root, frameRate, metresPerUnit, up }: UsdLayer, frames: readonly number[]): string {
  const { start, end } = frameRange(frames);
  return `#usda 1.0
(
  defaultPrim = "${root.name}"
  doc = "Cloth by Lumbra"
  endTimeCode = ${end}
  framesPerSecond = ${frameRate}
  metersPerUnit = ${metresPerUnit}
  startTimeCode = ${start}
  timeCodesPerSecond = ${frameRate}
  upAxis = "${up}"
)

`;
}

function primStart({ name, type, label, schemas }: UsdPrim, indent: string): string {
  const said = [
    ...(label === undefined ? [] : [`displayName = ${JSON.stringify(label)}`]),
    ...(schemas ? [`prepend apiSchemas = [${schemas.map((schema) => `"${schema}"`).join(', ')}]`] : []),
  ].map((line) => `${indent}  ${line}\n`);
  const block = said.length > 0 ? ` (\n${said.join('')}${indent})` : '';
  return `${indent}def ${type} "${name}"${block}\n${indent}{\n`;
}

function attributeText(attribute: UsdAttribute, indent: string): string {
  const { name, type, uniform, value, from } = attribute;
  const declared = `${indent}${uniform ? 'uniform ' : ''}${type} ${name}`;
  const lines: string[] = [];
  if (value !== undefined) lines.push(`${declared} = ${text(type, value)}${interpolation(attribute, indent)}\n`);
  if (from !== undefined) lines.push(`${declared}.connect = <${from}>\n`);
  if (lines.length === 0) lines.push(`${declared}\n`);
  return lines.join('');
}

function interpolation({ interpolation: how }: UsdAttribute, indent: string): string {
  return how === undefined ? '' : ` (\n${indent}  interpolation = "${how}"\n${indent})`;
}

function text(type: UsdAttribute['type'], value: UsdValue): string {
  if (typeof value === 'number') return short(value);
  if (typeof value === 'string') return type === 'asset' ? `@${value}@` : JSON.stringify(value);
  if (type === 'token[]') return `[${Array.from(value as readonly string[], (one) => JSON.stringify(one)).join(', ')}]`;
  const numbers = value as ArrayLike<number>;
  const each = NUMBERS_EACH[type] ?? 1;
  return type.endsWith('[]') ? list(numbers, each) : tuple(numbers, 0, each);
}

function list(values: ArrayLike<number>, each: number): string {
  const all: string[] = [];
  for (let i = 0; i < values.length; i += each) all.push(each === 1 ? short(values[i]!) : tuple(values, i, each));
  return `[${all.join(', ')}]`;
}

function tuple(values: ArrayLike<number>, at: number, each: number): string {
  const own: string[] = [];
  for (let k = 0; k < each; k++) own.push(short(values[at + k]!));
  return `(${own.join(', ')})`;
}

/** A tenth of a micrometre is finer than single precision is at 2 m. */
function short(value: number): string {
  return String(Math.round(value * 1e7) / 1e7);
}
