import { cosine, sine } from '../math/trigonometry';
import type { Fabric } from '../fabric/fabric';
import { scaleOf, type FaceScales } from '../fabric/faceScales';
import type { Mesh } from '../mesh/mesh';
import type { Topology } from '../mesh/topology';
import { flatEdges } from './flatTriangles';

// How stiff each hinge must be. A hinge sees only the curvature across itself, and how its angle follows from
// curvature depends on the mesh around it: the textbook weight 3/(A0+A1) acted 2.4 times too stiff on a grid.
// So every triangle asks: which stiffness of my three hinges gives a surface of unit curvature, bent in
// whatever direction, the energy that the fabric's rigidity says? That is a least-squares problem with three
// unknowns that must not be negative, solved over DIRECTIONS. It is exact on a square grid with alternating
// diagonals and on equilateral triangles, and blends warp and weft by direction.
//
// Tried: one weight |e|^2/(A0+A1) for all hinges, exact for equilateral triangles, twice too stiff on the
// diagonals of a grid; hence 20 % to 40 % too stiff on the bias.

const DIRECTIONS = 8;
const SAMPLES = Array.from({ length: DIRECTIONS }, (_, i) => {
  const angle = (Math.PI * i) / DIRECTIONS;
  const [c, s] = [cosine(angle), sine(angle)];
  return { uu: c * c, uv: c * s, vv: s * s };
});

/** How a cloth bends, in N.m: along warp, along weft, and what ties the two on the bias. */
export interface BendRigidity {
  warp: number;
  weft: number;
  twist: number;
}

/** That of a fabric, which blends warp and weft by direction. */
export function rigidityOf({ bendWarp, bendWeft }: Pick<Fabric, 'bendWarp' | 'bendWeft'>): BendRigidity {
  return { warp: bendWarp, weft: bendWeft, twist: Math.sqrt(bendWarp * bendWeft) };
}

/** Energy per area of unit curvature in each direction, times two. */
function wantedEnergies({ warp, weft, twist }: BendRigidity): number[] {
  return SAMPLES.map(({ uu, uv, vv }) => warp * uu * uu + weft * vv * vv + 2 * twist * uv * uv);
}

/** A point in the plane of a triangle: along warp and weft, in metres. */
type Flat = readonly [number, number];

/**
 * Stiffness k in N.m per hinge, so that its energy is 1/2 k angle^2; zero on borders. Length is the number of
 * edges. Where only some faces are asked for, hinges between two of those have all of their stiffness.
 */
export function hingeWeights(
  rest: Mesh,
  t: Topology,
  rigidity: BendRigidity,
  { scales, faces }: { scales?: FaceScales | undefined; faces?: Iterable<number> } = {},
): Float64Array {
  const stiffness = new Float64Array(t.edgeCount);
  const even = wantedEnergies(rigidity);
  const scaled = scales?.bendWarp !== undefined || scales?.bendWeft !== undefined;
  for (const face of faces ?? Array(rest.triangles.length / 3).keys()) {
    const [e1u, e1v, e2u, e2v] = flatEdges(rest, face);
    const corners: Flat[] = [
      [0, 0],
      [e1u, e1v],
      [e2u, e2v],
    ];
    const area = Math.abs(e1u * e2v - e1v * e2u) / 2;
    if (area < 1e-16) continue;
    const wanted = scaled ? wantedEnergies(scaledBy(rigidity, scales, face)) : even;
    const squares = [0, 1, 2].map((corner) => {
      const flap = unfoldedFlap(rest, t, face, corner, corners);
      const angles = hingeAngles(corners[corner]!, corners[(corner + 1) % 3]!, corners[(corner + 2) % 3]!, flap);
      return angles.map((angle) => angle * angle);
    });
    const fitted = fitNonNegative(
      squares,
      wanted.map((energy) => energy * area),
    );
    for (let corner = 0; corner < 3; corner++) {
      const edge = t.faceEdges[face * 3 + corner]!;
      if (t.edgeFaces[edge * 2 + 1]! >= 0) stiffness[edge]! += fitted[corner]!;
    }
  }
  return stiffness;
}

function scaledBy({ warp, weft, twist }: BendRigidity, scales: FaceScales | undefined, face: number): BendRigidity {
  const [along, across] = [scaleOf(scales, 'bendWarp', face), scaleOf(scales, 'bendWeft', face)];
  return { warp: warp * along, weft: weft * across, twist: twist * Math.sqrt(along * across) };
}

