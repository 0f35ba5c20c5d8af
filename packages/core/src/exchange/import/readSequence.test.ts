import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { movedPoints } from '../../mesh/movedPoints';
import { sheet } from '../../mesh/shapes/sheet';
import { CACHE_FORMATS, MemoryFiles } from '../formats';
import { readMeshFile } from './readMeshFile';
import { takeOfMeshes } from './takeOfMeshes';

const mesh = sheet({ width: 0.3, height: 0.2, spacing: 0.05 });
/** A sheet that rises and curls, so many frames on. */
const moved = (frame: number) =>
  mesh.positions.map((value, i) => (i % 3 === 1 ? 0.1 * frame + Math.sin(frame + 9 * mesh.positions[i - 1]!) : value));

async function zipped(id: string, frames: readonly number[]): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  const take = {
    cloths: [
      { id: 'sail', name: 'Sail', mesh },
      { id: 'strap', name: 'Strap', mesh },
    ],
    frames: (async function* () {
      for (const frame of frames) yield await Promise.resolve({ frame, positions: [moved(frame), moved(-frame)] });
    })(),
    frameRate: 25,
    stem: 'NF120',
  };
  const written = new MemoryFiles();
  await CACHE_FORMATS.find((format) => format.id === id)!.write(take, written);
  for (const path of written.paths) files[path] = written.bytes(path);
  return zipSync({ ...files, 'notes.txt': strToU8('by hand') });
}
const farthest = (a: ArrayLike<number>, b: ArrayLike<number>) =>
  Array.from(a).reduce((most, value, i) => Math.max(most, Math.abs(value - b[i]!)), 0);

describe('a sequence of meshes in a zip', () => {
  it.each(['obj', 'ply'])('of %s is a mesh that moves, every frame within 1e-6 m', async (id) => {
    const read = await readMeshFile('take.zip', await zipped(id, [3, 4, 5, 6]), undefined, undefined, 25);
    expect(read.parts.map(({ name }) => name)).toEqual(['sail', 'strap']);
    expect(read.notes).toEqual([]);
    read.parts.forEach(({ mesh: own }, k) => {
      const [clip] = own.motion!.clips;
      expect(clip).toMatchObject({ rate: 25, samples: 4 });
      for (const frame of [3, 4, 5, 6]) {
        const wanted = moved(k === 0 ? frame : -frame);
        expect(farthest(movedPoints(own, clip!, (frame - 3) / 25, false), wanted)).toBeLessThan(1e-6);
      }
    });
  });

  it('fills in what is missing, and says so; even steps are not missing', async () => {
    const gap = await readMeshFile('take.zip', await zipped('ply', [1, 2, 5]));
    expect(gap.notes).toEqual([
      '2 frames of “sail” are missing between the first and the last; what lies between is filled in evenly.',
      '2 frames of “strap” are missing between the first and the last; what lies between is filled in evenly.',
    ]);
    const [{ mesh: own }] = gap.parts as [(typeof gap.parts)[number]];
    const [a, b] = [moved(2), moved(5)];
    const at4 = movedPoints(own, own.motion!.clips[0]!, 3 / 24, false);
    expect(
      farthest(
        at4,
        a.map((value, i) => value + (2 / 3) * (b[i]! - value)),
      ),
    ).toBeLessThan(1e-6);
    expect((await readMeshFile('take.zip', await zipped('ply', [1, 3, 5]))).notes).toEqual([]);
  });

  it('of one frame stands still', async () => {
    const { parts } = await readMeshFile('take.zip', await zipped('obj', [7]));
    expect(parts[0]!.mesh.motion).toBeUndefined();
    expect(() => takeOfMeshes(parts, 24, 'x')).toThrow(/Nothing in it moves/);
  });

  it('is written again as it was', async () => {
    const { parts } = await readMeshFile('take.zip', await zipped('ply', [1, 2, 3]));
    const take = takeOfMeshes(parts, 24, 'again');
    const frames = [];
    for await (const frame of take.frames) frames.push(frame);
    expect(frames.map(({ frame }) => frame)).toEqual([1, 2, 3]);
    frames.forEach(({ frame, positions }) => expect(farthest(positions[0]!, moved(frame))).toBeLessThan(1e-6));
  });

  it.each<[string, Record<string, string>, RegExp]>([
    ['has none', { 'a.txt': '' }, /no sequence of meshes/],
    [
      'changes its mesh',
      {
        'c/1.obj': 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n',
        'c/2.obj': 'v 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0\nf 1 2 3\nf 2 4 3\n',
      },
      /Frame 2 of “c” is of another mesh than frame 1/,
    ],
    ['has a broken frame', { 'c/1.ply': 'nothing' }, /Frame 1 of “c” cannot be read: This is not a PLY file/],
  ])('that %s is refused with a sentence', async (_, files, wanted) => {
    const zip = zipSync(Object.fromEntries(Object.entries(files).map(([path, text]) => [path, strToU8(text)])));
    await expect(readMeshFile('x.zip', zip)).rejects.toThrow(wanted);
  });

  it('that is cut short is refused', async () => {
    const whole = await zipped('ply', [1, 2]);
    await expect(readMeshFile('x.zip', whole.slice(0, whole.length / 2))).rejects.toThrow(/damaged/);
  });
});
