import {
  bendTest,
  borderLoops,
  disc,
  DISC_RADIUS,
  discNodes,
  drapeTest,
  fabricSchema,
  findCard,
  makePiece,
  patternMesh,
  place,
  rotation,
  sheet,
  Solver,
  stretchTest,
  SWATCH_BOOK,
  topology,
  type Fabric,
  type Mesh,
  type Model,
  type Pattern,
} from '@lumbra/core';
import { row } from './print';

// The physics against its references: measured, reference, error, and the bar that is set in tests.

const STILL: Model['air'] = { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] };

function line(name: string, measured: number, reference: number, unit: string, bar: string): void {
  const error = ((measured / reference - 1) * 100).toFixed(1);
  row(name, `${measured.toPrecision(4)} ${unit}`, `${reference.toPrecision(4)} ${unit}`, `${error} %`, bar);
}

function bend(): void {
  const fabric = fabricSchema.parse({ weight: 0.15, bendWarp: 1e-5, bendWeft: 1e-5, damping: 0.05 });
  for (const spacing of [0.01, 0.005]) {
    for (const direction of ['warp', 'bias'] as const) {
      const test = bendTest(fabric, { direction, length: 0.05, width: 0.02, spacing, honoured: 0.95 });
      const name = `bend, 5 cm strip, ${spacing * 1000} mm, ${direction}`;
      line(name, test.rigidity * 1e6, test.predictedRigidity * 1e6, 'µN·m', '15 %');
    }
  }
  // What a whole bake at final quality honours, with a warp that bends harder than the weft.
  for (const [ratio, spacing] of [
    [2, 0.003],
    [2.8, 0.004],
    [2.8, 0.012],
    [4, 0.004],
    [4, 0.008],
  ] as const) {
    const weft = spacing > 0.01 ? 2e-5 : 6e-6;
    const uneven = fabricSchema.parse({ weight: 0.15, bendWarp: weft * ratio, bendWeft: weft });
    for (const direction of ['warp', 'weft', 'bias'] as const) {
      const test = bendTest(uneven, { direction, spacing, honoured: 0.95 });
      const name = `bend, ${ratio} to 1, ${spacing * 1000} mm, ${direction}`;
      line(name, test.rigidity * 1e6, test.predictedRigidity * 1e6, 'µN·m', '10 %');
    }
  }
  for (const card of SWATCH_BOOK) {
    const test = bendTest(card.fabric, { direction: 'warp' });
    line(`bend, ${card.name}`, test.rigidity * 1e6, test.predictedRigidity * 1e6, 'µN·m', '10 %');
  }
}

/** Sag of a sheet hung by two edges a span apart: the catenary of its length. */
function sag(): void {
  const [span, length, spacing] = [0.8, 1, 0.02];
  const rest = sheet({ width: length, height: 0.2, spacing });
  const fabric = fabricSchema.parse({ weight: 0.2, bendWarp: 1e-7, bendWeft: 1e-7, stretchWarp: 20000 });
  const held = [...Array(rest.positions.length / 3).keys()].filter(
    (i) => Math.abs(Math.abs(rest.positions[i * 3]!) - length / 2) < 1e-6,
  );
  // It starts as an arc of its own length, both edges at their places.
  const positions = rest.positions.map((x, i) => (i % 3 === 0 ? (x * span) / length : x));
  for (let i = 0; i < positions.length; i += 3) {
    positions[i + 1] = -0.28 * (1 - ((2 * positions[i]!) / span) ** 2);
  }
  const solver = new Solver({
    cloths: [{ id: 'sheet', rest, positions, fabric, held }],
    colliders: [],
    air: STILL,
    layers: 'off',
  });
  for (let frame = 0; frame < 80; frame++) {
    solver.advance(1 / 24, 120);
    solver.calm(0.7);
  }
  const low = Math.min(...solver.positions(0).filter((_, i) => i % 3 === 1));
  // length = 2 a sinh(span / 2a)
  let [small, large] = [0.05, 10];
  for (let i = 0; i < 80; i++) {
    const a = (small + large) / 2;
    if (2 * a * Math.sinh(span / 2 / a) > length) small = a;
    else large = a;
  }
  line('sag, sheet hung by two edges', -low, small * (Math.cosh(span / 2 / small) - 1), 'm', '2 %');
}