/** The neighbour's far point, turned into this triangle's plane; on a border, this triangle's own, mirrored. */
function unfoldedFlap(rest: Mesh, t: Topology, face: number, corner: number, corners: Flat[]): Flat {
  const [a, b, c] = [corners[corner]!, corners[(corner + 1) % 3]!, corners[(corner + 2) % 3]!];
  const edge = t.faceEdges[face * 3 + corner]!;
  const other = t.edgeFaces[edge * 2] === face ? t.edgeFaces[edge * 2 + 1]! : t.edgeFaces[edge * 2]!;
  const own = acrossEdge(a, b, c);
  let { along, height } = own;
  if (other >= 0) {
    const start = rest.triangles[face * 3 + corner]!;
    const far = t.edgeFaces[edge * 2] === face ? t.edgeOpposites[edge * 2 + 1]! : t.edgeOpposites[edge * 2]!;
    const flat = flatEdges(rest, other);
    const places = new Map<number, Flat>([
      [rest.triangles[other * 3]!, [0, 0]],
      [rest.triangles[other * 3 + 1]!, [flat[0], flat[1]]],
      [rest.triangles[other * 3 + 2]!, [flat[2], flat[3]]],
    ]);
    const end = rest.triangles[face * 3 + ((corner + 1) % 3)]!;
    const [p, q, r] = [places.get(start), places.get(end), places.get(far)];
    if (p && q && r) ({ along, height } = acrossEdge(p, q, r));
  }
  const [du, dv] = [b[0] - a[0], b[1] - a[1]];
  const size = Math.sqrt(du * du + dv * dv);
  const side = own.side;
  // To the other side of the edge from this triangle's own far point.
  return [a[0] + along * du + (side * height * dv) / size, a[1] + along * dv - (side * height * du) / size];
}

/** Where c lies across the edge a b: as a share along it, its distance from it, and on which side. */
function acrossEdge(a: Flat, b: Flat, c: Flat): { along: number; height: number; side: number } {
  const [du, dv] = [b[0] - a[0], b[1] - a[1]];
  const [eu, ev] = [c[0] - a[0], c[1] - a[1]];
  const square = du * du + dv * dv;
  const turn = du * ev - dv * eu;
  return {
    along: (eu * du + ev * dv) / square,
    height: Math.max(Math.abs(turn) / Math.sqrt(square), 1e-9),
    side: turn < 0 ? -1 : 1,
  };
}

/** The hinge's angle for unit curvature in each sampled direction, on the surface z = (uu u^2 + 2 uv u v + vv v^2) / 2. */
function hingeAngles(a: Flat, b: Flat, c: Flat, flap: Flat): number[] {
  const near = acrossEdge(a, b, c);
  const far = acrossEdge(a, b, flap);
  const angles: number[] = [];
  for (const sample of SAMPLES) {
    const [start, end] = [heightOf(a, sample), heightOf(b, sample)];
    angles.push(
      (heightOf(c, sample) - (1 - near.along) * start - near.along * end) / near.height +
        (heightOf(flap, sample) - (1 - far.along) * start - far.along * end) / far.height,
    );
  }
  return angles;
}

/** How high the sampled surface is over a place. */
function heightOf([u, v]: Flat, { uu, uv, vv }: (typeof SAMPLES)[0]): number {
  return (uu * u * u + 2 * uv * u * v + vv * v * v) / 2;
}

/** The sets of unknowns that may be other than zero. */
const SETS = Array.from({ length: 7 }, (_, i) => [0, 1, 2].filter((unknown) => (i + 1) & (1 << unknown)));

/** Least squares for three unknowns that must not be negative, by trying every set of those that are not zero. */
function fitNonNegative(columns: number[][], wanted: number[]): [number, number, number] {
  const [first, second, third] = columns as [number[], number[], number[]];
  // Products of all columns with each other and with what is wanted: every set takes its own of them.
  const products = columns.map((p) => [...columns.map((q) => product(p, q)), product(p, wanted)]);
  let best: [number, number, number] = [0, 0, 0];
  let bestError = Infinity;
  for (const chosen of SETS) {
    const solution = solveNormal(products, chosen);
    if (!solution || solution.some((value) => value < 0)) continue;
    const full: [number, number, number] = [0, 0, 0];
    chosen.forEach((unknown, at) => (full[unknown] = solution[at]!));
    let error = 0;
    for (let row = 0; row < wanted.length; row++) {
      const got = full[0] * first[row]! + full[1] * second[row]! + full[2] * third[row]!;
      error += (got - wanted[row]!) ** 2;
    }
    if (error < bestError * (1 - 1e-9)) {
      bestError = error;
      best = full;
    }
  }
  return best;
}

function product(p: number[], q: number[]): number {
  let sum = 0;
  for (let i = 0; i < p.length; i++) sum += p[i]! * q[i]!;
  return sum;
}

/** Solves the normal equations of some unknowns by elimination; undefined where they are singular. */
function solveNormal(products: number[][], chosen: number[]): number[] | undefined {
  const n = chosen.length;
  const rows = chosen.map((i) => [...chosen.map((j) => products[i]![j]!), products[i]![3]!]);
  for (let i = 0; i < n; i++) {
    const pivot = rows[i]![i]!;
    if (!(pivot > 1e-9 * products[chosen[i]!]![chosen[i]!]!)) return undefined;
    for (let j = 0; j < n; j++) {
      if (j === i) continue;
      const factor = rows[j]![i]! / pivot;
      for (let k = i; k <= n; k++) rows[j]![k]! -= factor * rows[i]![k]!;
    }
  }
  return rows.map((row, i) => row[n]! / row[i]!);
}
