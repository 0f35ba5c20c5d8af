/// <reference types="vite/types/importMeta.d.ts" />
import * as Collider from '@lumbra/kernel/layouts/contact/collider';
import { expect, test } from 'vitest';
import { Records } from './records';

const LAYOUTS = import.meta.glob<Record<string, number>>('../../../kernel/layouts/**/*.ts', { eager: true });
/** Not where a field lies: sizes, values of fields, and second names of what is the fourth number of points of several kinds. */
const NO_FIELD = /BYTES$|^(KIND|FLAG|OWNS)_|^(LANE|VECTOR|PASSES|OPEN|TRUST|DENSE|CORNERS)$/;

test('no two fields of a record lie in the same place, and all lie in it', () => {
  expect(Object.keys(LAYOUTS).length).toBeGreaterThan(30);
  for (const [file, layout] of Object.entries(LAYOUTS)) {
    const fields = Object.entries(layout).filter(([name]) => !NO_FIELD.test(name));
    const places = fields.map(([, place]) => place);
    expect(new Set(places).size, file).toBe(places.length);
    const bytes = layout['BYTES'] ?? layout['FACE_BYTES']!;
    for (const [name, place] of fields) {
      expect(place % 4, `${file} ${name}`).toBe(0);
      expect(place, `${file} ${name}`).toBeLessThan(bytes);
    }
  }
});

test('what is set in one record is read there, and nowhere else', () => {
  const records = new Records(new ArrayBuffer(64 + 3 * Collider.BYTES), 64, Collider.BYTES, 3);
  records.setWords(Collider, { KIND: Collider.KIND_CAPSULE, MESH: 4096 }, 1);
  records.setFloats(1, Collider.CENTRE, [1, 2, 3]);
  records.setInteger(1, Collider.SIDE, -1);
  expect(records.integer(1, Collider.KIND)).toBe(Collider.KIND_CAPSULE);
  expect(records.integer(1, Collider.MESH)).toBe(4096);
  expect(records.float(1, Collider.CENTRE + 8)).toBe(3);
  expect(records.integer(1, Collider.SIDE) | 0).toBe(-1);
  for (const other of [0, 2]) {
    for (let field = 0; field < Collider.BYTES; field += 4) expect(records.integer(other, field)).toBe(0);
  }
});
