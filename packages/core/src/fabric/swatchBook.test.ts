import { describe, expect, it } from 'vitest';
import { SWATCH_BOOK } from './swatchBook';

// Typical ranges: weight g/m2, thickness mm, bend uN.m, stretch N/m, shear N/m.
const RANGES: Record<string, [number, number][]> = {
  'silk-chiffon': [[30, 60], [0.1, 0.2], [0.5, 2], [1500, 6000], [5, 20]],
  'silk-habotai': [[35, 60], [0.08, 0.15], [1, 4], [3000, 15000], [15, 40]],
  'silk-organza': [[25, 45], [0.08, 0.15], [3, 10], [4000, 15000], [30, 90]],
  'cotton-poplin': [[100, 130], [0.2, 0.35], [5, 15], [2000, 10000], [40, 120]],
  'cotton-jersey': [[140, 200], [0.5, 0.9], [2, 6], [250, 2000], [20, 50]],
  'linen-mid': [[150, 220], [0.3, 0.5], [10, 30], [3000, 12000], [30, 90]],
  'wool-suiting': [[180, 280], [0.4, 0.7], [7, 15], [1600, 5000], [25, 60]],
  'wool-coating': [[400, 600], [1.5, 3], [30, 100], [1500, 5000], [40, 120]],
  'terry-towelling': [[350, 500], [2, 3.5], [15, 40], [1000, 4000], [30, 80]],
  denim: [[350, 450], [0.7, 1], [40, 120], [5000, 20000], [80, 250]],
  'waxed-cotton': [[250, 400], [0.4, 0.6], [60, 200], [5000, 20000], [80, 300]],
  canvas: [[350, 500], [0.6, 0.9], [80, 300], [8000, 30000], [80, 300]],
  hessian: [[250, 350], [0.8, 1.2], [30, 120], [4000, 15000], [10, 30]],
  'ripstop-nylon': [[40, 70], [0.07, 0.12], [2, 8], [5000, 20000], [20, 80]],
  'garment-leather': [[450, 700], [0.7, 1], [60, 300], [2000, 10000], [200, 1000]],
  'rubber-sheet': [[250, 500], [0.25, 0.5], [5, 40], [250, 1000], [100, 400]],
}; // prettier-ignore

describe('swatch book', () => {
  it('has a range for every card and a card for every range', () => {
    expect(SWATCH_BOOK.map((card) => card.id).sort()).toEqual(Object.keys(RANGES).sort());
  });

  it.each(SWATCH_BOOK.map((card) => [card.name, card] as const))('%s lies in its typical range', (_, card) => {
    const [weight, thickness, bend, stretch, shear] = RANGES[card.id]!;
    const inside = (value: number, [low, high]: [number, number]) => {
      expect(value).toBeGreaterThanOrEqual(low * (1 - 1e-9));
      expect(value).toBeLessThanOrEqual(high * (1 + 1e-9));
    };
    inside(card.fabric.weight * 1000, weight!);
    inside(card.fabric.thickness * 1000, thickness!);
    for (const value of [card.fabric.bendWarp, card.fabric.bendWeft]) inside(value * 1e6, bend!);
    for (const value of [card.fabric.stretchWarp, card.fabric.stretchWeft]) inside(value, stretch!);
    inside(card.fabric.shear, shear!);
  });
});
