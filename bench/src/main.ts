// `npm run bench`: what a frame costs. Medians of interleaved rounds, since the machine is shared; trust the ratios.
import { Solver, topology, type Model } from '@lumbra/core';
import { drapedSheet, hangingSheet } from './scenes';

const ROUNDS = 5;
const SUBSTEPS = 40;
const SIZES = [51, 101, 201];

interface Row {
  name: string;
  constraints: number;
  solver: Solver;
  milliseconds: number[];
}

function row(name: string, model: Model): Row {
  const { rest } = model.cloths[0]!;
  const t = topology(rest);
  // Warp, weft and shear of each face, and one hinge an inner edge.
  const constraints = 3 * (rest.triangles.length / 3) + t.edgeCount - t.borderEdges;
  const solver = new Solver(model);
  // Past the fall, so that contact is at work.
  for (let frame = 0; frame < 20; frame++) solver.advance(1 / 24, SUBSTEPS);
  return { name, constraints, solver, milliseconds: [] };
}

function median(values: number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}

const rows = SIZES.flatMap((n) => [
  row(`${n}x${n} held by its corners`, hangingSheet(n)),
  row(`${n}x${n} draped on a box`, drapedSheet(n)),
]);
for (let round = 0; round < ROUNDS; round++) {
  for (const { solver, milliseconds } of rows) {
    const started = performance.now();
    solver.advance(1 / 24, SUBSTEPS);
    milliseconds.push(performance.now() - started);
  }
}

const first = median(rows[0]!.milliseconds);
console.log(`${SUBSTEPS} substeps a frame, medians of ${ROUNDS} interleaved frames, one thread\n`);
console.log(['scene'.padEnd(30), 'constraints', '   ms/frame', 'ns/constraint', '  times the first'].join('  '));
for (const { name, constraints, milliseconds } of rows) {
  const cost = median(milliseconds);
  console.log(
    [
      name.padEnd(30),
      String(constraints).padStart(11),
      cost.toFixed(1).padStart(11),
      ((cost * 1e6) / (constraints * SUBSTEPS)).toFixed(1).padStart(13),
      (cost / first).toFixed(1).padStart(17),
    ].join('  '),
  );
}
