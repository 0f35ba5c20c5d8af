import { describe, expect, it } from 'vitest';
import type { Vector3 } from '../math/vector';
import { createCloth, createCollider, createShot } from '../shot/create';
import type { Shot } from '../shot/schema';
import { BakeRun } from './bakeRun';
import { compile } from './compile';
import { runOrigin } from './nearOrigin';

/** Two sheets that fall on a crate which slides along, about a place of the world. */
function layered([x, y, z]: Vector3): Shot {
  const sheet = (id: string, height: number) =>
    createCloth({
      ...{ id, name: id, card: 'linen-mid', position: [x, y + height, z] },
      shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.04 },
    });
  const key = (frame: number, value: number) => ({ frame, value, ease: 'smooth' as const });
  return createShot({
    ...{ id: 'far', name: 'Far', lastFrame: 16 },
    things: [
      sheet('under', 0.21),
      sheet('over', 0.23),
      createCollider({
        ...{ id: 'crate', name: 'Crate', position: [x, y + 0.1, z], friction: 0.6 },
        shape: { kind: 'box', width: 0.2, height: 0.2, depth: 0.2 },
        keys: [{ number: 'position.x', knots: [key(6, x), key(16, x + 0.1)] }],
      }),
    ],
  });
}

function baked(shot: Shot) {
  const run = new BakeRun(shot, new Map());
  return Array.from({ length: 16 }, () => run.next());
}

describe('a run far from the origin', () => {
  it('gives what the same run gives at the origin', () => {
    const away: Vector3 = [900, 40, -700];
    const [near, far] = [baked(layered([0, 0, 0])), baked(layered(away))];
    far.forEach(({ positions, stats }, frame) => {
      expect(stats).toMatchObject({ crossings: 0, kept: true });
      positions.forEach((cloth, c) => {
        const there = near[frame]!.positions[c]!;
        // The frames themselves are in single precision, which is 0.06 mm fine at a kilometre.
        cloth.forEach((value, i) => expect(Math.abs(value - away[i % 3]! - there[i]!)).toBeLessThan(2e-4));
      });
    });
  });

  it('goes on from a saved state bit for bit', () => {
    const shot = layered([900, 0, 0]);
    const whole = baked(shot).map(({ stats }) => stats.fingerprint);
    const first = new BakeRun(shot, new Map());
    for (let frame = 0; frame < 8; frame++) first.next();
    const second = new BakeRun(shot, new Map(), first.checkpoint());
    const rest = Array.from({ length: 8 }, () => second.next().stats.fingerprint);
    expect(rest).toEqual(whole.slice(8));
  });

  it('is counted from the origin itself where cloth is near it', () => {
    expect(runOrigin([Float32Array.of(-15, 3, 9)])).toEqual([0, 0, 0]);
    expect(runOrigin([Float32Array.of(-1, 3, 1000), Float32Array.of(1, 4, 1003)])).toEqual([0, 0, 1002]);
    expect(compile(layered([0, 0, 0]), new Map()).origin).toBeUndefined();
  });
});
