import type { Fabric } from '../fabric/fabric';
import type { Mesh } from '../mesh/mesh';
import { disc } from '../mesh/shapes/disc';
import { borderLoops, topology } from '../mesh/topology';
import { cosine } from '../math/trigonometry';
import { Solver } from '../solver/solver';
import { substepsFor } from '../solver/substeps';
import { runToRest } from './rest';

export const DISC_RADIUS = 0.15;
export const PEDESTAL_RADIUS = 0.09;
const PEDESTAL_HEIGHT = 0.2;

export interface DrapeTest {
  /** Share of the ring around the pedestal that the hanging disc's shadow covers, 0 to 1. */
  coefficient: number;
  /** Folds around the border. */
  folds: number;
  /** The border seen from above, x z in m. */
  outline: [number, number][];
  atRest: boolean;
}

/**
 * Drape test: a disc of 30 cm lies on a pedestal of 18 cm and hangs over its edge (Cusick 1968, "The Measurement of
 * Fabric Drape"). Takes a few seconds.
 * @param mesh the flat disc; by default even triangles of 1 cm
 */
export function drapeTest(fabric: Fabric, mesh: Mesh = disc({ radius: DISC_RADIUS, spacing: 0.01 })): DrapeTest {
  const positions = mesh.positions.slice();
  const target = fabric.thickness / 2 + 0.0005;
  for (let i = 0; i < positions.length; i += 3) {
    // A ripple of a few tenths of a millimetre, or a perfect disc would hang as a cone.
    const [x, z] = [positions[i]!, positions[i + 2]!];
    positions[i + 1] = target + 0.0003 * (1 + cosine(47 * x + 31 * z) * cosine(29 * x - 53 * z));
  }
  const solver = new Solver({
    cloths: [
      {
        id: 'disc',
        rest: mesh,
        positions,
        fabric: { ...fabric, airAcross: 0, airAlong: 0 },
        held: [],
        layerDistance: 0.001,
      },
    ],
    colliders: [
      {
        id: 'pedestal',
        kind: 'cylinder',
        center: [0, -PEDESTAL_HEIGHT / 2, 0],
        rotation: [1, 0, 0, 0, 1, 0, 0, 0, 1],
        radius: PEDESTAL_RADIUS,
        height: PEDESTAL_HEIGHT,
        clearance: 0.0005,
        friction: 0.6,
      },
    ],
    air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
    layers: 'draft',
  });
  const step = 1 / 24;
  const spacing = spacingOf(mesh);
  const substeps = substepsFor([{ spacing, freeLength: 0.06, fabric }], 9.81, step, 'final');
  const atRest = runToRest(solver, { step, substeps, mostSteps: 90, restSpeed: 0.004 });
  const at = solver.positions(0);
  const loop = borderLoops(topology(mesh))[0]!;
  const outline = loop.map((point): [number, number] => [at[point * 3]!, at[point * 3 + 2]!]);
  return { coefficient: coefficientOf(at, mesh), folds: countFolds(outline), outline, atRest };
}

function spacingOf({ triangles }: Mesh): number {
  const area = (Math.PI * DISC_RADIUS * DISC_RADIUS) / (triangles.length / 3);
  return Math.sqrt(2 * area);
}

const CELL = 0.0005;

/** The shadow from above, counted in cells of half a millimetre. */
function coefficientOf(at: Float32Array, { triangles }: Mesh): number {
  const side = Math.ceil((2.2 * DISC_RADIUS) / CELL);
  const covered = new Uint8Array(side * side);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) => {
      const point = triangles[t + corner]! * 3;
      return [at[point]! / CELL + side / 2, at[point + 2]! / CELL + side / 2] as const;
    }) as [readonly [number, number], readonly [number, number], readonly [number, number]];
    const cross = (p: readonly [number, number], q: readonly [number, number], x: number, y: number) =>
      (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0]);
    const turn = cross(a, b, c[0], c[1]) < 0 ? -1 : 1;
    const [x0, x1] = [Math.floor(Math.min(a[0], b[0], c[0])), Math.ceil(Math.max(a[0], b[0], c[0]))];
    const [y0, y1] = [Math.floor(Math.min(a[1], b[1], c[1])), Math.ceil(Math.max(a[1], b[1], c[1]))];
    for (let y = Math.max(0, y0); y <= Math.min(side - 1, y1); y++) {
      for (let x = Math.max(0, x0); x <= Math.min(side - 1, x1); x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        if (turn * cross(a, b, px, py) < 0 || turn * cross(b, c, px, py) < 0 || turn * cross(c, a, px, py) < 0)
          continue;
        covered[y * side + x] = 1;
      }
    }
  }
  const shadow = covered.reduce((sum, cell) => sum + cell, 0) * CELL * CELL;
  const pedestal = Math.PI * PEDESTAL_RADIUS ** 2;
  return (shadow - pedestal) / (Math.PI * DISC_RADIUS ** 2 - pedestal);
}

/** Places where the border is farthest from the axis, counted on a smoothed outline. */
function countFolds(outline: [number, number][]): number {
  const distances = outline.map(([x, z]) => Math.sqrt(x * x + z * z));
  const n = distances.length;
  const width = Math.max(1, Math.round(n / 60));
  const smooth = distances.map((_, i) => {
    let sum = 0;
    for (let k = -width; k <= width; k++) sum += distances[(i + k + n) % n]!;
    return sum / (2 * width + 1);
  });
  const mean = smooth.reduce((sum, d) => sum + d, 0) / n;
  let folds = 0;
  for (let i = 0; i < n; i++) if (smooth[i]! < mean && smooth[(i + 1) % n]! >= mean) folds++;
  return folds;
}
