import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { topology } from '../topology';
import { allDirections } from './allDirections';
import { alongGrain } from './alongGrain';
import { constrain, edgeKey } from './constrain';
import { outlineProblem } from './outlineProblem';
import {
  asPolygon,
  distance,
  parameterAt,
  placeAt,
  reversed,
  samplesOf,
  sideLength,
  sidesOf,
  signedArea,
  splitSide,
  type FlatPlace,
  type PathNode,
} from './path';
import Delaunator from 'delaunator';

const node = (u: number, v: number, before?: FlatPlace, after?: FlatPlace): PathNode => ({
  ...{ at: [u, v], before: before ?? null, after: after ?? null },
});
const corners = (...places: FlatPlace[]) => places.map(([u, v]) => node(u, v));
const QUARTER = 0.5522847498;
function circle(r: number, u = 0, v = 0): PathNode[] {
  const h = r * QUARTER;
  return [
    node(u + r, v, [0, -h], [0, h]),
    node(u, v + r, [h, 0], [-h, 0]),
    node(u - r, v, [0, h], [0, -h]),
    node(u, v - r, [-h, 0], [h, 0]),
  ];
}
const sampled = (nodes: readonly PathNode[], spacing: number): FlatPlace[] =>
  sidesOf(nodes).flatMap((side) => samplesOf(side, Math.max(1, Math.round(sideLength(side) / spacing))));

const L = corners([0, 0], [1, 0], [1, 0.4], [0.4, 0.4], [0.4, 1], [0, 1]);
const SHAPES: [string, PathNode[][]][] = [
  ['disc', [circle(0.5)]],
  ['rectangle', [corners([0, 0], [1, 0], [1, 0.7], [0, 0.7])]],
  ['corner piece', [L]],
  ['ring', [circle(0.5), circle(0.2)]],
  ['triangle', [corners([0, 0], [1, 0], [0.5, 0.8])]],
  [
    'plate with two holes',
    [corners([0, 0], [1, 0], [1, 0.7], [0, 0.7]), circle(0.1, 0.3, 0.3), circle(0.08, 0.7, 0.4)],
  ],
];

interface Quality {
  /** Share of angles between 35 and 95 degrees, and the least, in degrees. */
  good: number;
  least: number;
  /** Share of edges between 0.6 and 1.5 spacings. */
  even: number;
  area: number;
}

function qualityOf(places: Float64Array, triangles: Uint32Array, spacing: number): Quality {
  let [good, angles, least, even, edges, area] = [0, 0, 180, 0, 0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const at = [0, 1, 2].map((i) => [places[triangles[t + i]! * 2]!, places[triangles[t + i]! * 2 + 1]!] as FlatPlace);
    area += signedArea(at);
    for (let i = 0; i < 3; i++) {
      const [a, b, c] = [at[i]!, at[(i + 1) % 3]!, at[(i + 2) % 3]!];
      const [p, q] = [
        [b[0] - a[0], b[1] - a[1]],
        [c[0] - a[0], c[1] - a[1]],
      ] as [FlatPlace, FlatPlace];
      const angle = (Math.atan2(Math.abs(p[0] * q[1] - p[1] * q[0]), p[0] * q[0] + p[1] * q[1]) * 180) / Math.PI;
      angles++;
      if (angle >= 35 && angle <= 95) good++;
      least = Math.min(least, angle);
      const size = distance(a, b) / spacing;
      edges++;
      if (size >= 0.6 && size <= 1.5) even++;
    }
  }
  return { good: good / angles, least, even: even / edges, area };
}

const areaOf = (loops: readonly (readonly FlatPlace[])[]) =>
  loops.reduce((sum, loop, i) => sum + Math.abs(signedArea(loop)) * (i === 0 ? 1 : -1), 0);

