import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../../fabric/fabric';
import { rotation, type Vector3 } from '../../math/vector';
import type { Mesh } from '../../mesh/mesh';
import { ball } from '../../mesh/shapes/ball';
import { sheet } from '../../mesh/shapes/sheet';
import { place } from '../../mesh/place';
import { topology } from '../../mesh/topology';
import type { ClothModel, ColliderModel, Model } from '../model';
import { Solver, UnstableError } from '../solver';

const FRAME = 1 / 24;
const STILL: Model['air'] = { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] };
const ground: ColliderModel = {
  id: 'ground',
  kind: 'plane',
  center: [0, 0, 0],
  rotation: rotation([0, 0, 0]),
  clearance: 0.002,
  friction: 0.5,
};

/** A repeatable stream of numbers from 0 to 1. */
function stream(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

function cloth(rest: Mesh, more: Partial<ClothModel> = {}): ClothModel {
  const fabric = fabricSchema.parse({ weight: 0.15, bendWarp: 8e-6, bendWeft: 8e-6 });
  return { id: 'cloth', rest, positions: rest.positions, fabric, held: [], layerDistance: 0.002, ...more };
}

/** Edges through triangles, one against every other, in double: what the solver's own count is held against. */
function bruteCrossings(positions: Float32Array, mesh: Mesh): number {
  const at = (point: number): Vector3 => [positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!];
  const volume = (o: Vector3, a: Vector3, b: Vector3, c: Vector3) => {
    const [x, y, z] = [a, b, c].map((p) => [p[0] - o[0], p[1] - o[1], p[2] - o[2]]) as [number[], number[], number[]];
    return (
      x[0]! * (y[1]! * z[2]! - y[2]! * z[1]!) -
      x[1]! * (y[0]! * z[2]! - y[2]! * z[0]!) +
      x[2]! * (y[0]! * z[1]! - y[1]! * z[0]!)
    );
  };
  const t = topology(mesh);
  let found = 0;
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const ends = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    for (let face = 0; face < mesh.triangles.length; face += 3) {
      const corners = [...mesh.triangles.subarray(face, face + 3)];
      if (corners.some((corner) => ends.includes(corner))) continue;
      const [p, q] = ends.map(at) as [Vector3, Vector3];
      const [a, b, c] = corners.map(at) as [Vector3, Vector3, Vector3];
      if (volume(p, a, b, c) * volume(q, a, b, c) >= 0) continue;
      const sides = [volume(p, q, a, b), volume(p, q, b, c), volume(p, q, c, a)];
      if (sides.every((side) => side > 0) || sides.every((side) => side < 0)) found++;
    }
  }
  return found;
}

describe('counting crossings', () => {
  it('finds as many as looking at every edge and triangle', () => {
    for (const seed of [1, 2, 3]) {
      const next = stream(seed);
      const rest = sheet({ width: 0.2, height: 0.2, spacing: 0.02 });
      const positions = rest.positions.map((x) => x * 0.5 + 0.05 * (next() - 0.5));
      const solver = new Solver({ cloths: [cloth(rest, { positions })], colliders: [], air: STILL });
      const expected = bruteCrossings(positions, rest);
      expect(expected).toBeGreaterThan(50);
      expect(solver.crossings().count).toBe(expected);
    }
  });
});

