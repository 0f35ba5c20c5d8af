import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findCard } from '../../fabric/swatchBook';
import { poseOf } from '../../math/pose';
import { apart, dot, minus, type Vector3 } from '../../math/vector';
import { centreLine } from '../../mesh/centreLine';
import { faceNormals } from '../../mesh/faceNormals';
import { makeOneMesh } from '../../mesh/makeOneMesh';
import type { Mesh } from '../../mesh/mesh';
import { parts } from '../../mesh/parts';
import { placeBy } from '../../mesh/place';
import { pointsAlong } from '../../run/autoTies';
import { BakeRun } from '../../run/bakeRun';
import { createCloth, createCollider, createShot, createTie } from '../../shot/create';
import { shapeMesh, type PatternShape, type Shape } from '../../shot/shapes';
import { layPlace } from '../layPiece';
import { makePiece, rectangleNodes } from '../makePiece';
import { patternMesh } from '../patternMesh';
import { patternProblem } from '../patternProblem';
import { pairsOfSeams } from '../seamLines';
import { findStretch } from '../stretches';
import { skinBetween } from './skinBetween';
import { unrollStrip } from './unrollStrip';

const NONE = new Map<string, Mesh>();
const at = (shape: Shape, center: Vector3, turn: Vector3 = [0, 0, 0]) =>
  placeBy(shapeMesh(shape, NONE), poseOf(center, turn));
const hoop = { kind: 'hoop', radius: 0.5, leg: 0.001, tubeRadius: 0.008, segments: 28 } as const;

/** Hoops on one hinge at the origin, leaning by so many degrees. */
function fan(leans: readonly number[]): Mesh[] {
  return leans.map((lean) => {
    const angle = (-lean * Math.PI) / 180;
    return at(hoop, [-0.25 * Math.sin(angle), 0.25 * Math.cos(angle), 0], [0, 0, angle]);
  });
}
const rodsOf = (meshes: readonly Mesh[]) => meshes.map((mesh, i) => ({ id: i, ...centreLine(mesh, 65)! }));
const shapeOf = ({ pieces, seams }: Pick<PatternShape, 'pieces' | 'seams'>): PatternShape => ({
  ...{ kind: 'pattern', spacing: 0.02, weave: 'all directions', closing: 12 },
  ...{ pieces, seams },
});

describe('the line along the middle of a rod', () => {
  it('is that of a straight one, however it is turned and divided', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 24 }),
        fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -3, max: 3, noNaN: true }))),
        (segments, turn) => {
          const rod = at(
            { kind: 'cylinder', radius: 0.02, height: 1, segments },
            [0.3, 1, -2],
            turn as unknown as Vector3,
          );
          const found = centreLine(rod, 9)!;
          expect(apart(found.places[0]!, found.places.at(-1)!)).toBeGreaterThan(0.96);
          expect(apart(found.places[4]!, [0.3, 1, -2])).toBeLessThan(0.01);
          expect(found.radius).toBeGreaterThan(0.008);
          expect(found.radius).toBeLessThan(0.025);
        },
      ),
      { seed: 9, numRuns: 25 },
    );
  });

  it('goes round a hoop, even along it', () => {
    const { places, radius } = centreLine(fan([0])[0]!, 33)!;
    for (const place of places.slice(1, -1)) expect(Math.hypot(place[1], place[2])).toBeCloseTo(0.5, 2);
    expect(radius).toBeCloseTo(0.008, 3);
    const steps = places.slice(1).map((place, i) => apart(place, places[i]!));
    expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(1.1);
  });

  it('is none of what is no rod', () => {
    for (const shape of [
      { kind: 'ball', radius: 0.3, detail: 2 },
      { kind: 'ring', radius: 0.3, tubeRadius: 0.02, segments: 24 },
      { kind: 'box', width: 1, height: 1, depth: 1 },
      { kind: 'sheet', width: 1, height: 1, spacing: 0.1 },
    ] as Shape[]) {
      expect(centreLine(shapeMesh(shape, NONE), 9)).toBeNull();
    }
    expect(centreLine({ positions: new Float32Array(), triangles: new Uint32Array() }, 9)).toBeNull();
  });

  it('is found of each part of one mesh', () => {
    const together = makeOneMesh(fan([40, 0, -40]));
    const found = parts(together);
    expect(found).toHaveLength(3);
    expect(found.map((part) => centreLine(part, 9) !== null)).toEqual([true, true, true]);
    expect(parts({ positions: new Float32Array(30), triangles: Uint32Array.of(0, 1, 2, 5, 6, 7) })).toHaveLength(2);
  });
});