describe.each(SHAPES)('a %s', (_, nodes) => {
  const spacing = 0.02;
  const loops = nodes.map((loop) => sampled(loop, spacing));

  it('is meshed evenly in all directions, and fills its outline', () => {
    const { places, triangles } = allDirections(loops, spacing);
    const quality = qualityOf(places, triangles, spacing);
    expect(quality.good).toBeGreaterThan(0.98);
    expect(quality.least).toBeGreaterThan(20);
    expect(quality.even).toBeGreaterThan(0.995);
    expect(quality.area).toBeCloseTo(areaOf(loops), 9);
  });

  it('is meshed as a grid along its grain, and fills its outline', () => {
    const { places, triangles } = alongGrain(loops, spacing);
    const quality = qualityOf(places, triangles, spacing);
    expect(quality.least).toBeGreaterThan(20);
    expect(quality.area).toBeCloseTo(areaOf(loops), 9);
  });

  it.each([allDirections, alongGrain])('has its borders as edges, in their order, and nothing twice', (cut) => {
    const { places, triangles } = cut(loops, spacing);
    expect([...places.subarray(0, loops.flat().length * 2)]).toEqual(loops.flat(2));
    const t = topology({ positions: new Float32Array((places.length / 2) * 3), triangles });
    expect(t.nonManifoldEdges).toBe(0);
    const borders = new Set<number>();
    for (let edge = 0; edge < t.edgeCount; edge++) {
      if (t.edgeFaces[edge * 2 + 1] === -1) borders.add(edgeKey(t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!));
    }
    let first = 0;
    const wanted = loops.flatMap((loop) => {
      const keys = loop.map((__, i) => edgeKey(first + i, first + ((i + 1) % loop.length)));
      first += loop.length;
      return keys;
    });
    expect([...borders].sort((a, b) => a - b)).toEqual(wanted.sort((a, b) => a - b));
  });

  it('comes out the same to the bit', () => {
    expect(allDirections(loops, spacing)).toEqual(allDirections(loops, spacing));
  });
});

it('cuts a rectangle along its grain as a sheet is meshed: squares with alternating diagonals', () => {
  const loops = [sampled(corners([0, 0], [0.4, 0], [0.4, 0.3], [0, 0.3]), 0.1)];
  const { places, triangles } = alongGrain(loops, 0.1);
  expect(places.length / 2).toBe(20);
  expect(triangles.length / 3).toBe(24);
  expect(qualityOf(places, triangles, 0.1).least).toBeCloseTo(45, 6);
  const touching = new Array<number>(20).fill(0);
  for (const point of triangles) touching[point]!++;
  // Inner points are in four or in eight triangles, by turns.
  expect(touching.slice(14).sort()).toEqual([4, 4, 4, 8, 8, 8]);
});

it('fills any star-shaped outline without a gap or an overlap', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.3, max: 1, noNaN: true }), { minLength: 5, maxLength: 14 }),
      fc.constantFrom(allDirections, alongGrain),
      (radii, cut) => {
        const nodes = radii.map((r, i) => {
          const angle = (2 * Math.PI * i) / radii.length;
          return node(r * Math.cos(angle), r * Math.sin(angle));
        });
        const loops = [sampled(nodes, 0.08)];
        const { places, triangles } = cut(loops, 0.08);
        for (let t = 0; t < triangles.length; t += 3) {
          const at = [0, 1, 2].map(
            (i) => [places[triangles[t + i]! * 2]!, places[triangles[t + i]! * 2 + 1]!] as FlatPlace,
          );
          expect(signedArea(at)).toBeGreaterThan(0);
        }
        expect(qualityOf(places, triangles, 0.08).area).toBeCloseTo(areaOf(loops), 9);
      },
    ),
    { numRuns: 40 },
  );
});

it('turns edges until a wanted one is there', () => {
  const places = Float64Array.from([0, 0, 1, 0.05, 2, -0.05, 3, 0, 0.9, -1, 1.9, 1, 1.1, 1, 2.1, -1]);
  const mesh = new Delaunator(places);
  expect(constrain(mesh, places, [[0, 3]])).toEqual([]);
  const edges = new Set(
    Array.from(mesh.triangles, (a, half) => edgeKey(a, mesh.triangles[half % 3 === 2 ? half - 2 : half + 1]!)),
  );
  expect(edges.has(edgeKey(0, 3))).toBe(true);
});

