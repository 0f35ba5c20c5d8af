import { describe, expect, test } from 'vitest';
import { sheet } from '../mesh/shapes/sheet';
import { compareTakes } from './compareTakes';
import { CACHE_FORMATS } from './formats';
import { MemoryFiles } from './formats/fileSink';
import type { HandedTake } from './formats/format';
import { readMeshFile, takeOfMeshes } from './import';

const MESHES = [sheet({ width: 0.4, height: 0.3, spacing: 0.1 }), sheet({ width: 0.6, height: 0.3, spacing: 0.1 })];

/** Two sheets that sink by 1 cm a frame, with what `also` adds to a coordinate. */
function take(frames: number, also: (cloth: number, frame: number, at: number) => number = () => 0): HandedTake {
  return {
    cloths: MESHES.map((mesh, i) => ({ id: `c${i}`, name: `Sheet ${i}`, mesh })),
    frameRate: 24,
    stem: 'x',
    frames: (async function* () {
      for (let frame = 1; frame <= frames; frame++) {
        const positions = MESHES.map((mesh, i) =>
          mesh.positions.map((value, at) => value - (at % 3 === 1 ? 0.01 * frame : 0) + also(i, frame, at)),
        );
        yield await Promise.resolve({ frame, positions });
      }
    })(),
  };
}

describe('comparing two motions', () => {
  test('says how far apart the same points are at most, in which frame and where, and on average', async () => {
    const other = take(5, (cloth, frame, at) => (cloth === 1 && frame === 4 && at === 7 ? 0.003 : 0));
    const { cloths, compared, frames } = await compareTakes(take(5), other);
    expect([compared, frames]).toEqual([5, [5, 5]]);
    expect(cloths[0]).toMatchObject({ id: 'c0', greatest: 0, mean: 0 });
    expect(cloths[1]).toMatchObject({ name: 'Sheet 1', frame: 4 });
    expect(cloths[1]!.greatest).toBeCloseTo(0.003, 6);
    expect(cloths[1]!.place[1]).toBeCloseTo(MESHES[1]!.positions[7]! - 0.04, 6);
    expect(cloths[1]!.mean).toBeCloseTo(0.003 / ((MESHES[1]!.positions.length / 3) * 5), 9);
  });

  test('goes as far as both go, and counts the frames of both', async () => {
    const { compared, frames } = await compareTakes(take(3), take(7));
    expect([compared, frames]).toEqual([3, [3, 7]]);
  });

  test.each(CACHE_FORMATS.filter(({ oneFile }) => oneFile).map((format) => [format.id, format] as const))(
    'finds what was written as %s and read back within a micrometre',
    async (id, format) => {
      const files = new MemoryFiles();
      await format.write(take(6), files);
      const { parts } = await readMeshFile(`x.${id}`, files.bytes(`x.${id}`));
      const { cloths, compared } = await compareTakes(take(6), takeOfMeshes(parts.reverse(), 24, 'x'));
      expect(compared).toBe(6);
      for (const { greatest } of cloths) expect(greatest).toBeLessThan(1e-6);
    },
  );

  test('refuses another mesh, and what cannot be known, with a sentence', async () => {
    const other = take(2);
    const renamed = (names: string[]) => ({
      ...take(2),
      cloths: other.cloths.map((cloth, i) => ({ ...cloth, name: names[i]! })),
    });
    await expect(compareTakes(take(2), renamed(['Sheet 1', 'Sheet 0']))).rejects.toThrow(
      /^Sheet 0 has 20 points and 24 faces here, and 28 points and 36 faces in the cache: it is another mesh\.$/,
    );
    // Other names are no matter where the meshes tell which is which.
    expect((await compareTakes(take(2), renamed(['one', 'two']))).compared).toBe(2);
    const twins = { ...take(2), cloths: [0, 1].map((i) => ({ ...other.cloths[0]!, name: `twin ${i}` })) };
    await expect(compareTakes(take(2), twins)).rejects.toThrow(/several meshes/);
    await expect(compareTakes(take(2), { ...take(2), cloths: [] })).rejects.toThrow(/no Sheet 0, and no mesh/);
  });
});