describe('an unrolled strip', () => {
  it('is as long along every edge as it was in space', () => {
    const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -0.1, max: 0.1, noNaN: true })));
    fc.assert(
      fc.property(fc.array(fc.tuple(place, place), { minLength: 2, maxLength: 20 }), (wobble) => {
        const left = wobble.map(([w], i): Vector3 => [w[0]!, i * 0.3 + w[1]!, w[2]!]);
        const right = wobble.map(([, w], i): Vector3 => [0.5 + w[0]!, i * 0.3 + w[1]!, w[2]!]);
        const { flat } = unrollStrip(left, right);
        const flatApart = (p: readonly [number, number], q: readonly [number, number]) =>
          Math.hypot(p[0] - q[0], p[1] - q[1]);
        left.forEach((_, i) => {
          expect(flatApart(flat[0][i]!, flat[1][i]!)).toBeCloseTo(apart(left[i]!, right[i]!), 9);
          if (i === 0) return;
          expect(flatApart(flat[0][i]!, flat[0][i - 1]!)).toBeCloseTo(apart(left[i]!, left[i - 1]!), 9);
          expect(flatApart(flat[1][i]!, flat[1][i - 1]!)).toBeCloseTo(apart(right[i]!, right[i - 1]!), 9);
        });
        // And a piece that is laid on it has its corners on the rails again.
        const piece = makePiece({
          name: 'x',
          outline: rectangleNodes(0.1, 0.1),
          lies: 'between rails',
          rails: [left, right].map((rail) => rail.map((one) => [...one])) as never,
        });
        const lay = layPlace(piece);
        left.forEach((one, i) => expect(apart(lay(...flat[0][i]!), one)).toBeLessThan(1e-6));
        right.forEach((one, i) => expect(apart(lay(...flat[1][i]!), one)).toBeLessThan(1e-6));
      }),
      { seed: 2, numRuns: 40 },
    );
  });
});