describe('cloth that starts without crossings', () => {
  /** A small cloth of random size, fabric and attitude, thrown on a random heap of colliders. */
  function randomDrop(seed: number): Model {
    const next = stream(seed);
    const between = (low: number, high: number) => low + (high - low) * next();
    const spacing = between(0.015, 0.03);
    const cells = [0, 1].map(() => Math.floor(between(8, 15)));
    const flat = sheet({ width: cells[0]! * spacing, height: cells[1]! * spacing, spacing });
    const rest = place(flat, {
      position: [0, between(0.35, 0.5), 0],
      rotation: [between(-1.6, 1.6), between(-1.6, 1.6), between(-1.6, 1.6)],
    });
    const bend = between(1, 60) * 1e-6;
    const fabric = fabricSchema.parse({
      weight: between(0.04, 0.4),
      bendWarp: bend,
      bendWeft: bend * between(0.6, 1),
      friction: between(0, 0.8),
    });
    const thing: ColliderModel = {
      ...ground,
      id: 'thing',
      ...(next() < 0.5 ? { kind: 'ball', radius: 0.07 } : { kind: 'box', size: [0.1, 0.14, 0.06] as const }),
      center: [between(-0.05, 0.05), 0.08, between(-0.05, 0.05)],
      rotation: rotation([0, between(0, 3), 0]),
    };
    return {
      cloths: [cloth(rest, { fabric, layerDistance: between(0.0008, 0.003) })],
      colliders: [ground, thing],
      air: { ...STILL, density: 1.2 },
    };
  }

  // LUMBRA_NIGHTLY=1 runs a hundred.
  const drops = process.env['LUMBRA_NIGHTLY'] ? 100 : 6;
  it(`never crosses, in ${drops} random drops`, () => {
    for (let seed = 1; seed <= drops; seed++) {
      const solver = new Solver(randomDrop(seed));
      for (let frame = 1; frame <= 20; frame++) {
        solver.advance(FRAME, 36);
        expect(solver.crossings().count, `drop ${seed}, frame ${frame}`).toBe(0);
        // Nor does it come through a surface: past the clearance by less than anyone can see, in the frame of an impact.
        expect(
          Math.max(...solver.contact().depths.map(({ depth }) => depth)),
          `drop ${seed}, frame ${frame}`,
        ).toBeLessThan(1e-4);
      }
    }
  });

  const crumple = (layers: Model['layers']): Model => ({
    cloths: [
      cloth(
        place(sheet({ width: 0.8, height: 0.8, spacing: 0.025 }), { position: [0, 0.5, 0], rotation: [1.3, 0.2, 0.3] }),
      ),
    ],
    colliders: [ground],
    air: STILL,
    layers,
  });

  it('never crosses when it crumples, where draft does', () => {
    const worst = (layers: Model['layers']) => {
      const solver = new Solver(crumple(layers));
      let most = 0;
      for (let frame = 0; frame < 24; frame++) {
        solver.advance(FRAME, 40);
        most = Math.max(most, solver.crossings().count);
      }
      return most;
    };
    expect(worst('exact')).toBe(0);
    expect(worst('draft')).toBeGreaterThan(0);
  });

  it('goes on from a saved state bit for bit, whatever was measured in between', () => {
    const first = new Solver(crumple('exact'));
    for (let frame = 0; frame < 10; frame++) first.advance(FRAME, 40);
    const saved = first.state();
    const second = new Solver(crumple('exact'));
    second.restore(saved);
    for (let frame = 0; frame < 4; frame++) {
      first.advance(FRAME, 40);
      first.crossings();
      first.contact();
      second.advance(FRAME, 40);
    }
    expect(second.positions(0)).toEqual(first.positions(0));
  });
});

describe('layers', () => {
  it('rest at their distance, and hold or slide by their friction', () => {
    const friction = 0.5;
    const limit = (Math.atan(friction) * 180) / Math.PI;
    const slide = (degrees: number) => {
      const turn: [number, number, number] = [0, 0, (-degrees * Math.PI) / 180];
      const lower = place(sheet({ width: 0.4, height: 0.2, spacing: 0.02 }), { position: [0, 0, 0], rotation: turn });
      const flat = sheet({ width: 0.12, height: 0.12, spacing: 0.02 });
      // Just over the lower one, off its lattice.
      const raised = { ...flat, positions: flat.positions.map((x, i) => (i % 3 === 1 ? 0.00201 : x + 0.0071)) };
      const upper = place(raised, { position: [0, 0, 0], rotation: turn });
      const fabric = fabricSchema.parse({ weight: 0.3, friction, damping: 0, airAcross: 0, airAlong: 0 });
      const held = [...Array(lower.positions.length / 3).keys()];
      const solver = new Solver({
        cloths: [
          cloth(lower, { id: 'lower', fabric, held }),
          cloth(upper, { id: 'upper', fabric, positions: upper.positions }),
        ],
        colliders: [],
        air: STILL,
      });
      for (let frame = 0; frame < 18; frame++) solver.advance(FRAME, 40);
      const moved = solver.positions(1);
      return Math.hypot(moved[0]! - upper.positions[0]!, moved[1]! - upper.positions[1]!);
    };
    expect(slide(limit - 2)).toBeLessThan(0.002);
    expect(slide(limit + 2)).toBeGreaterThan(0.03);
  });

  it('of several cloths lie on one another without crossing', () => {
    const sheets = [0, 1, 2].map((layer) =>
      cloth(
        place(sheet({ width: 0.3, height: 0.3, spacing: 0.02 }), {
          position: [0, 0.16 + 0.01 * layer, 0],
          rotation: [0, 0.3 * layer, 0],
        }),
        { id: `sheet-${layer}` },
      ),
    );
    const thing: ColliderModel = { ...ground, id: 'ball', kind: 'ball', radius: 0.08, center: [0, 0.06, 0] };
    const solver = new Solver({ cloths: sheets, colliders: [ground, thing], air: STILL });
    for (let frame = 0; frame < 20; frame++) {
      solver.advance(FRAME, 40);
      expect(solver.crossings().count).toBe(0);
    }
    const top = (i: number) => Math.max(...solver.positions(i).filter((_, k) => k % 3 === 1));
    expect(top(1)).toBeGreaterThan(top(0) + 0.0015);
    expect(top(2)).toBeGreaterThan(top(1) + 0.0015);
  });
});

