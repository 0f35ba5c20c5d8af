import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { encode } from 'fast-png';
import { beforeAll, describe, expect, it } from 'vitest';
import { USDLoader } from 'three/addons/loaders/USDLoader.js';
import type { Mesh as ThreeMesh } from 'three';
import { sheet } from '../../mesh/shapes/sheet';
import { PICTURE_PREFIX } from '../../print/pictureOf';
import { createCloth } from '../../shot/create';
import { MemoryFiles } from '../formats/fileSink';
import type { HandedCloth } from '../formats/format';
import { usdBinary } from '../formats/usdBinary';
import { usdText } from '../formats/usdText';
import { readMeshFile } from '../import';
import { movedPoints } from '../../mesh/movedPoints';

// What is written is read by two readers that are not ours.

const mesh = sheet({ width: 0.3, height: 0.2, spacing: 0.1 });
const cloths: HandedCloth[] = [
  { id: 'sail', name: 'Top “sail” / 2', mesh, colour: '#B4442F' },
  { id: 'strap', name: 'Top “sail” / 2', mesh: { positions: mesh.positions, triangles: mesh.triangles } },
];
/** Places that no rounding to a few digits would keep. */
const placesAt = (frame: number, cloth: number) =>
  mesh.positions.map((value, i) => value + Math.fround(Math.sin(frame * 1.7 + cloth + i) * 0.123456789));
const FRAMES = [-2, 1, 2, 4];

const FORMATS = [usdText, usdBinary];

async function written(format = usdText, frames = FRAMES, of = cloths): Promise<MemoryFiles> {
  const all = (async function* () {
    for (const frame of frames) {
      yield await Promise.resolve({ frame, positions: of.map((_, i) => placesAt(frame, i)) });
    }
  })();
  const files = new MemoryFiles();
  await format.write({ cloths: of, frames: all, frameRate: 25, stem: '12 Sails' }, files);
  return files;
}
const layer = async (...how: Parameters<typeof written>) =>
  (await written(...how)).bytes(`12 Sails.${(how[0] ?? usdText).id}`);

type Reader = { loadAsLayerFromBinary: (bytes: Uint8Array, name: string) => boolean; layerToString: () => string };
let makeReader: () => Reader;

beforeAll(async () => {
  // It loads where it takes this for a worker.
  const [node, made] = [process as { type?: string }, globalThis as { WorkerGlobalScope?: unknown }];
  node.type = 'renderer';
  made.WorkerGlobalScope ??= function scope() {};
  const { default: start } = await import('tinyusdz/tinyusdz.js');
  const wasm = createRequire(import.meta.url).resolve('tinyusdz/tinyusdz.wasm');
  const { TinyUSDZLoaderNative } = await start({ wasmBinary: readFileSync(wasm) });
  makeReader = () => new TinyUSDZLoaderNative();
});

/** The samples of an attribute in what a reader prints, one prim after the other. */
function samplesOf(text: string, attribute: string): Map<number, number[]>[] {
  return [...text.matchAll(new RegExp(`${attribute}\\.timeSamples = \\{([^}]*)\\}`, 'g'))].map(
    ([, body]) =>
      new Map(
        [...body!.matchAll(/(-?\d+): \[([^\]]*)\]/g)].map(([, frame, values]) => [
          Number(frame),
          values!.match(/-?\d[\d.e+-]*/g)!.map(Number),
        ]),
      ),
  );
}

/** What the other reader prints of a layer. */
async function printed(...how: Parameters<typeof written>): Promise<string> {
  const reader = makeReader();
  const ending = (how[0] ?? usdText).id;
  expect(reader.loadAsLayerFromBinary(await layer(...how), `sails.${ending}`)).toBe(true);
  return reader.layerToString();
}

