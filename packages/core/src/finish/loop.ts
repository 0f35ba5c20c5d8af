import { cosine } from '../math/trigonometry';
import type { Mesh } from '../mesh/mesh';
import { seamEdges } from '../mesh/seamEdges';
import { topology, type Topology } from '../mesh/topology';
import { applyStencil, stencilOf, type Stencil } from './stencil';

// Subdivision of triangles (Loop 1987 “Smooth Subdivision Surfaces Based on Triangles”), with borders as cubic curves of their own and corners
// that stay, and the places on the limit surface (Hoppe et al. 1994 “Piecewise Smooth Surface Reconstruction”).

type Row = [source: number, weight: number][];

/** A border that turns by more than this at a point, in radians, has a corner there. */
const CORNER = Math.PI / 5;

/** What borders a point has: the two neighbours along it; null inside. Where more or fewer than two borders meet, it stays where it is. */
type Sides = readonly number[] | null;

/** One level: the finer mesh as cut, and how its points come from the coarse ones. */
export interface LoopLevel {
  mesh: Mesh;
  stencil: Stencil;
  /** The same faces laid flat in the coarse ones: new points in the middle of edges. */
  flat: Stencil;
  /** Points that stay where they are, in the finer mesh. */
  corners: ReadonlySet<number>;
}

/** The corners of a mesh as cut: where its border turns sharply. */
export function cornersOf(mesh: Mesh): Set<number> {
  const { positions: p } = mesh;
  const found = new Set<number>();
  bordersOf(mesh, topology(mesh)).forEach((sides, point) => {
    if (!sides) return;
    if (sides.length !== 2) return void found.add(point);
    const [a, b] = sides.map((other) => [0, 1, 2].map((axis) => p[other * 3 + axis]! - p[point * 3 + axis]!));
    const dot = a!.reduce((sum, value, i) => sum + value * b![i]!, 0);
    const sizes = Math.hypot(...a!) * Math.hypot(...b!);
    if (sizes > 0 && -dot / sizes < cosine(CORNER)) found.add(point);
  });
  return found;
}

/** Splits every face in four. */
export function loopLevel(mesh: Mesh, corners: ReadonlySet<number>): LoopLevel {
  const t = topology(mesh);
  const points = mesh.positions.length / 3;
  const borders = bordersOf(mesh, t);
  const around = neighboursOf(t, points);
  const rows: Row[] = [];
  for (let point = 0; point < points; point++) rows.push(evenRow(point, borders[point]!, around[point]!, corners));
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    const [c, d] = [t.edgeOpposites[edge * 2]!, t.edgeOpposites[edge * 2 + 1]!];
    rows.push(
      d < 0
        ? [
            [a, 1 / 2],
            [b, 1 / 2],
          ]
        : [
            [a, 3 / 8],
            [b, 3 / 8],
            [c, 1 / 8],
            [d, 1 / 8],
          ],
    );
  }
  const stencil = stencilOf(rows);
  const faces = mesh.triangles.length / 3;
  const triangles = new Uint32Array(faces * 12);
  for (let face = 0; face < faces; face++) {
    const [a, b, c] = [0, 1, 2].map((corner) => mesh.triangles[face * 3 + corner]!) as [number, number, number];
    const [ab, bc, ca] = [0, 1, 2].map((corner) => points + t.faceEdges[face * 3 + corner]!) as [
      number,
      number,
      number,
    ];
    triangles.set([a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca], face * 12);
  }
  const made: Mesh = {
    positions: applyStencil(stencil, mesh.positions, 3),
    triangles,
    // Material coordinates are halved along edges, so that prints keep to the weave.
    ...(mesh.material && { material: halved(mesh.material, t, points) }),
    ...(mesh.sewn && { sewn: halvedSeams(mesh.sewn, t, points) }),
  };
  const flat = stencilOf([
    ...Array.from({ length: points }, (_, point): Row => [[point, 1]]),
    ...Array.from({ length: t.edgeCount }, (_, edge): Row => [
      [t.edgePoints[edge * 2]!, 1 / 2],
      [t.edgePoints[edge * 2 + 1]!, 1 / 2],
    ]),
  ]);
  return { mesh: made, stencil, flat, corners };
}

/** Where the points of a mesh come to lie on the surface that ever finer subdivision gives. */
export function limitStencil(mesh: Mesh, corners: ReadonlySet<number>): Stencil {
  const t = topology(mesh);
  const points = mesh.positions.length / 3;
  const borders = bordersOf(mesh, t);
  const around = neighboursOf(t, points);
  return stencilOf(
    Array.from({ length: points }, (_, point): Row => {
      const sides = borders[point]!;
      if (corners.has(point) || around[point]!.length === 0 || (sides && sides.length !== 2)) return [[point, 1]];
      if (sides)
        return [
          [point, 2 / 3],
          [sides[0]!, 1 / 6],
          [sides[1]!, 1 / 6],
        ];
      const n = around[point]!.length;
      const share = 1 / (3 / (8 * beta(n)) + n);
      return [[point, 1 - n * share], ...around[point]!.map((other): [number, number] => [other, share])];
    }),
  );
}

function evenRow(point: number, sides: Sides, around: readonly number[], corners: ReadonlySet<number>): Row {
  if (corners.has(point) || around.length === 0 || (sides && sides.length !== 2)) return [[point, 1]];
  if (sides)
    return [
      [point, 3 / 4],
      [sides[0]!, 1 / 8],
      [sides[1]!, 1 / 8],
    ];
  const share = beta(around.length);
  return [[point, 1 - around.length * share], ...around.map((other): [number, number] => [other, share])];
}

/** How much a neighbour counts, for a point with n of them. */
function beta(n: number): number {
  const around = 3 / 8 + cosine((2 * Math.PI) / n) / 4;
  return (5 / 8 - around * around) / n;
}

/** For each point its neighbours along borders; null for points inside. */
function bordersOf(mesh: Mesh, t: Topology): Sides[] {
  const sides: (number[] | null)[] = Array.from({ length: mesh.positions.length / 3 }, () => null);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1]! >= 0) continue;
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    (sides[a] ??= []).push(b);
    (sides[b] ??= []).push(a);
  }
  return sides;
}

function neighboursOf(t: Topology, points: number): number[][] {
  const around: number[][] = Array.from({ length: points }, () => []);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    around[a]!.push(b);
    around[b]!.push(a);
  }
  return around;
}

function halved(material: Float32Array, t: Topology, points: number): Float32Array {
  const out = new Float32Array((points + t.edgeCount) * 2);
  out.set(material);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    for (let axis = 0; axis < 2; axis++) {
      out[(points + edge) * 2 + axis] =
        (material[t.edgePoints[edge * 2]! * 2 + axis]! + material[t.edgePoints[edge * 2 + 1]! * 2 + axis]!) / 2;
    }
  }
  return out;
}

/** Which points are sewn together when there is one more in the middle of each edge: those of sewn borders. */
function halvedSeams(sewn: Uint32Array, t: Topology, points: number): Uint32Array {
  const halves = new Uint32Array(points + t.edgeCount);
  halves.set(sewn);
  seamEdges(t, sewn).forEach((first, edge) => (halves[points + edge] = points + first));
  return halves;
}