describe('moving colliders', () => {
  const hanging = () => {
    const rest = place(sheet({ width: 0.5, height: 0.5, spacing: 0.025 }), {
      position: [0, 0.5, 0],
      rotation: [Math.PI / 2, 0, 0],
    });
    const top = Math.max(...rest.positions.filter((_, i) => i % 3 === 1));
    const held = [...Array(rest.positions.length / 3).keys()].filter((i) => rest.positions[i * 3 + 1]! > top - 1e-5);
    return cloth(rest, { held });
  };
  const mesh = ball({ radius: 0.1, detail: 3 });
  it.each([
    ['ball', { kind: 'ball', radius: 0.1 }],
    ['mesh', { kind: 'mesh', mesh }],
  ] as const)('a %s at 10 m/s does not pass a hanging cloth', (_, shape) => {
    const poseAt = (time: number) => ({
      center: [0, 0.5, -0.6 + Math.min(10 * time, 0.9)] as const,
      rotation: rotation([0, 0, 0]),
    });
    const thing: ColliderModel = { ...shape, ...poseAt(0), id: 'thing', clearance: 0.003, friction: 0.3, poseAt };
    const solver = new Solver({ cloths: [hanging()], colliders: [thing], air: STILL });
    let ahead = 0;
    for (let frame = 0; frame < 6; frame++) {
      solver.advance(FRAME, 40);
      // It moves 10 mm a substep; a tenth of a millimetre of that may be seen when layers fold up before it.
      expect(solver.contact().depths[0]!.depth).toBeLessThan(1e-4);
      ahead = Math.max(ahead, ...solver.positions(0).filter((_, i) => i % 3 === 2));
    }
    expect(ahead).toBeGreaterThan(0.35);
  });

  it('carries what lies on it by friction', () => {
    const rest = place(sheet({ width: 0.2, height: 0.2, spacing: 0.02 }), {
      position: [0, 0.0535, 0],
      rotation: [0, 0, 0],
    });
    const poseAt = (time: number) => ({
      // Speeds up at 1 m/s^2, well below what friction can give.
      center: [0.5 * time * time, 0, 0] as const,
      rotation: rotation([0, 0, 0]),
    });
    const box: ColliderModel = {
      ...{ id: 'box', kind: 'box', size: [0.4, 0.1, 0.4], clearance: 0.003, friction: 0.6 },
      ...poseAt(0),
      poseAt,
    };
    const solver = new Solver({ cloths: [cloth(rest)], colliders: [box], air: STILL });
    for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
    const mean =
      solver.positions(0).reduce((sum, x, i) => (i % 3 === 0 ? sum + x : sum), 0) / (rest.positions.length / 3);
    expect(mean).toBeGreaterThan(0.48);
    expect(mean).toBeLessThan(0.51);
  });
});

