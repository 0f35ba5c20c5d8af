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
  const cell = (coordinate: number) => coordinate / CELL + side / 2;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const [ax, ay] = [cell(at[a]!), cell(at[a + 2]!)];
    const [bx, by] = [cell(at[b]!), cell(at[b + 2]!)];
    const [cx, cy] = [cell(at[c]!), cell(at[c + 2]!)];
    const turn = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax) < 0 ? -1 : 1;
    const [firstX, lastX] = within(ax, bx, cx, side);
    const [firstY, lastY] = within(ay, by, cy, side);
    for (let y = firstY; y <= lastY; y++) {
      const py = y + 0.5;
      for (let x = firstX; x <= lastX; x++) {
        const px = x + 0.5;
        if (turn * ((bx - ax) * (py - ay) - (by - ay) * (px - ax)) < 0) continue;
        if (turn * ((cx - bx) * (py - by) - (cy - by) * (px - bx)) < 0) continue;
        if (turn * ((ax - cx) * (py - cy) - (ay - cy) * (px - cx)) < 0) continue;
        covered[y * side + x] = 1;
      }
    }
  }
  let cells = 0;
  for (const each of covered) cells += each;
  const shadow = cells * CELL * CELL;
  const pedestal = Math.PI * PEDESTAL_RADIUS ** 2;
  return (shadow - pedestal) / (Math.PI * DISC_RADIUS ** 2 - pedestal);
}

/** First and last of `side` cells that a triangle may cover along an axis. */
function within(a: number, b: number, c: number, side: number): [number, number] {
  return [Math.max(0, Math.floor(Math.min(a, b, c))), Math.min(side - 1, Math.ceil(Math.max(a, b, c)))];
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
