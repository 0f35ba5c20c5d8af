import type { Mesh } from '../../mesh/mesh';
import type { Topology } from '../../mesh/topology';
import { bendParts } from './bendElements';
import { hingeFit, hingeWeights, type BendRigidity } from './hingeWeights';
import { unfoldedAround } from './unfold';

// How much softer a mesh bends than its hinges say one by one. Hinge stiffnesses are fitted to points that lie on a smoothly bent
// surface; but points that are free move a little off it, and hinges share the bending between them as costs least: by 2 % on even
// triangles, by nothing on a square grid, by more where triangles are uneven. So a patch of the mesh is bent, its inner points are
// let go, and more is asked for by what is lost.
//
// And a mesh of hinges in all directions is a plate with a Poisson's ratio: of a third where its triangles are even, for a hinge feels the
// curvature along it too, if that has any part across itself. Such a plate, wide and bent over an edge, is as stiff as asked for; a strip of it, whose
// sides may curl up, is softer by the square of that ratio. A square grid has none. The fabric's numbers say how strips bend, and cloth hangs in
// folds that are between both, so what is asked for lies between, nearer to strips. What hinges cannot be fitted to is made up for, too.

/** Rings of points around the middle of the patch; the outermost two stay on the bent surface. */
const RINGS = 7;
/** A patch that reaches a border relaxes there too, and tells nothing; then it is made smaller, down to this. */
const FEWEST_RINGS = 4;
/** Directions of curvature, as (uu, uv, vv) of z = (uu u^2 + 2 uv u v + vv v^2) / 2: along warp, weft and both biases. */
const CURVATURES = [
  [1, 0, 0],
  [0, 0, 1],
  [0.5, 0.5, 0.5],
  [0.5, -0.5, 0.5],
] as const;
/** What is left depends on what was asked for; after so many rounds, or once it changes by less than this, it is found. */
const ROUNDS = 8;
const FOUND = 1e-3;
/** Hinges in all directions cannot be fitted to an uneven fabric altogether: more rounds would trade one direction for another without end. */
const ROUNDS_COUPLED = 2;
/** So many faces tell how hinges are fitted. */
const FACES_LOOKED_AT = 1000;
/** The square of the ratio is 0.11 where triangles are even; far from that a mesh is a grid, or too small to be told. */
const COUPLING = { least: 0.06, most: 0.2 };
/** What acts of what was asked for is at least and at most taken as this. */
const ACTS = { least: 2 / 3, most: 3 / 2 };
/** How far of the way from wide cloth to narrow strips. */
const TOWARDS_STRIPS = 2 / 3;

/**
 * The rigidity to ask of the hinges so that the mesh as a whole, its points free, bends as wanted. More may be lost along a stiff warp
 * than along a soft weft, so each direction is made up for by itself.
 */
export function rigidityToAsk(rest: Mesh, t: Topology, wanted: BendRigidity): BendRigidity {
  const neighbours = neighboursOf(rest, t);
  const { centre, depth } = farthestFromBorders(t, neighbours);
  const rings = Math.min(RINGS, depth);
  const free =
    rings < FEWEST_RINGS ? null : relaxation(rest, t, gatherPatch(rest, t, neighbours, centre, rings), rings);
  const plate = plateOf(rest);
  if (!free && !plate) return wanted;
  const bias = ({ warp, weft, twist }: BendRigidity) => (warp + weft + 2 * twist) / 4;
  let asked = wanted;
  for (let round = 0; round < (plate ? ROUNDS_COUPLED : ROUNDS); round++) {
    const acts = plate?.(asked);
    const shares = free?.(asked) ?? CURVATURES.map(() => 1);
    const [u, v, ...biases] = shares.map((share, i) => share * (acts?.[i] ?? 1)) as [number, number, number, number];
    const [warp, weft] = [wanted.warp / u, wanted.weft / v];
    const across = bias(wanted) / ((biases[0] + biases[1]) / 2);
    const changed = Math.max(Math.abs(warp - asked.warp) / warp, Math.abs(weft - asked.weft) / weft);
    asked = { warp, weft, twist: Math.max(0, 2 * across - (warp + weft) / 2) };
    if (!(changed > FOUND)) break;
  }
  return asked;
}

/**
 * Tells, of hinges of a rigidity and for each curvature, how much of what was asked for acts, for what hinges in all directions are as a plate; null
 * for meshes that are as none: square grids.
 */
function plateOf(rest: Mesh): ((rigidity: BendRigidity) => number[]) | null {
  const count = rest.triangles.length / 3;
  const step = Math.max(1, Math.floor(count / FACES_LOOKED_AT));
  const faces = Array.from({ length: Math.ceil(count / step) }, (_, i) => i * step);
  // Of an even fabric: what couples warp and weft is then the mesh alone.
  const { coupling } = hingeFit(rest, { warp: 1, weft: 1, twist: 1 }, faces);
  if (!(coupling > COUPLING.least && coupling < COUPLING.most)) return null;
  return (rigidity) =>
    hingeFit(rest, rigidity, faces).shares.map((share) =>
      Math.min(ACTS.most, Math.max(ACTS.least, share * (1 - TOWARDS_STRIPS * coupling))),
    );
}