describe('squashing', () => {
  it('between a floor and a press that closes farther than the layers are thick neither blows up nor crosses', () => {
    // A sheet that falls on its edge, and a plate that presses the heap down to less than its layers need.
    const rest = place(sheet({ width: 0.3, height: 0.3, spacing: 0.02 }), {
      position: [0, 0.2, 0],
      rotation: [1.3, 0.2, 0.3],
    });
    const poseAt = (time: number) => ({
      center: [0, Math.max(0.055, 0.5 - 0.3 * time), 0] as const,
      rotation: rotation([0, 0, 0]),
    });
    const press: ColliderModel = {
      ...{ id: 'press', kind: 'box', size: [0.6, 0.1, 0.6], clearance: 0.002, friction: 0.3 },
      ...poseAt(0),
      poseAt,
    };
    const solver = new Solver({ cloths: [cloth(rest)], colliders: [ground, press], air: STILL });
    for (let frame = 0; frame < 40; frame++) {
      solver.advance(FRAME, 40);
      expect(solver.crossings().count, `frame ${frame}`).toBe(0);
      const { fastest, stretch } = solver.measure();
      expect(fastest, `frame ${frame}`).toBeLessThan(5);
      expect(stretch.largest, `frame ${frame}`).toBeLessThan(0.5);
    }
    expect(Math.max(...solver.positions(0).filter((_, i) => i % 3 === 1))).toBeLessThan(0.02);
  });
});

describe('sides of colliders', () => {
  const drop = (collider: ColliderModel, height: number) => {
    const rest = place(sheet({ width: 0.1, height: 0.1, spacing: 0.02 }), {
      position: [0, height, 0],
      rotation: [0, 0, 0],
    });
    const solver = new Solver({ cloths: [cloth(rest)], colliders: [collider], air: STILL });
    for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
    return solver.positions(0).filter((_, i) => i % 3 === 1);
  };
  const shell = {
    id: 'shell',
    center: [0, 0, 0] as const,
    rotation: rotation([0, 0, 0]),
    clearance: 0.002,
    friction: 0.4,
  };

  it('inside keeps cloth within', () => {
    const heights = drop({ ...shell, kind: 'ball', radius: 0.2, side: 'inside' }, 0);
    expect(Math.min(...heights)).toBeGreaterThan(-0.2);
    expect(Math.max(...heights)).toBeLessThan(-0.15);
  });

  it('both keeps cloth on the side where it is', () => {
    const box = { ...shell, kind: 'box', size: [0.4, 0.4, 0.4], side: 'both' } as const;
    expect(Math.min(...drop(box, 0))).toBeGreaterThan(-0.2);
    expect(Math.min(...drop(box, 0.25))).toBeGreaterThan(0.2);
  });
});

