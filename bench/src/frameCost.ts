import { Solver, substepsFor, topology, type Model } from '@lumbra/core';
import { median, row } from './print';
import { drapedSheet, hangingSheet } from './scenes';

const ROUNDS = 5;
const SUBSTEPS = 40;

interface Entry {
  name: string;
  constraints: number;
  substeps: number;
  solver: Solver;
  milliseconds: number[];
}

function entry(name: string, model: Model, substeps: number, warmFrames: number): Entry {
  const { rest } = model.cloths[0]!;
  const t = topology(rest);
  // Warp, weft and shear of each face, and one hinge an inner edge.
  const constraints = 3 * (rest.triangles.length / 3) + t.edgeCount - t.borderEdges;
  const solver = new Solver({ ...model, layers: 'off' });
  for (let frame = 0; frame < warmFrames; frame++) solver.advance(1 / 24, substeps);
  return { name, constraints, substeps, solver, milliseconds: [] };
}

function measure(entries: Entry[]): void {
  for (let round = 0; round < ROUNDS; round++) {
    for (const { solver, substeps, milliseconds } of entries) {
      const started = performance.now();
      solver.advance(1 / 24, substeps);
      milliseconds.push(performance.now() - started);
    }
  }
  const first = median(entries[0]!.milliseconds);
  row('scene', 'substeps', 'constraints', 'ms/frame', 'ns/constraint', 'times the first');
  for (const { name, constraints, substeps, milliseconds } of entries) {
    const cost = median(milliseconds);
    const each = (cost * 1e6) / (constraints * substeps);
    row(name, String(substeps), String(constraints), cost.toFixed(1), each.toFixed(1), (cost / first).toFixed(1));
  }
}

/** The solver alone: a fixed number of substeps, then how cost grows when the rule chooses them. */
export function frameCost(): void {
  console.log(`A frame with ${SUBSTEPS} substeps, one thread, medians of ${ROUNDS} interleaved frames`);
  measure(
    [51, 101, 201].flatMap((n) => [
      // Past the fall, so that contact is at work.
      entry(`${n}x${n} held by its corners`, hangingSheet(n), SUBSTEPS, 20),
      entry(`${n}x${n} draped on a box`, drapedSheet(n), SUBSTEPS, 20),
    ]),
  );
  console.log('\nHow cost grows with substeps by the rule (shot quality), one metre of cloth draped on a box');
  measure(
    [50, 100, 200, 300].map((n) => {
      const spacing = 1 / (n - 1);
      const model = drapedSheet(n, spacing);
      const { fabric } = model.cloths[0]!;
      const substeps = substepsFor([{ spacing, freeLength: 1, fabric }], 9.81, 1 / 24, 'shot');
      return entry(`${n}x${n}`, model, substeps, n > 200 ? 3 : 8);
    }),
  );
}
