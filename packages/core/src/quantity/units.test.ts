import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatQuantity, parseQuantity, UNITS, type Unit } from './units';

const read = (text: string, unit: Unit) => {
  const parsed = parseQuantity(text, unit);
  return parsed.ok ? parsed.value : parsed.reason;
};

describe('typed quantities', () => {
  it('reads units, feet and inches, commas and a true minus', () => {
    expect(read('3cm', 'mm')).toBeCloseTo(0.03, 12);
    expect(read('0.4 m', 'mm')).toBeCloseTo(0.4, 12);
    expect(read(`1'2"`, 'm')).toBeCloseTo(0.3556, 12);
    expect(read('12', 'mm')).toBeCloseTo(0.012, 12);
    expect(read('-2,5', 'm')).toBeCloseTo(-2.5, 12);
    expect(read('−4', 'm/s')).toBe(-4);
    expect(read('250 gsm', 'g/m²')).toBeCloseTo(0.25, 12);
    expect(read('86 µN·m', 'µN·m')).toBeCloseTo(86e-6, 12);
    expect(read('1e3', 'N/m')).toBe(1000);
  });

  it.each(['NaN', 'abc', '', '3 parsecs', '1 2', 'Infinity', '--4', '1e999'])('refuses %j with a reason', (text) => {
    expect(parseQuantity(text, 'mm')).toMatchObject({ ok: false, reason: expect.stringMatching(/\.$/) });
  });

  it('refuses a unit that measures something else', () => {
    expect(read('3 kg/m²', 'mm')).toMatch(/does not measure/);
  });

  it('reads back what it shows, to four figures', () => {
    const units = Object.keys(UNITS) as Unit[];
    fc.assert(
      fc.property(fc.constantFrom(...units), fc.double({ min: -9e5, max: 9e5, noNaN: true }), (unit, shown) => {
        fc.pre(Math.abs(shown) > 1e-2);
        const value = shown * UNITS[unit].inSI;
        const back = parseQuantity(formatQuantity(value, unit), unit);
        expect(back.ok && Math.abs(back.value - value) <= Math.abs(value) * 1e-3).toBe(true);
      }),
    );
  });
});