describe('bad input', () => {
  const finite = (model: Model, substeps = 30) => {
    const solver = new Solver(model);
    try {
      for (let frame = 0; frame < 8; frame++) {
        solver.advance(FRAME, substeps);
        model.cloths.forEach((_, i) => expect(solver.positions(i).every(Number.isFinite)).toBe(true));
      }
    } catch (error) {
      // Giving up is allowed; going on with what is not a number is not.
      expect(error).toBeInstanceOf(UnstableError);
    }
  };
  const small = () =>
    place(sheet({ width: 0.2, height: 0.2, spacing: 0.02 }), { position: [0, 0.1, 0], rotation: [0.4, 0, 0.2] });
  const withFabric = (numbers: object) => ({ ...cloth(small()).fabric, ...numbers });
  const onGround = (more: Partial<ClothModel>): Model => ({
    cloths: [cloth(small(), more)],
    colliders: [ground],
    air: STILL,
  });

  it.each([
    ['no stiffness', onGround({ fabric: withFabric({ stretchWarp: 0, stretchWeft: 0, shear: 0 }) })],
    ['endless stiffness', onGround({ fabric: withFabric({ stretchWarp: 1e9, stretchWeft: 1e9, shear: 1e9 }) })],
    ['no weight', onGround({ fabric: withFabric({ weight: 0 }) })],
    ['endless weight', onGround({ fabric: withFabric({ weight: Infinity }) })],
    ['layers farther apart than the spacing', onGround({ layerDistance: 0.05 })],
    ['a storm of 300 m/s', { ...onGround({}), air: { ...STILL, density: 1.2, windAt: () => [300, 40, 0] as const } }],
    [
      'a collider that leaps',
      {
        ...onGround({}),
        colliders: [
          {
            ...ground,
            kind: 'ball' as const,
            radius: 0.1,
            poseAt: (time: number) => ({
              center: (time < 0.1 ? [5, 5, 5] : [0, 0.05, 0]) as Vector3,
              rotation: rotation([0, 0, 0]),
            }),
          },
        ],
      },
    ],
  ] satisfies [string, Model][])('%s gives no position that is not a number', (_, model) => {
    finite(model);
  });

  it('faces without area and points in one place give none either', () => {
    const rest = small();
    const positions = rest.positions.slice();
    positions.set(positions.subarray(30, 33), 33);
    const triangles = new Uint32Array([...rest.triangles, 3, 3, 4, 5, 5, 5]);
    finite({ cloths: [cloth({ positions, triangles }, { positions })], colliders: [ground], air: STILL });
  });

  it('two sheets that start crossed come apart', () => {
    const flat = sheet({ width: 0.2, height: 0.2, spacing: 0.02 });
    const lower = place(flat, { position: [0, 0, 0], rotation: [0, 0, 0] });
    // A corner of the upper sheet dips through the lower one.
    const upper = place(flat, { position: [0.004, 0.012, 0.003], rotation: [0.12, 0.4, 0.12] });
    const solver = new Solver({
      cloths: [
        cloth(lower, { id: 'lower', held: [0, 10, 110, 120] }),
        cloth(upper, { id: 'upper', positions: upper.positions }),
      ],
      colliders: [],
      air: { ...STILL, gravity: [0, 0, 0] },
    });
    expect(solver.crossings().count).toBeGreaterThan(3);
    for (let frame = 0; frame < 24; frame++) solver.advance(FRAME, 40);
    expect(solver.crossings().count).toBe(0);
  });

  // All was searched anew every eighth substep, and a coat that was caught by a shirt took 60 s a frame.
  it('what crosses is pulled out without all that is near being searched anew', () => {
    const flat = sheet({ width: 0.8, height: 0.8, spacing: 0.02 });
    const through = place(flat, { position: [0, 0.13, 0], rotation: [0.35, 0.2, 0.35] });
    const solver = new Solver({
      cloths: [cloth(flat, { id: 'flat' }), cloth(through, { id: 'through', positions: through.positions })],
      colliders: [],
      air: { ...STILL, gravity: [0, 0, 0] },
    });
    expect(solver.crossings().count).toBeGreaterThan(3);
    solver.layerCounts();
    solver.advance(FRAME, 64);
    expect(solver.crossings().count).toBeGreaterThan(0);
    expect(solver.layerCounts()!.queries).toBeLessThan(6);
  });

  it('a start with a thousand crossings runs on', () => {
    const next = stream(9);
    const rest = sheet({ width: 0.5, height: 0.5, spacing: 0.02 });
    const positions = rest.positions.map((x, i) => (i % 3 === 1 ? 0.2 : 0.6 * x) + 0.04 * (next() - 0.5));
    const model: Model = { cloths: [cloth(rest, { positions })], colliders: [ground], air: STILL };
    expect(new Solver(model).crossings().count).toBeGreaterThan(1000);
    finite(model);
  });
});

describe('fine cloth', () => {
  const fine = sheet({ width: 0.06, height: 0.06, spacing: 0.004 });
  const lifted = (by: number) => fine.positions.map((x, i) => (i % 3 === 1 ? x + by : x));
  const rests = (cloths: ClothModel[]) => {
    const solver = new Solver({ cloths, colliders: [ground], air: STILL });
    for (let frame = 0; frame < 20; frame++) solver.advance(FRAME, 60);
    const heights = cloths.map((_, i) => solver.positions(i).filter((_, at) => at % 3 === 1));
    return heights.map((all) => all.reduce((sum, y) => sum + y, 0) / all.length);
  };

  it('keeps its whole distance from other cloth that is cut alike and lies on it edge to edge', () => {
    const [under, over] = rests([
      cloth(fine, { id: 'under', positions: lifted(0.004) }),
      cloth(fine, { id: 'over', positions: lifted(0.008) }),
    ]);
    expect(over! - under!).toBeGreaterThan(0.0019);
    expect(over! - under!).toBeLessThan(0.0023);
  });
});