function stretch(): void {
  for (const id of ['cotton-jersey', 'canvas']) {
    const card = findCard(id)!;
    const test = stretchTest(card.fabric, 'warp');
    line(`stretch, ${card.name}`, test.extension * 100, test.predicted * 100, '%', '2 %');
  }
}

function fall(): void {
  const fabric = fabricSchema.parse({ weight: 0.1, airAcross: 1.2 });
  const rest = sheet({ width: 0.3, height: 0.3, spacing: 0.05 });
  const solver = new Solver({
    cloths: [{ id: 'sheet', rest, positions: rest.positions, fabric, held: [] }],
    colliders: [],
    air: { ...STILL, density: 1.2 },
    layers: 'off',
  });
  for (let frame = 0; frame < 48; frame++) solver.advance(1 / 24, 40);
  line('fall, terminal speed', solver.measure().fastest, Math.sqrt((2 * 0.1 * 9.81) / (1.2 * 1.2)), 'm/s', '2 %');
}

function swing(): void {
  const [size, tilt] = [0.1, 0.15];
  const turn: [number, number, number] = [0, 0, -Math.PI / 2 + tilt];
  const rest = place(sheet({ width: size, height: 0.04, spacing: 0.02 }), { position: [0, 0, 0], rotation: turn });
  const stiff: Partial<Fabric> = { bendWarp: 0.01, bendWeft: 0.01, damping: 0, stretchWarp: 1e5, stretchWeft: 1e5 };
  const fabric = fabricSchema.parse({ weight: 0.3, shear: 1e4, squeeze: 1, ...stiff });
  const top = Math.max(...rest.positions.filter((_, i) => i % 3 === 1));
  const held = [...Array(rest.positions.length / 3).keys()].filter((i) => rest.positions[i * 3 + 1]! > top - 1e-5);
  const pivot = rest.positions[held[0]! * 3]!;
  const far = rest.positions.findIndex((y, i) => i % 3 === 1 && y < -size / 2 + 0.002);
  for (const substeps of [40, 400]) {
    const cloths = [{ id: 'strip', rest, positions: rest.positions, fabric, held }];
    const solver = new Solver({ cloths, colliders: [], air: STILL, layers: 'off' });
    const crossings: number[] = [];
    let before = 1;
    for (let step = 0; step < 400 && crossings.length < 3; step++) {
      solver.advance(1 / 96, substeps / 4);
      const now = solver.positions(0)[far - 1]! - pivot;
      if (step > 0 && before * now < 0) crossings.push((step + before / (before - now)) / 96);
      before = now;
    }
    const period = 2 * Math.PI * Math.sqrt((2 * size) / (3 * 9.81)) * (1 + tilt ** 2 / 16);
    line(`swing, ${substeps} substeps`, crossings[2]! - crossings[0]!, period, 's', '3 %');
  }
}

function slide(): void {
  const friction = 0.5;
  const limit = (Math.atan(friction) * 180) / Math.PI;
  const fabric = fabricSchema.parse({ friction, weight: 0.3, airAcross: 0, airAlong: 0 });
  const moved = (degrees: number) => {
    const angle = (degrees * Math.PI) / 180;
    const turn: [number, number, number] = [0, 0, -angle];
    const rest = place(sheet({ width: 0.2, height: 0.2, spacing: 0.02 }), {
      position: [0, 0.00119 / Math.cos(angle), 0],
      rotation: turn,
    });
    const solver = new Solver({
      cloths: [{ id: 'sheet', rest, positions: rest.positions, fabric, held: [] }],
      colliders: [
        { id: 'slope', kind: 'plane', center: [0, 0, 0], rotation: rotation(turn), clearance: 0.001, friction },
      ],
      air: STILL,
    });
    for (let frame = 0; frame < 24; frame++) solver.advance(1 / 24, 40);
    return Math.abs(solver.positions(0)[0]! - rest.positions[0]!);
  };
  let [holds, slides] = [limit - 3, limit + 3];
  for (let i = 0; i < 8; i++) {
    const middle = (holds + slides) / 2;
    if (moved(middle) < 0.001) holds = middle;
    else slides = middle;
  }
  line('slide, angle of friction', (holds + slides) / 2, limit, '°', '1°');
}

