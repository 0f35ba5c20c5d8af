import { describe, expect, it } from 'vitest';
import { createAir, createCloth, createShot } from '../shot/create';
import { shapeMesh } from '../shot/shapes';
import { airPressure } from './airPressure';
import { AIR_DENSITY } from './compile';

const SHAPE = { kind: 'sheet', width: 0.6, height: 0.6, spacing: 0.05 } as const;
const mesh = shapeMesh(SHAPE, new Map());

/** The pressure on a sheet that faces up, turned by an angle about x, in a wind of so many m/s straight down, moving up at `rising` m/s. */
function pressures(speed: number, angle: number, rising = 0, fabric: object = {}): Float32Array {
  const down = createAir({ id: 'w', name: 'Wind', rotation: [Math.PI / 2, 0, 0], air: { kind: 'wind', speed } });
  const cloth = createCloth({ id: 'c', name: 'Cloth', shape: SHAPE, fabric: { airAcross: 1.2, ...fabric } });
  const shot = createShot({ name: 'Pressed', things: [cloth, down] });
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const positions = mesh.positions.map((value, i) => {
    const z = mesh.positions[i - (i % 3) + 2]!;
    return i % 3 === 0 ? value : i % 3 === 1 ? -s * z : c * z;
  });
  const before = positions.map((value, i) => (i % 3 === 1 ? value - rising / shot.frameRate : value));
  return airPressure(shot, new Map(), 1, [{ id: 'c', positions, before: rising === 0 ? null : before }]).get('c')!;
}

describe('the pressure of air on cloth', () => {
  it.each([
    [5, 0, 0],
    [5, Math.PI / 3, 0],
    [5, Math.PI / 2, 0],
    [5, 0, 3],
    [0, 0, 2],
  ])('in a wind of %d m/s at %d rad, rising at %d m/s, is as the drag law says', (speed, angle, rising) => {
    const wanted = 0.5 * AIR_DENSITY * 1.2 * (speed + rising) ** 2 * Math.cos(angle);
    for (const found of pressures(speed, angle, rising)) expect(found).toBeCloseTo(wanted, 3);
  });

  it('is none without drag, and of other cloth than the shot has nothing is told', () => {
    expect(Math.max(...pressures(5, 0, 0, { airAcross: 0 }))).toBe(0);
    const shot = createShot({ name: 'Empty', things: [createCloth({ id: 'c', name: 'Cloth', shape: SHAPE })] });
    const other = [
      { id: 'gone', positions: mesh.positions, before: null },
      { id: 'c', positions: new Float32Array(9), before: null },
    ];
    expect(airPressure(shot, new Map(), 1, other).size).toBe(0);
  });

  it('falls off behind cloth that stands in the wind, where it casts a shadow', () => {
    const wind = createAir({
      id: 'w',
      name: 'Wind',
      air: { kind: 'wind', speed: 6, shadow: 1, shadowReach: 2 } as never,
    });
    const sheets = [0, 0.3].map((x, i) =>
      createCloth({ id: `c${i}`, name: `Cloth ${i}`, shape: SHAPE, position: [x, 1, 0] }),
    );
    const shot = createShot({ name: 'Shadow', things: [...sheets, wind] });
    // Upright, one behind the other along z, in which it blows.
    const upright = (z: number) =>
      mesh.positions.map((_, i) => [mesh.positions[i - (i % 3)]!, 1 + mesh.positions[i - (i % 3) + 2]!, z][i % 3]!);
    const found = airPressure(shot, new Map(), 1, [
      { id: 'c0', positions: upright(0), before: null },
      { id: 'c1', positions: upright(0.3), before: null },
    ]);
    const [first, second] = ['c0', 'c1'].map((id) => found.get(id)![84]!);
    // In their middles; at their borders wind goes round.
    expect(Math.min(first!, second!)).toBeLessThan(0.05 * Math.max(first!, second!));
  });
});
