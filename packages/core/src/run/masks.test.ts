import { describe, expect, it } from 'vitest';
import { SCALED_NUMBERS } from '../fabric/faceScales';
import { createAir, createCollider, createPinSet, createTie } from '../shot/create';
import { writeMask } from '../shot/masks';
import type { Cloth, Shot } from '../shot/schema';
import { compile } from './compile';
import { apart, frames, keyed, mesh, point, shot, top } from './heldShots';

const count = mesh.positions.length / 3;
const even = (value: number) => ({ id: 'm', name: 'Even', values: writeMask(new Uint8Array(count).fill(value)) });
const ramp = (given: object) => ({
  id: 'r',
  name: 'Ramp',
  ramp: { kind: 'straight' as const, from: [0, 0] as [number, number], to: [1, 0] as [number, number], ...given },
});

describe('a mask on a number of the fabric', () => {
  const wind = createAir({ name: 'Wind', rotation: [0.3, 0.4, 0], air: { kind: 'wind', speed: 6 } });
  /** A sheet that falls onto a box in the wind: every number matters. It hangs from nothing, for what hangs is held by what no mask scales. */
  const busy = (given: object) => {
    const box = createCollider({
      name: 'Box',
      shape: { kind: 'box', width: 0.5, height: 0.2, depth: 0.5 },
      position: [0.02, 0.89, 0.05],
    });
    return shot(given, [box, wind]);
  };
  const fabric = {
    ...(shot({}).things[0] as Cloth).fabric,
    ...{ pressure: 4, restWarp: 1.01, restWeft: 0.99, thickness: 0.004, friction: 0.9, airAlong: 0.4 },
    ...{ curlWarp: 5, curlWeft: -4, creaseMemory: 1, creaseAngle: Math.PI / 180, creaseTime: 0 },
  };

  it.each(SCALED_NUMBERS)('%s: an even mask is the same as a smaller number', (name) => {
    const share = 51 / 255;
    const isRest = name === 'restWarp' || name === 'restWeft';
    const smaller = { ...fabric, [name]: isRest ? 1 + (fabric[name] - 1) * share : fabric[name] * share };
    const end = (given: object) => frames(busy(given), 3).at(-1)!.positions[0]!;
    const masked = end({ fabric, masks: [even(51)], fabricMasks: { [name]: 'm' } });
    const [changed, unchanged] = [end({ fabric: smaller }), end({ fabric })];
    const most = (a: Float32Array, b: Float32Array) =>
      Math.max(...Array.from({ length: count }, (_, i) => apart(point(a, i), point(b, i))));
    // The number must matter at all, or this would show nothing.
    expect(most(changed, unchanged)).toBeGreaterThan(2e-5);
    expect(most(masked, changed)).toBeLessThan(0.1 * most(changed, unchanged));
  });

  it('lets one half slide off a slope and keeps the other', () => {
    const slope = createCollider({
      name: 'Slope',
      shape: { kind: 'box', width: 3, height: 0.1, depth: 3 },
      rotation: [0.25, 0, 0],
      friction: 1,
    });
    const values = Uint8Array.from({ length: count }, (_, i) => (mesh.material![i * 2]! > 0.3 ? 0 : 255));
    const lying = shot(
      {
        position: [0, 0.06, 0],
        rotation: [0.25, 0, 0],
        fabric: { ...fabric, friction: 0.9, pressure: 0, restWarp: 1, restWeft: 1, damping: 0 },
        masks: [{ id: 'm', name: 'Right', values: writeMask(values) }],
        fabricMasks: { friction: 'm', shear: 'm' },
      },
      [slope],
    );
    const all = frames(lying, 20);
    const slid = (i: number) => apart(point(all[0]!.positions[0]!, i), point(all.at(-1)!.positions[0]!, i));
    expect(slid(top[0]!)).toBeLessThan(0.01);
    expect(slid(top.at(-1)!)).toBeGreaterThan(0.1);
  });
});

describe('a ramp whose phase is keyed', () => {
  const travelling = (given: object) =>
    keyed(shot({ masks: [ramp({ to: [0.2, 0] })], ...given }), 'c', 'mask:r.phase', [
      [1, 6],
      [20, -1],
    ]);

  it('lets pins go one after the other', () => {
    const baked = frames(travelling({ pinSets: [createPinSet({ name: 'Top', points: top, mask: 'r' })] }), 24);
    const fallen = (frame: number) => top.filter((i) => point(baked[frame - 1]!.positions[0]!, i)[1] < 0.97).length;
    expect(fallen(3)).toBe(0);
    expect(fallen(15)).toBeGreaterThan(2);
    expect(fallen(15)).toBeLessThan(top.length - 2);
    expect(fallen(24)).toBe(top.length);
    // From the far end to the near one.
    expect(point(baked[14]!.positions[0]!, top.at(-1)!)[1]).toBeLessThan(point(baked[14]!.positions[0]!, top[0]!)[1]);
  });

  it('changes the fabric as it goes', () => {
    const given = {
      fabric: { ...(shot({}).things[0] as Cloth).fabric, restWeft: 0.6 },
      fabricMasks: { restWeft: 'r' },
    };
    const pinSets = [createPinSet({ name: 'Top', points: top })];
    const baked = frames(travelling({ ...given, pinSets }), 24);
    const below = top.map((i) => i + count - top.length);
    const length = (frame: number, i: number) =>
      apart(point(baked[frame - 1]!.positions[0]!, top[i]!), point(baked[frame - 1]!.positions[0]!, below[i]!));
    // Shrunk at first everywhere, at last nowhere.
    expect(length(6, 2)).toBeLessThan(0.3);
    expect(length(24, 2)).toBeGreaterThan(0.38);
  });
});

it('a mask scales the distance that a tie keeps, point by point', () => {
  const rail = createCollider({
    id: 'rail',
    name: 'Rail',
    shape: { kind: 'box', width: 2, height: 0.04, depth: 0.4 },
    position: [0, 1.04, 0],
    enabled: false,
  });
  const tie = { name: 'T', points: top, to: 'rail', keepsDistance: false, standOff: 0.1, standOffMask: 'r' };
  const positions = frames(shot({ masks: [ramp({})], ties: [createTie(tie)] }, [rail]), 6).at(-1)!.positions[0]!;
  top.forEach((i) => {
    const share = 1 - mesh.material![i * 2]! / 0.6;
    expect(1.02 - point(positions, i)[1]).toBeCloseTo(0.1 * share, 4);
  });
});

it('points that a mask holds fully are carried always, unless the strength is keyed', () => {
  const pinSets = [createPinSet({ id: 'p', name: 'Top', points: top, mask: 'r' })];
  const masks = [ramp({ from: [0.5, 0] })];
  const carried = (of: Shot) => compile(of, new Map()).cloths[0]!.holds![0]!.carried;
  const left = top.filter((i) => mesh.material![i * 2]! < 0.301);
  expect(carried(shot({ pinSets, masks }))).toEqual(left);
  expect(carried(keyed(shot({ pinSets, masks }), 'c', 'hold:p.strength', [[1, 1]]))).toEqual([]);
  expect(carried(keyed(shot({ pinSets, masks }), 'c', 'mask:r.phase', [[1, 0]]))).toEqual([]);
  expect(carried(shot({ pinSets: [{ ...pinSets[0]!, strength: 0.99 }], masks }))).toEqual([]);
});
