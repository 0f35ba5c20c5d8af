import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { flatTriangles, topology } from '@lumbra/core';
import { buildBend, setBendStiffness } from '../../packages/core/src/solver/constraints/bendRecords';
import { KernelMemory } from '../../packages/core/src/solver/kernelMemory';
import { buildMembrane, setMembraneStiffness } from '../../packages/core/src/solver/constraints/membraneRecords';
import { median, row } from './print';
import { hangingSheet } from './scenes';

// Membrane and bending in WebAssembly against the same loops in C++ (g++ -O3 -march=native, 4-wide), on the same arrays.

const SUBSTEPS = 40;
const ROUNDS = 7;

/** Compiles the native loops; undefined where there is no compiler. */
function compile(folder: string): string | undefined {
  const source = path.join(path.dirname(fileURLToPath(import.meta.url)), '..', 'native', 'loops.cpp');
  const program = path.join(folder, 'loops');
  const { status } = spawnSync('g++', ['-O3', '-march=native', '-o', program, source], { stdio: 'ignore' });
  return status === 0 ? program : undefined;
}

/** The kernel's arrays for a hanging sheet, and a function that runs a round on them. */
function kernelScene(n: number): { image: Uint8Array; run: () => void } {
  const [cloth] = hangingSheet(n).cloths;
  const { rest, fabric, held } = cloth!;
  const h = 1 / 24 / SUBSTEPS;
  const memory = new KernelMemory();
  const count = n * n + 1;
  const array = () => memory.allocate(count * 16);
  const [p, d, e, start, v, a] = [array(), array(), array(), array(), array(), array()] as const;
  const flat = flatTriangles(rest, fabric);
  const t = topology(rest);
  const masses = Float64Array.from(flat.pointMasses, (mass) => 1 / mass);
  for (const point of held) masses[point] = 0;
  const membrane = buildMembrane(memory, rest, flat, 0, n * n);
  const bend = buildBend(memory, rest, t, 0);
  const points = memory.floats(p, count * 4);
  for (let i = 0; i < n * n; i++) points.set([...rest.positions.subarray(i * 3, i * 3 + 3), masses[i]!], i * 4);
  setMembraneStiffness(memory, membrane, flat, fabric, h);
  setBendStiffness(memory, bend, rest, t, fabric, masses, h, h * 4);
  const header = new Uint8Array(20);
  new Int32Array(header.buffer, 0, 3).set([count, membrane.groups, bend.flat.count]);
  new Float32Array(header.buffer, 12, 2).set([h, -9.81]);
  const parts = [
    header,
    memory.bytes(p, count * 16),
    memory.bytes(membrane.address, membrane.groups * 176),
    memory.bytes(bend.flat.address, bend.flat.count * 48),
  ];
  const image = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  parts.reduce((at, part) => (image.set(part, at), at + part.length), 0);
  memory.run.setGravity(p, a, count, 0, -9.81, 0);
  return {
    image,
    run: () => {
      for (let k = 0; k < SUBSTEPS; k++) {
        memory.run.predict(p, d, e, start, v, a, count, h);
        memory.run.solveMembrane(p, d, membrane.address, membrane.colours.address, membrane.colours.count);
        memory.run.solveBendFlat(p, d, bend.flat.address, bend.flat.starts.address, bend.flat.starts.count);
        memory.run.finish(p, d, e, start, v, count, h);
      }
    },
  };
}

export function nativeLimit(): void {
  console.log(
    `\nMembrane and bending against the native limit, ${SUBSTEPS} substeps, medians of ${ROUNDS} interleaved rounds`,
  );
  const folder = mkdtempSync(path.join(tmpdir(), 'lumbra-bench-'));
  try {
    const program = compile(folder);
    if (!program) {
      console.log('left out: there is no g++ on this machine');
      return;
    }
    row('sheet', 'C++ ms', 'kernel ms', 'kernel / C++');
    for (const n of [51, 101, 201]) {
      const { image, run } = kernelScene(n);
      const file = path.join(folder, `${n}.bin`);
      writeFileSync(file, image);
      run();
      const [native, kernel]: [number[], number[]] = [[], []];
      for (let round = 0; round < ROUNDS; round++) {
        const { stdout } = spawnSync(program, [file, String(SUBSTEPS), '3'], { encoding: 'utf8' });
        native.push(median(stdout.trim().split('\n').map(Number)));
        const started = performance.now();
        run();
        kernel.push(performance.now() - started);
      }
      const [c, k] = [median(native), median(kernel)];
      row(`${n}x${n}`, c.toFixed(1), k.toFixed(1), (k / c).toFixed(2));
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
