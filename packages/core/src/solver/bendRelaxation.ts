import type { Mesh } from '../mesh/mesh';
import type { Topology } from '../mesh/topology';

// How much softer a mesh bends than its hinges say one by one. Hinge stiffnesses are fitted to points that lie on a smoothly bent
// surface; but points that are free move a little off it, and hinges share the bending between them as costs least. On
// a square grid with alternating diagonals that takes a third of the stiffness away, and every strip hung too deep
// (acting rigidity 0.65 of what was asked for). So a patch of the mesh is bent, its inner points are let go, and all stiffnesses are divided
// by what is left of the energy.

/** Rings of points around the middle of the patch; the outermost two stay on the bent surface. */
const RINGS = 7;
/** A patch that reaches a border relaxes there too, and tells nothing; then it is made smaller, down to this. */
const FEWEST_RINGS = 4;
/**
 * What was measured with alternating diagonals, for pieces that are too narrow to hold a patch: on a wide sheet, and on hanging
 * strips of two and three cells, whose borders leave fewer points free to move.
 */
const WIDE_GRID = 0.8143;
const STRIP = 0.872;
/** Directions of curvature, as (uu, uv, vv) of z = (uu u^2 + 2 uv u v + vv v^2) / 2. */
const CURVATURES = [
  [1, 0, 0],
  [0, 0, 1],
  [0.5, 0.5, 0.5],
  [0.5, -0.5, 0.5],
] as const;

/** The share of the bending energy that is left when the inner points of a patch are let go, 0 to 1. */
export function bendRelaxation(rest: Mesh, t: Topology, stiffness: Float64Array): number {
  const neighbours = neighboursOf(rest, t);
  const { centre, depth } = farthestFromBorders(t, neighbours);
  const rings = Math.min(RINGS, depth);
  if (rings < FEWEST_RINGS) {
    if (!isAlternating(t, neighbours)) return 1;
    return rings <= 1 ? STRIP : WIDE_GRID;
  }
  const patch = gatherPatch(rest, neighbours, centre, rings);
  const hinges = hingesOf(rest, t, patch, stiffness);
  const free = [...patch.rings].filter(([, ring]) => ring <= rings - 2).map(([point]) => point);
  const row = new Map(free.map((point, i) => [point, i]));
  let share = 0;
  for (const [uu, uv, vv] of CURVATURES) {
    const height = (point: number) => {
      const [u, v] = patch.places.get(point)!;
      return (uu * u * u + 2 * uv * u * v + vv * v * v) / 2;
    };
    share += relaxedShare(hinges, row, height);
  }
  return share / CURVATURES.length;
}

interface Hinge {
  points: [number, number, number, number];
  /** The angle of unit height at each point. */
  factors: [number, number, number, number];
  stiffness: number;
}

/** Minimises the energy over the free heights: normal equations, solved by Cholesky's method. */
function relaxedShare(hinges: readonly Hinge[], row: Map<number, number>, height: (point: number) => number): number {
  const n = row.size;
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  let before = 0;
  for (const { points, factors, stiffness } of hinges) {
    const angle = points.reduce((sum, point, i) => sum + factors[i]! * height(point), 0);
    before += stiffness * angle * angle;
    for (let i = 0; i < 4; i++) {
      const a = row.get(points[i]!);
      if (a === undefined) continue;
      right[a]! -= stiffness * angle * factors[i]!;
      for (let j = 0; j < 4; j++) {
        const b = row.get(points[j]!);
        if (b !== undefined) matrix[a * n + b]! += stiffness * factors[i]! * factors[j]!;
      }
    }
  }
  if (!(before > 0)) return 1;
  const moved = solveSymmetric(matrix, right, n);
  let after = 0;
  for (const { points, factors, stiffness } of hinges) {
    const angle = points.reduce((sum, point, i) => {
      const a = row.get(point);
      return sum + factors[i]! * (height(point) + (a === undefined ? 0 : moved[a]!));
    }, 0);
    after += stiffness * angle * angle;
  }
  return after / before;
}

function solveSymmetric(matrix: Float64Array, right: Float64Array, n: number): Float64Array {
  const lower = matrix.slice();
  const scale = 1e-9 * Math.max(...Array.from({ length: n }, (_, i) => matrix[i * n + i]!));
  for (let j = 0; j < n; j++) {
    for (let i = j; i < n; i++) {
      let sum = lower[i * n + j]!;
      for (let k = 0; k < j; k++) sum -= lower[i * n + k]! * lower[j * n + k]!;
      if (i === j) lower[j * n + j] = Math.sqrt(Math.max(sum, scale));
      else lower[i * n + j] = sum / lower[j * n + j]!;
    }
  }
  const out = right.slice();
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) out[i]! -= lower[i * n + k]! * out[k]!;
    out[i]! /= lower[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) out[i]! -= lower[k * n + i]! * out[k]!;
    out[i]! /= lower[i * n + i]!;
  }
  return out;
}

interface Patch {
  /** Points of the patch with the ring they are in. */
  rings: Map<number, number>;
  /** Their places in the plane of the patch, in m. */
  places: Map<number, [number, number]>;
}