describe.each(FORMATS.map((format) => [format.id, format] as const))('USD, %s', (_, format) => {
  it('gives every place of every frame to within a micrometre, and how things are measured', async () => {
    const text = await printed(format);
    for (const said of [
      'metersPerUnit = 1',
      'upAxis = "Y"',
      'timeCodesPerSecond = 25',
      'startTimeCode = -2',
      'endTimeCode = 4',
      'displayName = "Top \\"sail\\" / 2"',
    ])
      expect(text.replaceAll(/[“”]/g, '\\"')).toContain(said);
    const points = samplesOf(text, 'points');
    expect(points.map((samples) => [...samples.keys()])).toEqual([FRAMES, FRAMES]);
    points.forEach((samples, cloth) => {
      for (const [frame, values] of samples) {
        placesAt(frame, cloth).forEach((value, i) => expect(Math.abs(values[i]! - value)).toBeLessThan(1e-6));
      }
    });
    for (const attribute of ['normals', 'velocities', 'extent']) expect(samplesOf(text, attribute)).toHaveLength(2);
  });

  it('says how fast points move between the frames around, in m/s', async () => {
    const [samples] = samplesOf(await printed(format), 'velocities');
    const [before, after] = [placesAt(1, 0), placesAt(4, 0)];
    samples!.get(2)!.forEach((value, i) => expect(value).toBeCloseTo(((after[i]! - before[i]!) / 3) * 25, 4));
    expect(samples!.get(4)![0]).toBeCloseTo(((after[0]! - placesAt(2, 0)[0]!) / 2) * 25, 4);
  });

  it('is read by another reader too, with names of their own', async () => {
    const bytes = await layer(format, [1]);
    const group = new USDLoader().parse(format === usdText ? new TextDecoder().decode(bytes) : bytes.slice().buffer);
    const meshes: ThreeMesh[] = [];
    group.traverse((object) => 'isMesh' in object && meshes.push(object as ThreeMesh));
    expect(meshes.map(({ name }) => name)).toEqual(['Top_sail_2', 'Top_sail_2_2']);
    const places = meshes[0]!.geometry.getAttribute('position');
    expect(places.count).toBe(mesh.triangles.length);
    mesh.triangles.forEach((point, corner) => {
      expect(places.getX(corner)).toBeCloseTo(placesAt(1, 0)[point * 3]!, 5);
    });
  });

  it('of one frame has no speed, and of none is still a file', async () => {
    const [speeds] = samplesOf(await printed(format, [7]), 'velocities');
    expect(speeds!.get(7)!.every((value) => value === 0)).toBe(true);
    await printed(format, []);
  });

  it('is read back as meshes that move, every frame within a micrometre', async () => {
    const { parts, clips, measured, notes } = await readMeshFile(`sails.${format.id}`, await layer(format));
    // The reader of text does not tell what prims are called beside their names.
    const names = format === usdText ? ['Top_sail_2', 'Top_sail_2_2'] : cloths.map(({ name }) => name);
    expect([parts.map(({ name }) => name), clips, measured]).toEqual([names, ['Frames'], true]);
    // Frames -1 to 0 and 3 were not written.
    expect(notes).toHaveLength(2);
    parts.forEach(({ mesh: own }, cloth) => {
      expect(own.triangles).toEqual(mesh.triangles);
      const clip = own.motion!.clips[0]!;
      expect([clip.rate, clip.samples]).toEqual([25, 7]);
      for (const frame of FRAMES) {
        movedPoints(own, clip, (frame + 2) / 25, false).forEach((value, i) =>
          expect(Math.abs(value - placesAt(frame, cloth)[i]!)).toBeLessThan(1e-6),
        );
      }
    });
  });

  it('has the print as a picture beside it, on the material coordinates', async () => {
    const print = {
      ...createCloth({ name: 'Printed' }).print,
      kind: 'check' as const,
      repeat: 0.25,
      turn: 0.5,
      along: 0.1,
    };
    const printedSail = [{ ...cloths[0]!, print }];
    const files = await written(format, [1], printedSail);
    expect(files.paths).toEqual([`12 Sails.${format.id}`, 'textures/Top_sail_2.png']);
    expect([...files.bytes('textures/Top_sail_2.png').subarray(1, 4)]).toEqual([...new TextEncoder().encode('PNG')]);
    const text = await printed(format, [1], printedSail);
    for (const said of ['UsdPreviewSurface', 'UsdUVTexture', 'textures/Top_sail_2.png', 'MaterialBindingAPI', '/Print'])
      expect(text).toContain(said);
    expect(text).toMatch(/inputs:scale = \(4, 4\)/);
    expect(text).not.toContain('opacity');
  });

  it('has what is cut out as opacity, and a picture that lies there once held at its rim', async () => {
    const own = encode({ width: 1, height: 1, data: Uint8Array.of(255, 0, 0, 255), channels: 4 });
    const picture = PICTURE_PREFIX + btoa(String.fromCharCode(...own));
    const { print } = createCloth({ name: 'Printed' });
    const text = await printed(
      format,
      [1],
      [{ ...cloths[0]!, print: { ...print, kind: 'picture', picture, once: true, cutOut: true } }],
    );
    for (const said of [
      /inputs:opacity\.connect = .*Picture\.outputs:a/,
      /inputs:opacityThreshold = 0\.5/,
      /inputs:wrapS = "clamp"/,
    ])
      expect(text).toMatch(said);
  });
});

describe('USD in binary', () => {
  it('is hardly larger than its numbers, and is written as they come', async () => {
    const large = sheet({ width: 1, height: 1, spacing: 0.02 });
    const frames = Array.from({ length: 40 }, (_, i) => i + 1);
    let most = 0;
    let held = 0;
    const all = (async function* () {
      for (const frame of frames) {
        held++;
        yield await Promise.resolve({ frame, positions: [large.positions.map((value) => value + frame)] });
      }
    })();
    let bytes = 0;
    await usdBinary.write(
      { cloths: [{ id: 'large', name: 'Large', mesh: large }], frames: all, frameRate: 24, stem: 'Large' },
      {
        open: () => ({
          write: (part) => {
            most = Math.max(most, held - bytes / (large.positions.length * 12));
            bytes += part.length;
          },
          close: () => undefined,
        }),
      },
    );
    const floats = frames.length * large.positions.length * 3 * 4;
    expect(bytes / floats).toBeLessThan(1.05);
    // What waits is what is gathered, and the frames on both sides.
    expect(most).toBeLessThan(2 ** 20 / (large.positions.length * 12) + 3);
  });
});
