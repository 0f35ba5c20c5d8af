import { describe, expect, test } from 'vitest';
import { MemoryFiles } from './formats/fileSink';
import type { CacheFormat, HandedFrame } from './formats/format';
import { CACHE_FORMATS } from './formats';
import { readMeshFile } from './import/readMeshFile';
import { shareFrames } from './shareFrames';
import { writeApart } from './writeApart';

const TRIANGLE = { positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), triangles: Uint32Array.of(0, 1, 2) };

async function* counted(most: number, asked: number[] = []) {
  for (let item = 0; item < most; item++) {
    asked.push(item);
    yield await Promise.resolve(item);
  }
}

async function all<Item>(items: AsyncIterable<Item>, most = Infinity): Promise<Item[]> {
  const found: Item[] = [];
  for await (const item of items) {
    found.push(item);
    if (found.length >= most) break;
  }
  return found;
}

describe('frames that are shared', () => {
  test('come to all, one at a time', async () => {
    const asked: number[] = [];
    const [first, second] = shareFrames(counted(5, asked), 2);
    const early = all(first!);
    await new Promise((resolve) => setTimeout(resolve, 5));
    // Nobody has come for the second copy yet.
    expect(asked).toEqual([]);
    expect(await Promise.all([early, all(second!)])).toEqual([
      [0, 1, 2, 3, 4],
      [0, 1, 2, 3, 4],
    ]);
  });

  test('go on without one who has enough, and end when nobody is left', async () => {
    const asked: number[] = [];
    const [first, second] = shareFrames(counted(100, asked), 2);
    expect(await Promise.all([all(first!, 2), all(second!, 4)])).toEqual([
      [0, 1],
      [0, 1, 2, 3],
    ]);
    expect(asked).toEqual([0, 1, 2, 3]);
  });

  test('are missed by all where one cannot be read', async () => {
    const broken = (async function* () {
      yield await Promise.resolve(0);
      throw new Error('The frame is damaged.');
    })();
    const [first, second] = shareFrames(broken, 2);
    const ends = await Promise.allSettled([all(first!), all(second!)]);
    expect(ends.map(({ status }) => status)).toEqual(['rejected', 'rejected']);
  });
});

describe('a take with each thing in a file of its own', () => {
  const cloths = ['awning', 'hem'].map((id) => ({ id, name: id, mesh: TRIANGLE }));
  async function* frames(): AsyncGenerator<HandedFrame> {
    for (let frame = 1; frame <= 3; frame++) {
      const own = (lift: number) => TRIANGLE.positions.map((value, i) => (i % 3 === 1 ? value + lift * frame : value));
      yield await Promise.resolve({ frame, positions: [own(0.1), own(2)] });
    }
  }

  test.each(CACHE_FORMATS.filter(({ oneFile }) => oneFile).map((format) => [format.id, format] as const))(
    'as %s',
    async (ending, format) => {
      const files = new MemoryFiles();
      await writeApart(format, { cloths, frames: frames(), frameRate: 24, stem: 'NF020' }, files);
      expect(files.paths.sort()).toEqual([`NF020-awning.${ending}`, `NF020-hem.${ending}`]);
      for (const [i, path] of files.paths.sort().entries()) {
        const { parts } = await readMeshFile(path, files.bytes(path));
        expect(parts.map(({ name }) => name)).toEqual([cloths[i]!.name]);
        const { targets } = parts[0]!.mesh.motion!;
        // From where it was in the first frame.
        expect(targets!.at(-1)![1]!).toBeCloseTo([0.2, 4][i]!, 5);
      }
    },
  );

  test('says what goes wrong once all have ended', async () => {
    let open = 0;
    const format = {
      oneFile: true,
      write: async ({ cloths: [cloth], frames: own }) => {
        open++;
        try {
          for await (const { frame } of own)
            if (cloth!.id === 'hem' && frame === 2) throw new Error('The disk is full.');
        } finally {
          open--;
        }
      },
    } as Pick<CacheFormat, 'write' | 'oneFile'> as CacheFormat;
    const written = writeApart(format, { cloths, frames: frames(), frameRate: 24, stem: 'NF020' }, new MemoryFiles());
    await expect(written).rejects.toThrow('The disk is full.');
    expect(open).toBe(0);
  });
});
