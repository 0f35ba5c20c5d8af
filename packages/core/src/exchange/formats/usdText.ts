import { bounds } from '../../mesh/bounds';
import { pointNormals } from '../../mesh/normals';
import type { CacheFormat, HandedCloth, HandedFrame, HandedSpace } from './format';

// Universal Scene Description as text (.usda): a mesh a cloth under one root, with its places, normals, velocities and extents as time
// samples. Text has every number spelt out, so a frame of 10,000 points takes about a megabyte.

/** Attributes that change over time. */
const SAMPLED = ['points', 'normals', 'velocities', 'extent'] as const;
type Sampled = (typeof SAMPLED)[number];
const TYPES: Record<Sampled, string> = {
  points: 'point3f[]',
  normals: 'normal3f[]',
  velocities: 'vector3f[]',
  extent: 'float3[]',
};

export const usdText: CacheFormat = {
  id: 'usda',
  label: 'USD with motion',
  note: 'text, a sample a frame',
  type: 'text/plain',
  oneFile: true,
  writeFrame: async (take, frame) => {
    let bytes = new Uint8Array();
    const frames = (async function* () {
      yield await Promise.resolve(frame);
    })();
    await usdText.write({ ...take, frames }, (_, written) => void (bytes = written as Uint8Array<ArrayBuffer>));
    return bytes;
  },
  write: async ({ cloths, frames, frameRate, stem, space = METRES }, sink) => {
    // Samples of one attribute stand together, so those of all frames are collected, each as the bytes that it will be.
    const samples = cloths.map(() => new Map<Sampled, Uint8Array[]>(SAMPLED.map((name) => [name, []])));
    const encoder = new TextEncoder();
    const range: number[] = [];
    const add = ({ frame, positions }: HandedFrame, after: HandedFrame | null, before: HandedFrame | null) => {
      range.push(frame);
      cloths.forEach((cloth, i) => {
        const own = positions[i]!;
        const values: Record<Sampled, ArrayLike<number>> = {
          points: own,
          normals: pointNormals(own, cloth.mesh.triangles, undefined, cloth.mesh.sewn),
          velocities: velocitiesOf(own, frame, after, before, i, frameRate),
          extent: extentOf(own),
        };
        for (const name of SAMPLED) {
          samples[i]!.get(name)!.push(encoder.encode(`        ${frame}: ${triples(values[name])},\n`));
        }
      });
    };
    let before: HandedFrame | null = null;
    let now: HandedFrame | null = null;
    for await (const after of frames) {
      if (now) add(now, after, before);
      [before, now] = [now, after];
    }
    if (now) add(now, null, before);
    const parts: Uint8Array[] = [encoder.encode(header(range, frameRate, stem, space))];
    const names = primNames(cloths);
    cloths.forEach((cloth, i) => {
      parts.push(encoder.encode(meshStart(cloth, names[i]!)));
      for (const name of SAMPLED) {
        // How normals go with points is said of the attribute itself.
        if (name === 'normals')
          parts.push(encoder.encode('    normal3f[] normals (\n      interpolation = "vertex"\n    )\n'));
        parts.push(encoder.encode(`    ${TYPES[name]} ${name}.timeSamples = {\n`));
        for (const sample of samples[i]!.get(name)!) parts.push(sample);
        parts.push(encoder.encode('    }\n'));
      }
      parts.push(encoder.encode('  }\n'));
    });
    parts.push(encoder.encode('}\n'));
    await sink(`${stem}.usda`, joined(parts));
  },
};

const METRES: HandedSpace = { metresPerUnit: 1, up: 'y' };

function header(range: readonly number[], frameRate: number, stem: string, { metresPerUnit, up }: HandedSpace): string {
  return `#usda 1.0
(
  defaultPrim = "${identifier(stem)}"
  doc = "Cloth by Lumbra"
  endTimeCode = ${range.length > 0 ? Math.max(...range) : 1}
  framesPerSecond = ${frameRate}
  metersPerUnit = ${metresPerUnit}
  startTimeCode = ${range.length > 0 ? Math.min(...range) : 1}
  timeCodesPerSecond = ${frameRate}
  upAxis = "${up.toUpperCase()}"
)

def Xform "${identifier(stem)}"
{
`;
}

function meshStart({ name, mesh, colour }: HandedCloth, prim: string): string {
  const { triangles, material } = mesh;
  const lines = [
    `  def Mesh "${prim}" (`,
    `    displayName = ${JSON.stringify(name)}`,
    '  )',
    '  {',
    '    uniform token subdivisionScheme = "none"',
    '    uniform bool doubleSided = 1',
    `    int[] faceVertexCounts = [${Array<number>(triangles.length / 3)
      .fill(3)
      .join(', ')}]`,
    `    int[] faceVertexIndices = [${triangles.join(', ')}]`,
  ];
  if (colour) lines.push(`    color3f[] primvars:displayColor = [${triple(linear(colour))}]`);
  if (material) {
    const pairs = Array.from({ length: material.length / 2 }, (_, i) => {
      return `(${short(material[i * 2]!)}, ${short(material[i * 2 + 1]!)})`;
    });
    lines.push(`    texCoord2f[] primvars:st = [${pairs.join(', ')}] (`, '      interpolation = "vertex"', '    )');
  }
  return lines.join('\n') + '\n';
}

/** How fast each point moves, in m/s: between the frames on both sides where there are both. */
function velocitiesOf(
  own: Float32Array,
  frame: number,
  after: HandedFrame | null,
  before: HandedFrame | null,
  cloth: number,
  frameRate: number,
): Float32Array {
  const later = after ?? { frame, positions: [] };
  const earlier = before ?? { frame, positions: [] };
  const seconds = (later.frame - earlier.frame) / frameRate;
  if (seconds === 0) return new Float32Array(own.length);
  const [from, to] = [earlier.positions[cloth] ?? own, later.positions[cloth] ?? own];
  return own.map((_, i) => (to[i]! - from[i]!) / seconds);
}

function extentOf(positions: Float32Array): number[] {
  const box = bounds(positions);
  return box ? [...box.low, ...box.high] : [0, 0, 0, 0, 0, 0];
}

function triples(values: ArrayLike<number>): string {
  const all: string[] = [];
  for (let i = 0; i < values.length; i += 3) {
    all.push(`(${short(values[i]!)}, ${short(values[i + 1]!)}, ${short(values[i + 2]!)})`);
  }
  return `[${all.join(', ')}]`;
}

const triple = (values: readonly number[]) => `(${values.map(short).join(', ')})`;

/** A tenth of a micrometre is finer than single precision is at 2 m. */
function short(value: number): string {
  return String(Math.round(value * 1e7) / 1e7);
}

/** Linear light of a colour as it is shown. */
function linear(colour: string): number[] {
  return [1, 3, 5].map((at) => {
    const shown = parseInt(colour.slice(at, at + 2), 16) / 255;
    return shown <= 0.04045 ? shown / 12.92 : ((shown + 0.055) / 1.055) ** 2.4;
  });
}

/** A name that USD takes for a prim: letters, digits and _, no digit first. */
function identifier(name: string): string {
  const tidy = name.replace(/[^A-Za-z0-9_]+/g, '_');
  return /^[A-Za-z_]/.test(tidy) ? tidy : `_${tidy}`;
}

/** The prims of cloths, each with a name of its own. */
function primNames(cloths: readonly HandedCloth[]): string[] {
  const taken = new Set<string>();
  return cloths.map(({ name }) => {
    const base = identifier(name);
    let free = base;
    for (let n = 2; taken.has(free); n++) free = `${base}_${n}`;
    taken.add(free);
    return free;
  });
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}