/** The point that is farthest from every border, and how far, in edges; 0 where there is no point off the border. */
function farthestFromBorders(t: Topology, neighbours: number[][]): { centre: number; depth: number } {
  const depth = new Int32Array(neighbours.length).fill(-1);
  let wave: number[] = [];
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1]! >= 0) continue;
    for (const end of [0, 1]) {
      const point = t.edgePoints[edge * 2 + end]!;
      if (depth[point] === -1) {
        depth[point] = 0;
        wave.push(point);
      }
    }
  }
  // A closed mesh has no border: any point will do.
  if (wave.length === 0) return { centre: 0, depth: RINGS };
  let centre = wave[0]!;
  while (wave.length > 0) {
    const next: number[] = [];
    for (const point of wave) {
      centre = point;
      for (const other of neighbours[point]!) {
        if (depth[other] !== -1) continue;
        depth[other] = depth[point]! + 1;
        next.push(other);
      }
    }
    wave = next;
  }
  return { centre, depth: depth[centre]! };
}

/** Whether points with four and with eight neighbours take turns, as on a grid with alternating diagonals. */
function isAlternating(t: Topology, neighbours: number[][]): boolean {
  const border = new Set<number>();
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1]! >= 0) continue;
    border.add(t.edgePoints[edge * 2]!).add(t.edgePoints[edge * 2 + 1]!);
  }
  const inner = neighbours.filter((_, point) => !border.has(point));
  return inner.length > 0 && inner.every(({ length }) => length === 4 || length === 8);
}

/** The points within so many edges of the centre. */
function gatherPatch(rest: Mesh, neighbours: number[][], centre: number, count: number): Patch {
  const rings = new Map([[centre, 0]]);
  let wave = [centre];
  for (let ring = 1; ring <= count; ring++) {
    const next: number[] = [];
    for (const point of wave) {
      for (const other of neighbours[point]!) {
        if (rings.has(other)) continue;
        rings.set(other, ring);
        next.push(other);
      }
    }
    wave = next;
  }
  return { rings, places: placesOf(rest, centre, rings) };
}

/** Places in the flat cloth; where it was not cut flat, in the plane of the middle's face. */
function placesOf(rest: Mesh, centre: number, rings: Map<number, number>): Map<number, [number, number]> {
  const m = rest.material;
  if (m) return new Map([...rings.keys()].map((point) => [point, [m[point * 2]!, m[point * 2 + 1]!]]));
  const p = rest.positions;
  const at = (point: number) => [0, 1, 2].map((axis) => p[point * 3 + axis]! - p[centre * 3 + axis]!);
  const dot = (a: number[], b: number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
  const spokes = [...rings].filter(([, ring]) => ring === 1).map(([point]) => at(point));
  const first = spokes[0] ?? [1, 0, 0];
  const size = Math.sqrt(dot(first, first)) || 1;
  const u = first.map((value) => value / size);
  // Of the other spokes, the one most across the first.
  const across = spokes
    .map((spoke) => spoke.map((value, axis) => value - dot(spoke, u) * u[axis]!))
    .reduce((best, spoke) => (dot(spoke, spoke) > dot(best, best) ? spoke : best), [0, 0, 0]);
  const breadth = Math.sqrt(dot(across, across)) || 1;
  const v = across.map((value) => value / breadth);
  return new Map([...rings.keys()].map((point) => [point, [dot(at(point), u), dot(at(point), v)]]));
}

function neighboursOf(rest: Mesh, t: Topology): number[][] {
  const neighbours = Array.from({ length: rest.positions.length / 3 }, () => [] as number[]);
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
    neighbours[a]!.push(b);
    neighbours[b]!.push(a);
  }
  return neighbours;
}

/** The hinges whose four points all lie in the patch. */
function hingesOf(rest: Mesh, t: Topology, { places }: Patch, stiffness: Float64Array): Hinge[] {
  const found: Hinge[] = [];
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1]! < 0 || stiffness[edge] === 0) continue;
    const points: [number, number, number, number] = [
      t.edgePoints[edge * 2]!,
      t.edgePoints[edge * 2 + 1]!,
      t.edgeOpposites[edge * 2]!,
      t.edgeOpposites[edge * 2 + 1]!,
    ];
    const flat = points.map((point) => places.get(point));
    const [a, b, c, d] = flat;
    if (!a || !b || !c || !d) continue;
    const [eu, ev] = [b[0] - a[0], b[1] - a[1]];
    const square = eu * eu + ev * ev;
    const part = (far: [number, number]) => {
      const [fu, fv] = [far[0] - a[0], far[1] - a[1]];
      return { along: (eu * fu + ev * fv) / square, height: Math.abs(eu * fv - ev * fu) / Math.sqrt(square) };
    };
    const [p, q] = [part(c), part(d)];
    if (!(p.height > 0 && q.height > 0)) continue;
    const factors: [number, number, number, number] = [
      -(1 - p.along) / p.height - (1 - q.along) / q.height,
      -p.along / p.height - q.along / q.height,
      1 / p.height,
      1 / q.height,
    ];
    found.push({ points, factors, stiffness: stiffness[edge]! });
  }
  return found;
}
