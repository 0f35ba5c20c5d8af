import { describe, expect, it } from 'vitest';
import { sheet } from '../mesh/shapes/sheet';
import { CACHE_FORMATS, MemoryFiles, type HandedFrame, type HandedTake } from './formats';
import { HAND_DEFAULTS, handFrame, handTake, spaceOf, type HandOptions } from './handOptions';
import { readMeshFile } from './import';

const mesh = sheet({ width: 0.2, height: 0.1, spacing: 0.1 });
const format = (id: string) => CACHE_FORMATS.find((one) => one.id === id)!;
const cloths = [
  { id: 'a', name: 'A', mesh },
  { id: 'b', name: 'B', mesh },
];

function take(frames: readonly number[]): HandedTake {
  const all = async function* (): AsyncGenerator<HandedFrame> {
    for (const frame of frames) {
      const own = mesh.positions.map((value, i) => (i % 3 === 1 ? value + 1 : value + frame));
      yield await Promise.resolve({ frame, positions: [own, own] });
    }
  };
  return { cloths, frames: all(), frameRate: 24, stem: 'S' };
}

async function framesOf(options: Partial<HandOptions>, id = 'obj'): Promise<HandedFrame[]> {
  const found: HandedFrame[] = [];
  for await (const frame of handTake(take([3, 4, 5, 6, 8, 9]), { ...HAND_DEFAULTS, ...options }, format(id)).frames)
    found.push(frame);
  return found;
}

describe('how cloth is handed over', () => {
  it.each<[Partial<HandOptions>, number[]]>([
    [{}, [3, 4, 5, 6, 8, 9]],
    [{ first: 4, last: 8 }, [4, 5, 6, 8]],
    [{ step: 2 }, [3, 5, 9]],
    [{ first: 4, step: 2 }, [4, 6, 8]],
  ])('frames %o', async (options, wanted) => {
    expect((await framesOf(options)).map(({ frame }) => frame)).toEqual(wanted);
  });

  it.each(CACHE_FORMATS.map((one) => [one.id, one] as const))(
    '%s writes nothing where no frame is in the range',
    async (_, one) => {
      const files = new MemoryFiles();
      const none = handTake(take([3, 4]), { ...HAND_DEFAULTS, first: 20 }, one);
      await expect(Promise.resolve(one.write(none, files))).rejects.toThrow(/None of the frames/);
      expect(files.paths).toEqual([]);
    },
  );

  it('asks for no frame after the last that is wanted', async () => {
    const asked: number[] = [];
    const whole = take([3, 4, 5, 6, 8, 9]);
    const counted = async function* () {
      for await (const frame of whole.frames) {
        asked.push(frame.frame);
        yield frame;
      }
    };
    const handed = handTake({ ...whole, frames: counted() }, { ...HAND_DEFAULTS, first: 4, last: 5 }, format('obj'));
    for await (const frame of handed.frames) expect(frame.frame).toBeLessThanOrEqual(5);
    expect(asked).toEqual([3, 4, 5]);
  });

  it('turns and scales places, and what it says fits what it writes', async () => {
    const [plain] = await framesOf({ last: 3 });
    const [turned] = await framesOf({ last: 3, unit: 'cm', up: 'z' });
    for (let i = 0; i < plain!.positions[0]!.length; i += 3) {
      const [x, y, z] = plain!.positions[0]!.subarray(i, i + 3);
      expect(turned!.positions[0]![i]).toBeCloseTo(x! * 100, 4);
      // What was up is z; the turn keeps right-handed axes.
      expect(turned!.positions[0]![i + 1]).toBeCloseTo(-z! * 100, 4);
      expect(turned!.positions[0]![i + 2]).toBeCloseTo(y! * 100, 4);
    }
    expect(spaceOf({ unit: 'cm', up: 'z' }, format('usda'))).toEqual({ space: { metresPerUnit: 0.01, up: 'z' } });
    const bytes = await format('usda').writeFrame(
      { cloths, frameRate: 24, stem: 'S', ...spaceOf({ unit: 'cm', up: 'z' }, format('usda')) },
      turned!,
    );
    expect(new TextDecoder().decode(bytes)).toMatch(/metersPerUnit = 0\.01[^]*upAxis = "Z"/);
  });

  it('leaves GLB in metres with y up', () => {
    const frame = { frame: 1, positions: [mesh.positions] };
    expect(handFrame(frame, { unit: 'mm', up: 'z' }, format('glb'))).toBe(frame);
    expect(spaceOf({ unit: 'mm', up: 'z' }, format('glb'))).toEqual({});
  });

  it.each(CACHE_FORMATS.map((one) => [one.id, one] as const))(
    '%s: one frame of all cloths is one file, which is read again',
    async (id, one) => {
      const [frame] = await framesOf({ last: 3 });
      const bytes = await one.writeFrame({ cloths, frameRate: 24, stem: 'S' }, frame!);
      const { parts } = await readMeshFile(`S-0003.${id}`, bytes);
      expect(parts.reduce((sum, part) => sum + part.mesh.triangles.length, 0)).toBe(2 * mesh.triangles.length);
      const heights = parts.flatMap((part) => [...part.mesh.positions].filter((_, i) => i % 3 === 1));
      expect(Math.max(...heights)).toBeCloseTo(Math.max(...frame!.positions[0]!.filter((_, i) => i % 3 === 1)), 5);
    },
  );
});
