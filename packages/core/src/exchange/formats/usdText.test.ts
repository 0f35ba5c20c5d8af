import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from 'vitest';
import { USDLoader } from 'three/addons/loaders/USDLoader.js';
import type { Mesh as ThreeMesh } from 'three';
import { sheet } from '../../mesh/shapes/sheet';
import type { HandedCloth } from './format';
import { usdText } from './usdText';

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

async function written(frames = FRAMES): Promise<string> {
  const files = new Map<string, Uint8Array>();
  const all = (async function* () {
    for (const frame of frames) {
      yield await Promise.resolve({ frame, positions: cloths.map((_, i) => placesAt(frame, i)) });
    }
  })();
  await usdText.write({ cloths, frames: all, frameRate: 25, stem: '12 Sails' }, (path, bytes) => {
    files.set(path, bytes);
  });
  expect([...files.keys()]).toEqual(['12 Sails.usda']);
  return new TextDecoder().decode([...files.values()][0]);
}

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

describe('USD as text', () => {
  it('gives every place of every frame to within a micrometre, and how things are measured', async () => {
    const reader = makeReader();
    expect(reader.loadAsLayerFromBinary(new TextEncoder().encode(await written()), 'sails.usda')).toBe(true);
    const text = reader.layerToString();
    for (const said of [
      'metersPerUnit = 1',
      'upAxis = "Y"',
      'timeCodesPerSecond = 25',
      'startTimeCode = -2',
      'endTimeCode = 4',
    ])
      expect(text).toContain(said);
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
    const reader = makeReader();
    reader.loadAsLayerFromBinary(new TextEncoder().encode(await written()), 'sails.usda');
    const [samples] = samplesOf(reader.layerToString(), 'velocities');
    const [before, after] = [placesAt(1, 0), placesAt(4, 0)];
    samples!.get(2)!.forEach((value, i) => expect(value).toBeCloseTo(((after[i]! - before[i]!) / 3) * 25, 4));
    expect(samples!.get(4)![0]).toBeCloseTo(((after[0]! - placesAt(2, 0)[0]!) / 2) * 25, 4);
  });

  it('is read by another reader too, with names of their own', async () => {
    const group = new USDLoader().parse(await written([1]));
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
    const reader = makeReader();
    expect(reader.loadAsLayerFromBinary(new TextEncoder().encode(await written([7])), 'one.usda')).toBe(true);
    expect(
      samplesOf(reader.layerToString(), 'velocities')[0]!
        .get(7)!
        .every((value) => value === 0),
    ).toBe(true);
    expect(makeReader().loadAsLayerFromBinary(new TextEncoder().encode(await written([])), 'none.usda')).toBe(true);
  });
});