it('says which wanted edge cannot be had, where a point lies on it', () => {
  const places = Float64Array.from([0, 0, 1, 0, 2, 0, 1, 1, 1, -1]);
  expect(constrain(new Delaunator(places), places, [[0, 2]])).toEqual([[0, 2]]);
});

describe('paths', () => {
  it('measure curves', () => {
    const [quarter] = sidesOf(circle(1));
    expect(sideLength(quarter!)).toBeCloseTo(Math.PI / 2, 3);
    const half = placeAt(quarter!, parameterAt(quarter!, 0.5));
    expect(half[0]).toBeCloseTo(Math.SQRT1_2, 3);
    expect(half[1]).toBeCloseTo(Math.SQRT1_2, 3);
  });

  it('sample at even distances', () => {
    const bent = sidesOf([node(0, 0, undefined, [0.9, 0]), node(1, 1, [0, -0.1])])[0]!;
    const places = [...samplesOf(bent, 10), bent.to.at];
    const steps = places.slice(1).map((place, i) => distance(place, places[i]!));
    expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(1.03);
  });

  it('keep their course where a node is put on them, and turned the other way round', () => {
    const nodes = circle(0.3);
    const area = signedArea(asPolygon(nodes, 200));
    expect(signedArea(asPolygon(splitSide(nodes, 1, 0.3, {}), 200))).toBeCloseTo(area, 5);
    expect(signedArea(asPolygon(reversed(nodes), 200))).toBeCloseTo(-area, 9);
  });
});

/** An arch of 1.6 m, and a notch that comes up to so near below it, between two chords of twelve. */
function notchedArch(below: number): PathNode[] {
  const [from, to]: PathNode[] = [
    { at: [0.8, 0.8], after: [-0.4, 0.32] },
    { at: [-0.8, 0.8], before: [0.4, 0.32] },
  ];
  const arch = { from: from!, to: to! };
  const [u, v] = placeAt(arch, parameterAt(arch, 3.5 / 12));
  return [...corners([-0.8, -0.8], [u - 0.01, -0.8], [u, v - below], [u + 0.01, -0.8], [0.8, -0.8]), from!, to!];
}

describe('what cannot be cut', () => {
  const square = corners([0, 0], [1, 0], [1, 1], [0, 1]);
  it.each<[string, PathNode[], PathNode[][], RegExp | undefined]>([
    ['a square', square, [], undefined],
    ['a square with a hole', square, [circle(0.2, 0.5, 0.5)], undefined],
    ['a bow', corners([0, 0], [1, 1], [1, 0], [0, 2]), [], /crosses itself/],
    ['a line there and back', corners([0, 0], [1, 0]), [], /no area/],
    ['all in one place', corners([1, 1], [1, 1], [1, 1]), [], /no area/],
    ['a spike folded back', corners([0, 0], [1, 0], [1, 1], [1, 2], [1, 0.5], [0, 1]), [], /crosses itself/],
    ['a hole outside', square, [circle(0.2, 3, 3)], /hole 1 lies outside/],
    [
      'a hole that touches',
      square,
      [corners([0, 0.2], [0.5, 0.2], [0.5, 0.5], [0, 0.5])],
      /hole 1 touches the outline/,
    ],
    ['holes that overlap', square, [circle(0.2, 0.4, 0.5), circle(0.2, 0.5, 0.5)], /overlap/],
    // Refused before, since it lies beyond the chord of the arch.
    ['a notch 1 mm from an arch', notchedArch(0.001), [], undefined],
    ['a notch through an arch', notchedArch(-0.001), [], /crosses itself/],
    ['a hole within a hole', square, [circle(0.3, 0.5, 0.5), circle(0.1, 0.5, 0.5)], /overlap/],
  ])('%s', (_, outline, holes, problem) => {
    const found = outlineProblem(outline, holes);
    if (problem) expect(found).toMatch(problem);
    else expect(found).toBeUndefined();
  });
});
