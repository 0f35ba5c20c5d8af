import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { unzipSync, zipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { ball } from '../mesh/shapes/ball';
import { createCloth, createShot } from '../shot/create';
import { ID_PATTERN } from '../shot/ids';
import { ShotError } from '../shot/readShot';
import type { Shot } from '../shot/schema';
import { readMeshFile } from './import/readMeshFile';
import { ReadError } from './readError';
import { readLumbraFile } from './shotFileRead';
import { writeProductionFile, writeShotFile } from './shotFileWrite';

// Files from outside that are not what they should be: read, or refused with a sentence; never a hang, never an error without words, and
// never a name that leads out of a folder.

const VERSION_1 = readFileSync(new URL('../shot/upgrades/testing/version1.json', import.meta.url), 'utf8');
/** Longer than this no file of this size may take, in ms. */
const PATIENCE = 3000;

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/** Stands for lists in lists in lists, which nothing here could go through otherwise. */
const DEEP = 'deep';
const deep = `${'['.repeat(20_000)}${']'.repeat(20_000)}`;

const nasty = fc.oneof(
  fc.constantFrom<Json>('../../x', '..', '/etc/passwd', 'a/b', 'C:\\x', '', '\u0000', 'x'.repeat(5000), '__proto__'),
  fc.constantFrom<Json>(null, true, -1, 0, 1e308, 1e-308, 2 ** 53, -0, 'NaN', {}, []),
  fc.array(fc.integer(), { maxLength: 5 }) as fc.Arbitrary<Json>,
  fc.json({ maxDepth: 3 }).map((text) => JSON.parse(text) as Json),
  fc.constant<Json>(DEEP),
);
const damage = fc.array(fc.record({ at: fc.nat(), way: fc.nat(3), value: nasty }), { minLength: 1, maxLength: 4 });

/** Every place of a document, as the object that holds it and the key. */
function places(
  value: Json,
  found: [Record<string, Json>, string][] = [],
  depth = 0,
): [Record<string, Json>, string][] {
  if (typeof value !== 'object' || value === null || depth > 20) return found;
  for (const key of Object.keys(value)) {
    found.push([value as Record<string, Json>, key]);
    places((value as Record<string, Json>)[key]!, found, depth + 1);
  }
  return found;
}

function damaged(text: string, acts: { at: number; way: number; value: Json }[]): string {
  const document = JSON.parse(text) as Json;
  for (const { at, way, value: given } of acts) {
    const value = structuredClone(given);
    const all = places(document);
    if (all.length === 0) break;
    const [holder, key] = all[at % all.length]!;
    if (way === 0) delete holder[key];
    else if (way === 1) holder[`${key}x`] = value;
    else if (way === 2 && Array.isArray(holder[key])) holder[key] = [...holder[key], value];
    else holder[key] = value;
  }
  return JSON.stringify(document).replaceAll(`"${DEEP}"`, deep);
}

/** Reads, and looks at what came of it. */
async function expectSafe(bytes: Uint8Array): Promise<void> {
  const started = performance.now();
  try {
    const { shots } = await readLumbraFile(bytes);
    for (const { shot, assets } of shots) {
      for (const { id } of [shot, ...shot.things]) expect(id).toMatch(ID_PATTERN);
      await writeShotFile(shot, assets);
    }
  } catch (error) {
    expectSentence(error);
  }
  expect(performance.now() - started).toBeLessThan(PATIENCE);
}

function expectSentence(error: unknown): void {
  if (!(error instanceof ShotError || error instanceof ReadError)) throw error;
  expect(error.message).toMatch(/^[A-Z“\w].{10,}[.]$/s);
  // These are what an engine says, not what a person understands.
  expect(error.message).not.toMatch(/undefined|is not (a function|iterable)|Cannot read|\[object/);
}

const mesh = ball({ radius: 0.2, detail: 1 });
const withMesh = (id: string): Shot =>
  createShot({ id, name: id, things: [createCloth({ id: 'c', name: 'Cloth', shape: { kind: 'mesh', asset: 'm' } })] });
const assets = new Map([['m', mesh]]);

describe('files that are not what they should be', { timeout: 120_000 }, () => {
  let zips: Uint8Array[] = [];
  beforeAll(async () => {
    const production = [withMesh('a'), withMesh('b')].map((shot) => ({ shot, assets }));
    zips = [await writeShotFile(withMesh('s'), assets), await writeProductionFile({ name: 'P', note: '' }, production)];
  });

  it('documents with anything anywhere', async () => {
    const encoder = new TextEncoder();
    await fc.assert(
      fc.asyncProperty(damage, (acts) => expectSafe(encoder.encode(damaged(VERSION_1, acts)))),
      { seed: 1, numRuns: 1000 },
    );
  });

  it('documents as a bare text that was cut or changed', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(VERSION_1.length), fc.string(), (at, put) =>
        expectSafe(new TextEncoder().encode(VERSION_1.slice(0, at) + put + VERSION_1.slice(at + put.length))),
      ),
      { seed: 2, numRuns: 200 },
    );
  });

  it('zips with wrong bytes, or cut short', async () => {
    const bytes = fc.array(fc.record({ at: fc.nat(), by: fc.integer({ min: 1, max: 255 }) }), { maxLength: 6 });
    await fc.assert(
      fc.asyncProperty(fc.nat(1), bytes, fc.option(fc.nat()), (which, flips, cut) => {
        const zip = zips[which]!.slice(0, cut === null ? undefined : cut % zips[which]!.length);
        // Its first letters say that it is a zip.
        for (const { at, by } of flips) if (zip.length > 2) zip[2 + (at % (zip.length - 2))]! ^= by;
        return expectSafe(zip);
      }),
      { seed: 3, numRuns: 400 },
    );
  });

  it('zips whose entries are another thing, have other names, or are not there', async () => {
    const change = fc.record({
      which: fc.nat(1),
      entry: fc.nat(),
      way: fc.nat(3),
      acts: damage,
      bytes: fc.uint8Array(),
    });
    await fc.assert(
      fc.asyncProperty(change, ({ which, entry, way, acts, bytes }) => {
        const files = unzipSync(zips[which]!);
        const name = Object.keys(files)[entry % Object.keys(files).length]!;
        if (way === 0) delete files[name];
        else if (way === 1) files[name] = bytes;
        else if (way === 2) files[`../../${name}`] = files[name]!;
        else if (name.endsWith('.json')) {
          files[name] = new TextEncoder().encode(damaged(new TextDecoder().decode(files[name]), acts));
        }
        return expectSafe(zipSync(files));
      }),
      { seed: 4, numRuns: 400 },
    );
  });

  it('glTF descriptions with anything anywhere', async () => {
    const glb = unzipSync(zips[0]!)['assets/m.glb']!;
    const view = new DataView(glb.buffer, glb.byteOffset);
    const length = view.getUint32(12, true);
    const text = new TextDecoder().decode(glb.subarray(20, 20 + length));
    const binary = glb.subarray(20 + length);
    await fc.assert(
      fc.asyncProperty(damage, async (acts) => {
        const changed = new TextEncoder().encode(damaged(text, acts));
        const padded = new Uint8Array((changed.length + 3) & ~3).fill(0x20);
        padded.set(changed);
        const bytes = new Uint8Array(20 + padded.length + binary.length);
        const out = new DataView(bytes.buffer);
        [0x46546c67, 2, bytes.length, padded.length, 0x4e4f534a].forEach((word, i) => out.setUint32(i * 4, word, true));
        bytes.set(padded, 20);
        bytes.set(binary, 20 + padded.length);
        await readMeshFile('x.glb', bytes).catch(expectSentence);
      }),
      { seed: 5, numRuns: 400 },
    );
  });
});

it('a zip that claims to be small, and one that would unpack to more than there is room for, are refused', async () => {
  const huge = new Uint8Array(65e6);
  await expect(readLumbraFile(zipSync({ 'shot.json': huge }, { level: 1 }))).rejects.toThrow(
    /too large to open: shot.json/,
  );
  // An entry that nobody asks for is never inflated.
  await expect(readLumbraFile(zipSync({ 'else.bin': huge }, { level: 1 }))).rejects.toThrow(/no shot.json inside/);
});

it('names in the zips that are written never lead out of them', async () => {
  const outside = { ...withMesh('s'), id: '../../x' };
  await expect(writeProductionFile({ name: 'P', note: '' }, [{ shot: outside, assets }])).rejects.toThrow(/cannot be/);
});
