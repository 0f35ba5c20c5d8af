import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sheet } from '../../mesh/shapes/sheet';
import { readMeshFile } from '../import';
import { CACHE_FORMATS, MemoryFiles, type HandedTake } from '.';
import { writePly } from './plySequence';

const mesh = sheet({ width: 0.3, height: 0.2, spacing: 0.1 });
const moved = (frame: number) => mesh.positions.map((value, i) => (i % 3 === 1 ? frame * 0.1 : value));

function take(frames: readonly number[]): HandedTake {
  return {
    cloths: [
      { id: 'sail', name: 'Sail', mesh },
      { id: 'strap', name: 'Strap', mesh },
    ],
    frames: (async function* () {
      for (const frame of frames) yield await Promise.resolve({ frame, positions: [moved(frame), moved(-frame)] });
    })(),
    frameRate: 24,
    stem: 'NF120',
  };
}

describe('formats of motion', () => {
  it('have ids and labels of their own', () => {
    expect(new Set(CACHE_FORMATS.map(({ id }) => id)).size).toBe(CACHE_FORMATS.length);
    expect(new Set(CACHE_FORMATS.map(({ label }) => label)).size).toBe(CACHE_FORMATS.length);
  });

  it.each(CACHE_FORMATS.map((format) => [format.id, format] as const))(
    '%s: what is written is read again, every frame of every cloth',
    async (id, format) => {
      const files = new MemoryFiles();
      await format.write(take([-1, 0, 12]), files);
      expect(files.paths).toEqual(
        format.oneFile
          ? [`NF120.${id}`]
          : ['-0001', '0000', '0012'].flatMap((frame) => [`sail/${frame}.${id}`, `strap/${frame}.${id}`]),
      );
      for (const path of files.paths) {
        const { parts } = await readMeshFile(path, files.bytes(path));
        const frame = Number(/(-?\d+)\.\w+$/.exec(path)?.[1]);
        expect(parts[0]!.mesh.triangles).toHaveLength(mesh.triangles.length);
        if (format.oneFile) expect(parts.map(({ name }) => name)).toEqual(['Sail', 'Strap']);
        else {
          const wanted = path.startsWith('sail') ? moved(frame) : moved(-frame);
          const read = parts[0]!.mesh;
          // Some formats keep faces only: corner by corner all are the same.
          mesh.triangles.forEach((point, corner) => {
            for (const axis of [0, 1, 2])
              expect(read.positions[read.triangles[corner]! * 3 + axis]).toBeCloseTo(wanted[point * 3 + axis]!, 5);
          });
        }
      }
    },
  );

  it('ply keeps every place exactly', () => {
    fc.assert(
      fc.property(fc.float32Array({ minLength: 36, maxLength: 36, noNaN: true }), (positions) => {
        const bytes = writePly(mesh, positions);
        const text = new TextDecoder('latin1').decode(bytes);
        const at = text.indexOf('end_header\n') + 'end_header\n'.length;
        const view = new DataView(bytes.buffer);
        for (let point = 0; point < 12; point++) {
          for (let axis = 0; axis < 3; axis++)
            expect(view.getFloat32(at + (point * 8 + axis) * 4, true)).toBe(positions[point * 3 + axis]);
        }
      }),
      { numRuns: 50 },
    );
  });
});