/** Tells, of hinges of a rigidity and for each curvature, the share of the energy that is left when the inner points are let go. */
function relaxation(rest: Mesh, t: Topology, patch: Patch, rings: number) {
  const hinges = hingesOf(rest, patch);
  const faces = new Set(
    hinges.flatMap(({ from }) => from.flatMap(({ edge }) => [t.edgeFaces[edge * 2]!, t.edgeFaces[edge * 2 + 1]!])),
  );
  const free = [...patch.rings].filter(([, ring]) => ring <= rings - 2).map(([point]) => point);
  const row = new Map(free.map((point, i) => [point, i]));
  const heights = CURVATURES.map(([uu, uv, vv]) => (point: number) => {
    const [u, v] = patch.places.get(point)!;
    return (uu * u * u + 2 * uv * u * v + vv * v * v) / 2;
  });
  return (rigidity: BendRigidity): number[] => {
    const stiffness = hingeWeights(rest, t, rigidity, { faces });
    return relaxedShares(
      hinges.map((hinge) => ({
        ...hinge,
        stiffness: hinge.from.reduce((sum, { edge, share }) => sum + share * stiffness[edge]!, 0),
      })),
      row,
      heights,
    );
  };
}

interface Hinge {
  points: number[];
  /** The angle of unit height at each point. */
  factors: number[];
  /** The edges whose stiffness it has, and how much of it. */
  from: { edge: number; share: number }[];
}

/** Minimises the energy over the free heights, for each bent surface: normal equations, solved by Cholesky's method. */
function relaxedShares(
  hinges: readonly (Hinge & { stiffness: number })[],
  row: Map<number, number>,
  surfaces: readonly ((point: number) => number)[],
): number[] {
  const n = row.size;
  const matrix = new Float64Array(n * n);
  for (const { points, factors, stiffness } of hinges) {
    for (let i = 0; i < 4; i++) {
      const a = row.get(points[i]!);
      if (a === undefined) continue;
      for (let j = 0; j < 4; j++) {
        const b = row.get(points[j]!);
        if (b !== undefined) matrix[a * n + b]! += stiffness * factors[i]! * factors[j]!;
      }
    }
  }
  const lower = factorise(matrix, n);
  return surfaces.map((height) => {
    const right = new Float64Array(n);
    let [before, after] = [0, 0];
    for (const { points, factors, stiffness } of hinges) {
      const angle = points.reduce((sum, point, i) => sum + factors[i]! * height(point), 0);
      before += stiffness * angle * angle;
      points.forEach((point, i) => {
        const a = row.get(point);
        if (a !== undefined) right[a]! -= stiffness * angle * factors[i]!;
      });
    }
    if (!(before > 0)) return 1;
    const moved = solveFactorised(lower, right, n);
    for (const { points, factors, stiffness } of hinges) {
      const angle = points.reduce((sum, point, i) => {
        const a = row.get(point);
        return sum + factors[i]! * (height(point) + (a === undefined ? 0 : moved[a]!));
      }, 0);
      after += stiffness * angle * angle;
    }
    return after / before;
  });
}

/** The lower factor of a symmetric matrix. */
function factorise(matrix: Float64Array, n: number): Float64Array {
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
  return lower;
}

function solveFactorised(lower: Float64Array, right: Float64Array, n: number): Float64Array {
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

/** The points within so many edges of the centre. */
function gatherPatch(rest: Mesh, t: Topology, neighbours: number[][], centre: number, count: number): Patch {
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
  const places = rest.cornerMaterial ? unfoldedPlaces(rest, t, centre, rings) : placesOf(rest, centre, rings);
  return { rings, places };
}

/** Places of a patch that may go over closed seams: face by face from one at its middle, each turned about the edge to the one before. */
function unfoldedPlaces(
  rest: Mesh,
  t: Topology,
  centre: number,
  rings: Map<number, number>,
): Map<number, [number, number]> {
  const start = Math.floor(rest.triangles.indexOf(centre) / 3);
  const places = unfoldedAround(rest, t, start, (_, far) => rings.has(far));
  return new Map([...places].filter(([point]) => rings.has(point)).map(([point, [u, v]]) => [point, [u, v]]));
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

/** What bends with all of its points in the patch. */
function hingesOf(rest: Mesh, { places }: Patch): Hinge[] {
  const { count, points, vectors, edges, shares } = bendParts(rest).flat;
  const found: Hinge[] = [];
  for (let i = 0; i < count; i++) {
    const own = [...points.subarray(i * 4, i * 4 + 4)];
    if (!own.every((point) => places.has(point))) continue;
    const from = [i * 2, i * 2 + 1].flatMap((n) => (edges[n]! < 0 ? [] : [{ edge: edges[n]!, share: shares[n]! }]));
    found.push({ points: own, factors: [...vectors.subarray(i * 4, i * 4 + 4)], from });
  }
  return found;
}
