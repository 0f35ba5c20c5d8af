import type { Fabric } from '../fabric/fabric';
import type { Mesh } from '../mesh/mesh';
import { sheet } from '../mesh/shapes/sheet';
import { Solver } from '../solver/solver';
import { bendHonoured } from '../solver/substeps';
import { bendingLength, elastica, rigidityOfShape } from './elastica';
import { runToRest } from './rest';

export type Direction = 'warp' | 'weft' | 'bias';

export interface BendTestOptions {
  /** Which way the strip is cut. */
  direction: Direction;
  /** Distance between points in m, to the next of which the free length is a multiple; by default a twelfth of that. */
  spacing?: number;
  /** Free length in m; by default twice the bending length, where the droop tells most. */
  length?: number;
  /** In m; by default half the free length. */
  width?: number;
  /** Share of bending that the substeps have to honour. */
  honoured?: number;
  /** The flat strip, x along it around its middle, its length with one spacing for the clamp; by default a sheet. */
  cut?: (length: number, width: number, spacing: number) => Mesh;
}

export interface BendTest {
  /** Free length of the strip in m. */
  length: number;
  /** How far its tip hangs down, in m, and how far the elastica of the fabric's rigidity would. */
  droop: number;
  predictedDroop: number;
  /** Bending length in m: as measured on the strip, and as the fabric's numbers say. */
  bendingLength: number;
  predictedLength: number;
  /** The rigidity that acted, in N.m, and the fabric's. */
  rigidity: number;
  predictedRigidity: number;
  /** Side views from the clamp to the tip, x along and y upwards, in m. */
  silhouette: [number, number][];
  predictedSilhouette: [number, number][];
}

/** Bend rigidity along a direction; on the bias as the solver blends warp and weft. */
export function rigidityAlong({ bendWarp, bendWeft }: Fabric, direction: Direction): number {
  if (direction === 'warp') return bendWarp;
  if (direction === 'weft') return bendWeft;
  return (bendWarp + bendWeft + 2 * Math.sqrt(bendWarp * bendWeft)) / 4;
}

/** The test is of stiffness alone: air, curl and creases are left out. */
const PLAIN = { airAcross: 0, airAlong: 0, curlWarp: 0, curlWeft: 0, creaseMemory: 0 };

/**
 * Bend test: a strip, clamped level over two columns of points, hangs over an edge under its own weight (after the
 * cantilever test of Peirce 1930). Takes about a second.
 */
export function bendTest(fabric: Fabric, options: BendTestOptions): BendTest {
  const predictedRigidity = rigidityAlong(fabric, options.direction);
  const predictedLength = bendingLength(fabric.weight, predictedRigidity);
  const length = options.length ?? 2 * predictedLength;
  // A whole number of columns hangs free, or the clamp would lie between two of them.
  const columns = Math.max(2, Math.round(length / (options.spacing ?? length / 12)));
  const spacing = length / columns;
  const width = options.width ?? 0.5 * length;
  const rest = options.cut?.(length, width, spacing) ?? strip(length, width, spacing, options.direction);
  const left = -(length + spacing) / 2;
  const held: number[] = [];
  for (let i = 0; i < rest.positions.length / 3; i++) if (rest.positions[i * 3]! < left + spacing * 1.01) held.push(i);
  const solver = new Solver({
    cloths: [{ id: 'strip', rest, positions: rest.positions, fabric: { ...fabric, ...PLAIN }, held }],
    colliders: [],
    air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
    layers: 'off',
  });
  const step = 1 / 24;
  const scale = { spacing, freeLength: length, fabric };
  let substeps = 20;
  while (bendHonoured(scale, step / substeps) < (options.honoured ?? 0.97) && substeps < 1200) substeps += 20;
  runToRest(solver, { step, substeps, mostSteps: 300, restSpeed: length * 2e-3 });
  const view = sideView(solver.positions(0), rest, left + spacing);
  const silhouette = view.map(({ x, y }): [number, number] => [x, y]);
  const droop = -silhouette.at(-1)![1];
  // The hinge at the clamp bends for half a spacing on either side of it, so the strip begins half a spacing inside the clamp.
  const acting = length + spacing / 2;
  const predictedSilhouette = elastica(acting, fabric.weight, predictedRigidity);
  const shape = view.map(({ along, x, y }) => ({ along: along + spacing / 2, x: x + spacing / 2, y }));
  const rigidity = rigidityOfShape(shape, acting, fabric.weight);
  return {
    length,
    droop,
    predictedDroop: -predictedSilhouette.at(-1)![1],
    bendingLength: bendingLength(fabric.weight, rigidity),
    predictedLength,
    rigidity,
    predictedRigidity,
    silhouette,
    predictedSilhouette,
  };
}

/** A strip along x with its grain turned to the direction. */
function strip(length: number, width: number, spacing: number, direction: Direction): Mesh {
  const rows = Math.max(2, Math.round(width / spacing));
  const mesh = sheet({ width: length + spacing, height: rows * spacing, spacing });
  const material = new Float32Array(mesh.material!.length);
  const half = Math.SQRT1_2;
  for (let i = 0; i < material.length; i += 2) {
    const [u, v] = [mesh.material![i]!, mesh.material![i + 1]!];
    if (direction === 'warp') material.set([u, v], i);
    else if (direction === 'weft') material.set([v, -u], i);
    else material.set([half * (u - v), half * (u + v)], i);
  }
  return { ...mesh, material };
}

/** Means of the columns, from the clamp on, and how far along the strip each lies. */
function sideView(positions: Float32Array, rest: Mesh, clamp: number): { along: number; x: number; y: number }[] {
  const columns = new Map<number, { x: number; y: number; count: number }>();
  for (let i = 0; i < positions.length / 3; i++) {
    const key = Math.round(rest.positions[i * 3]! * 1e6);
    if (rest.positions[i * 3]! < clamp - 1e-6) continue;
    const column = columns.get(key) ?? { x: 0, y: 0, count: 0 };
    column.x += positions[i * 3]!;
    column.y += positions[i * 3 + 1]!;
    column.count++;
    columns.set(key, column);
  }
  return [...columns.keys()]
    .sort((a, b) => a - b)
    .map((key) => {
      const { x, y, count } = columns.get(key)!;
      return { along: key / 1e6 - clamp, x: x / count - clamp, y: y / count };
    });
}