/** The same disc cut from a square grid with alternating diagonals, its border drawn to the circle. */
function gridDisc(spacing: number): Mesh {
  const side = 2 * (DISC_RADIUS + spacing);
  const grid = sheet({ width: side, height: side, spacing });
  const distance = (point: number) => Math.hypot(grid.positions[point * 3]!, grid.positions[point * 3 + 2]!);
  const kept: number[] = [];
  for (let t = 0; t < grid.triangles.length; t += 3) {
    const corners = [...grid.triangles.subarray(t, t + 3)];
    if (corners.every((point) => distance(point) < DISC_RADIUS + 0.4 * spacing)) kept.push(...corners);
  }
  const used = [...new Set(kept)].sort((a, b) => a - b);
  const index = new Map(used.map((point, i) => [point, i]));
  const triangles = Uint32Array.from(kept, (point) => index.get(point)!);
  const positions = new Float32Array(used.flatMap((point) => [...grid.positions.subarray(point * 3, point * 3 + 3)]));
  for (const i of borderLoops(topology({ positions, triangles })).flat()) {
    const scale = DISC_RADIUS / Math.hypot(positions[i * 3]!, positions[i * 3 + 2]!);
    positions[i * 3]! *= scale;
    positions[i * 3 + 2]! *= scale;
  }
  const material = Float32Array.from({ length: used.length * 2 }, (_, i) => {
    return positions[(i >> 1) * 3 + (i % 2) * 2]! + DISC_RADIUS;
  });
  return { positions, triangles, material };
}

/** The same disc as a piece of a pattern, laid level. */
function cutDisc(weave: Pattern['weave']): Mesh {
  const piece = makePiece({ name: 'Disc', outline: discNodes(DISC_RADIUS), grain: 0 });
  const { material, positions, triangles } = patternMesh({ spacing: 0.01, weave, pieces: [piece], seams: [] });
  // What was up on the piece lies away from whoever looks.
  const level = positions.map((_, i) => (i % 3 === 0 ? positions[i]! : i % 3 === 1 ? 0 : -positions[i - 1]!));
  return { positions: level, triangles, ...(material && { material }) };
}

function drape(): void {
  const meshes: [string, Mesh | undefined][] = [
    ['', undefined],
    [', cut, all directions', cutDisc('all directions')],
    [', cut, along the grain', cutDisc('along the grain')],
  ];
  for (const card of SWATCH_BOOK) {
    for (const [kind, mesh] of meshes) {
      const { coefficient } = drapeTest(card.fabric, mesh);
      const [low, high] = card.drapeRange;
      const inside = coefficient >= low && coefficient <= high ? 'inside' : 'OUTSIDE';
      row(
        `drape, ${card.name}${kind}`,
        `${(coefficient * 100).toFixed(1)} %`,
        `${(low * 100).toFixed(0)} to ${(high * 100).toFixed(0)} %`,
        inside,
        'range',
      );
    }
  }
  const { fabric } = findCard('linen-mid')!;
  const reference = drapeTest(fabric).coefficient * 100;
  const finer = drapeTest(fabric, disc({ radius: DISC_RADIUS, spacing: 0.0065 })).coefficient * 100;
  line('drape, linen, 6.5 mm against 10 mm', finer, reference, '%', '5 %');
  line('drape, linen, grid against even', drapeTest(fabric, gridDisc(0.01)).coefficient * 100, reference, '%', '5 %');
}

export function truth(): void {
  console.log('The physics against its references');
  row('test', 'measured', 'reference', 'error', 'bar');
  bend();
  sag();
  stretch();
  fall();
  swing();
  slide();
  drape();
}
