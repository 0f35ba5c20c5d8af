import { sheet } from '@lumbra/core';
import { describe, expect, it } from 'vitest';
import type { Brush } from '../../stores/selection';
import { PaintStroke } from './paintStroke';

const mesh = sheet({ width: 1, height: 1, spacing: 0.05 });
const count = mesh.positions.length / 3;
const BRUSH: Brush = {
  unit: 'mm',
  radius: 0.2,
  pixels: 40,
  strength: 1,
  falloff: 0.5,
  value: 0.6,
  mode: 'add',
  heedsPen: true,
};

function painted(brush: Partial<Brush>, start: number, path: [number, number, number][]): Uint8Array {
  const stroke = new PaintStroke(mesh, new Uint8Array(count).fill(start), { ...BRUSH, ...brush });
  for (const place of path) stroke.to(place, mesh.positions, BRUSH.radius);
  return stroke.values;
}
/** How far each point is from a place. */
const away = (i: number, [x, y, z]: [number, number, number]) =>
  Math.hypot(mesh.positions[i * 3]! - x, mesh.positions[i * 3 + 1]! - y, mesh.positions[i * 3 + 2]! - z);
const all = Array.from({ length: count }, (_, i) => i);

describe('a stroke of the brush', () => {
  it('is full within its hard part, soft to its rim, and nothing beyond', () => {
    const values = painted({}, 0, [[0, 0, 0]]);
    for (const i of all) {
      const distance = away(i, [0, 0, 0]);
      if (distance < 0.1001) expect(values[i]).toBe(255);
      else if (distance > 0.1999) expect(values[i]).toBe(0);
      else expect(values[i]).toBeLessThan(255);
    }
    const ring = all.filter((i) => Math.abs(away(i, [0, 0, 0]) - 0.15) < 1e-6);
    for (const i of ring) expect(Math.abs(values[i]! - 127.5)).toBeLessThan(2);
  });

  it.each([
    ['add', 100, 255],
    ['take away', 100, 0],
    ['set', 100, 153],
  ] as const)('%s goes from %d to %d', (mode, start, end) => {
    expect(painted({ mode }, start, [[0, 0, 0]])[all.find((i) => away(i, [0, 0, 0]) < 0.01)!]).toBe(end);
  });

  it('does as much as its strength in one pass, and arrives in many', () => {
    const middle = all.find((i) => away(i, [0, 0, 0]) < 0.01)!;
    expect(painted({ strength: 0.5 }, 0, [[0, 0, 0]])[middle]).toBe(128);
    const rubbed = Array.from({ length: 60 }, () => [0, 0, 0] as [number, number, number]);
    expect(painted({ strength: 0.1, mode: 'set' }, 0, rubbed)[middle]).toBe(153);
  });

  it('does the more the harder it is pressed, evenly between two places', () => {
    const middle = all.find((i) => away(i, [0, 0, 0]) < 0.01)!;
    const pressed = (...pressures: number[]) => {
      const stroke = new PaintStroke(mesh, new Uint8Array(count), BRUSH);
      const places = [[0, 0, 0] as const, [0.3, 0, 0] as const];
      pressures.forEach((pressure, i) => stroke.to(places[i]!, mesh.positions, BRUSH.radius, pressure));
      return stroke.values;
    };
    expect(pressed(0.25)[middle]).toBe(64);
    expect(pressed(1)[middle]).toBe(255);
    expect(pressed(0).every((value) => value === 0)).toBe(true);
    // From nothing to full: what the beginning left light grows dark towards the end.
    const grown = pressed(0, 1);
    const along = [0.1, 0.2, 0.3].map((x) => grown[all.find((i) => away(i, [x, 0, 0]) < 0.01)!]!);
    expect(along[0]).toBeLessThan(along[1]!);
    expect(along[2]).toBe(255);
  });

  it('leaves no gaps when the pointer is fast', () => {
    const values = painted({}, 0, [
      [-0.45, 0, 0],
      [0.45, 0, 0],
    ]);
    const along = all.filter((i) => Math.abs(mesh.positions[i * 3 + 2]!) < 0.01);
    for (const i of along) expect(values[i]).toBeGreaterThan(200);
  });

  it('blurs towards the mean of what is around, and keeps an even mask', () => {
    expect(painted({ mode: 'blur' }, 90, [[0, 0, 0]]).every((value) => value === 90)).toBe(true);
    const spot = new Uint8Array(count);
    const middle = all.find((i) => away(i, [0, 0, 0]) < 0.01)!;
    spot[middle] = 255;
    const stroke = new PaintStroke(mesh, spot, { ...BRUSH, mode: 'blur' });
    stroke.to([0, 0, 0], mesh.positions, 0.2);
    expect(stroke.values[middle]).toBeLessThan(100);
    expect(stroke.values[middle + 1]).toBeGreaterThan(0);
  });
});