describe('cloth between rods', () => {
  it('is a panel from each hoop to the next, outside of them, sewn along them, not stretched', () => {
    // In any order, and running either way.
    const rods = rodsOf(fan([0, -62, 31, 62, -31])).map((rod, i) =>
      i % 2 ? { ...rod, places: [...rod.places].reverse() } : rod,
    );
    const skin = skinBetween(rods, 0.002);
    expect(skin.pieces).toHaveLength(4);
    expect(skin.seams).toHaveLength(3);
    const ids = skin.borders.map(({ rod }) => rod.id);
    expect([ids.join(), [...ids].reverse().join()]).toContain('3,2,0,4,1');
    // Hoops come together at the hinge: the panels end before.
    expect(skin.short).toBeGreaterThan(0.03);
    expect(skin.short).toBeLessThan(0.2);
    const shape = shapeOf(skin);
    expect(patternProblem(shape)).toBeUndefined();
    const mesh = patternMesh(shape);
    const place = (point: number): Vector3 =>
      [0, 1, 2].map((k) => mesh.positions[point * 3 + k]! + skin.middle[k]!) as unknown as Vector3;
    for (const { stretch } of skin.borders) expect(findStretch(shape.pieces, stretch)!.length).toBeGreaterThan(1);
    for (const pairs of pairsOfSeams(shape)) {
      for (const [a, b] of pairs) {
        expect(apart(place(a), place(b))).toBeLessThan(5e-4);
        expect(Math.hypot(...place(a))).toBeCloseTo(0.51, 2);
      }
    }
    for (let point = 0; point < mesh.positions.length / 3; point++)
      expect(Math.hypot(...place(point))).toBeLessThan(0.515);
    const normals = faceNormals(mesh);
    mesh.triangles.forEach((point, i) => {
      if (i % 3 === 0) expect(dot([normals[i]!, normals[i + 1]!, normals[i + 2]!], place(point))).toBeGreaterThan(0);
      const next = mesh.triangles[i % 3 === 2 ? i - 2 : i + 1]!;
      const cut = Math.hypot(
        mesh.material![point * 2]! - mesh.material![next * 2]!,
        mesh.material![point * 2 + 1]! - mesh.material![next * 2 + 1]!,
      );
      expect(apart(place(point), place(next)) / cut).toBeLessThan(1.003);
      expect(apart(place(point), place(next)) / cut).toBeGreaterThan(0.985);
    });
  });

  it('faces upwards on a level frame, and reaches the ends of rods that do not come together', () => {
    const ribs = [0, 0.4, 0.8].map((x) =>
      at({ kind: 'cylinder', radius: 0.01, height: 1, segments: 8 }, [x, 0.5, 0], [Math.PI / 2, 0, 0]),
    );
    const skin = skinBetween(rodsOf(ribs), 0.002);
    expect(skin.pieces).toHaveLength(2);
    expect(skin.short).toBe(0);
    const mesh = patternMesh(shapeOf(skin));
    const normals = faceNormals(mesh);
    for (let i = 1; i < normals.length; i += 3) expect(normals[i]).toBeGreaterThan(0.99);
    for (let i = 1; i < mesh.positions.length; i += 3)
      expect(mesh.positions[i]! + skin.middle[1]).toBeCloseTo(0.5 + 0.012, 2);
    const widths = skin.pieces.map((piece) => Math.max(...piece.outline.map(({ at: [u] }) => u)) * 2);
    for (const width of widths) expect(width).toBeCloseTo(0.4, 2);
  });

  it('closes round ribs that stand in a ring', () => {
    const ribs = Array.from({ length: 8 }, (_, i) => {
      const angle = (2 * Math.PI * i) / 8;
      return at({ kind: 'cylinder', radius: 0.01, height: 1, segments: 8 }, [Math.cos(angle), 0.5, Math.sin(angle)]);
    });
    const skin = skinBetween(rodsOf(ribs), 0.002, 0.1);
    expect(skin.pieces).toHaveLength(8);
    expect(skin.seams).toHaveLength(8);
    expect(skin.borders).toHaveLength(8);
    const shape = shapeOf(skin);
    expect(patternProblem(shape)).toBeUndefined();
    const { positions } = patternMesh(shape);
    for (let i = 1; i < positions.length; i += 3) expect(Math.abs(positions[i]!)).toBeLessThan(0.41);
    const off = minus([positions[0]!, 0, positions[2]!], [-skin.middle[0], 0, -skin.middle[2]]);
    expect(Math.hypot(off[0], off[2])).toBeGreaterThan(0.9);
  });

  /** A taut hood over four hoops, so many m farther off them at the start than it is drawn to. */
  function hoodRun(farther: number, quality: 'draft' | 'shot'): BakeRun {
    const hoops = fan([60, 20, -20, -60]);
    const assets = new Map(hoops.map((mesh, i) => [`hoop${i}`, mesh]));
    const things = hoops.map((_, i) =>
      createCollider({
        id: `hoop${i}`,
        name: `Hoop ${i}`,
        shape: { kind: 'mesh', asset: `hoop${i}` },
        clearance: 0.002,
      }),
    );
    const rods = hoops.map((mesh, i) => ({ id: `hoop${i}`, ...centreLine(mesh, 65)! }));
    const fabric = { ...findCard('canvas')!.fabric, restWarp: 0.985, restWeft: 0.985 };
    const standOff = 0.0025 + fabric.thickness / 2;
    const skin = skinBetween(rods, standOff + farther);
    const shape = { ...shapeOf(skin), spacing: 0.04 };
    const ties = skin.borders.map(({ rod, stretch }) =>
      createTie({
        name: rod.id,
        to: rod.id,
        points: pointsAlong(shape, stretch),
        keepsDistance: false,
        standOff,
        drawnIn: 12,
      }),
    );
    const cloth = createCloth({ name: 'Hood', shape, fabric, ties, position: [...skin.middle] });
    return new BakeRun(createShot({ name: 'x', things: [cloth, ...things], lastFrame: 40, run: { quality } }), assets);
  }

  it('is drawn onto its hoops and lies taut on them, through nothing', () => {
    const run = hoodRun(0.003, 'shot');
    const frames = Array.from({ length: 18 }, () => run.next());
    for (const { stats } of frames) expect([stats.crossings, stats.pierced]).toEqual([0, 0]);
    const { positions, stats } = frames.at(-1)!;
    expect(stats.maxStretch).toBeLessThan(0.03);
    // Taut: its panels do not sag below the straight line between their hoops.
    const sagged = positions[0]!.filter(
      (_, i) => i % 3 === 1 && Math.hypot(...positions[0]!.subarray(i - 1, i + 2)) < 0.44,
    );
    expect(sagged).toHaveLength(0);
  });

  it('is not flung where it starts in the reach of its hoops: what is free beside what is held does not make up for it', () => {
    const run = hoodRun(-0.002, 'draft');
    for (let i = 0; i < 4; i++) {
      const { stats } = run.next();
      expect(stats.fastest).toBeLessThan(3);
      expect(stats.maxStretch).toBeLessThan(0.6);
    }
  });
});
