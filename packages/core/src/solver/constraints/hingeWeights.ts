import { cosine, sine } from '../../math/trigonometry';
import type { Fabric } from '../../fabric/fabric';
import { scaleOf, type FaceScales } from '../../fabric/faceScales';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { topology, type Topology } from '../../mesh/topology';
import { bendParts } from './bendElements';
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
  const { areas, squares, products } = hingeSquares(rest);
  const target = new Float64Array(DIRECTIONS);
  const count = rest.triangles.length / 3;
  const fit = (face: number) => {
    const area = areas[face]!;
    if (area < 1e-16) return;
    const wanted = scaled ? wantedEnergies(scaledBy(rigidity, scales, face)) : even;
    for (let row = 0; row < DIRECTIONS; row++) target[row] = wanted[row]! * area;
    fitNonNegative(squares, face * 3 * DIRECTIONS, products, face * 9, target);
    for (let corner = 0; corner < 3; corner++) {
      const edge = t.faceEdges[face * 3 + corner]!;
      if (t.edgeFaces[edge * 2 + 1]! >= 0) stiffness[edge]! += fitted[corner]!;
    }
  };
  if (faces) for (const face of faces) fit(face);
  else for (let face = 0; face < count; face++) fit(face);
  return stiffness;
}

/** Which samples are bent along warp, weft and both biases. */
const ALONG = [0, DIRECTIONS / 2, DIRECTIONS / 4, (3 * DIRECTIONS) / 4];

/** What hinges make of a rigidity, over some faces of a mesh. */
export interface HingeFit {
  /** The share of the energy that is asked for, bent along warp, weft and both biases. */
  shares: number[];
  /** How bending along warp and along weft stiffen each other: the square of what they have in common, as a share of what both have. */
  coupling: number;
}

/** How well hinges are fitted to a rigidity, face by face, and what they couple that it does not. Borders do not matter. */
export function hingeFit(rest: Mesh, rigidity: BendRigidity, faces: Iterable<number>): HingeFit {
  const { areas, squares, products, crossed } = hingeSquares(rest);
  const even = wantedEnergies(rigidity);
  const target = new Float64Array(DIRECTIONS);
  const got = new Float64Array(DIRECTIONS);
  let [area, common] = [0, 0];
  for (const face of faces) {
    if (areas[face]! < 1e-16) continue;
    area += areas[face]!;
    for (let row = 0; row < DIRECTIONS; row++) target[row] = even[row]! * areas[face]!;
    fitNonNegative(squares, face * 3 * DIRECTIONS, products, face * 9, target);
    for (let corner = 0; corner < 3; corner++) {
      const at = (face * 3 + corner) * DIRECTIONS;
      for (let row = 0; row < DIRECTIONS; row++) got[row]! += fitted[corner]! * squares[at + row]!;
      common += fitted[corner]! * crossed[face * 3 + corner]!;
    }
  }
  return {
    shares: ALONG.map((row) => (area > 0 ? got[row]! / (even[row]! * area) : 1)),
    coupling: area > 0 ? common ** 2 / (got[ALONG[0]!]! * got[ALONG[1]!]!) : 0,
  };
}

/**
 * What the fit needs to know of each face, which is the same for every fabric: its area; the squared angle of each of its three hinges in
 * each sampled direction; the products of these three with each other; and of each hinge that of its angles along warp and weft. Found once for a mesh, since it takes most of the time.
 */
const hingeSquares = oncePerMesh((rest) => {
  const t = topology(rest);
  const { slanted } = bendParts(rest);
  const count = rest.triangles.length / 3;
  const areas = new Float64Array(count);
  const squares = new Float64Array(count * 3 * DIRECTIONS);
  const products = new Float64Array(count * 9);
  const crossed = new Float64Array(count * 3);
  for (let face = 0; face < count; face++) {
    const [e1u, e1v, e2u, e2v] = flatEdges(rest, face);
    const corners: Flat[] = [
      [0, 0],
      [e1u, e1v],
      [e2u, e2v],
    ];
    areas[face] = Math.abs(e1u * e2v - e1v * e2u) / 2;
    if (areas[face]! < 1e-16) continue;
    const at = face * 3 * DIRECTIONS;
    for (let corner = 0; corner < 3; corner++) {
      const straight = slanted.has(t.faceEdges[face * 3 + corner]!);
      const flap = unfoldedFlap(rest, t, face, corner, corners, straight);
      const angles = hingeAngles(corners[corner]!, corners[(corner + 1) % 3]!, corners[(corner + 2) % 3]!, flap);
      angles.forEach((angle, row) => (squares[at + corner * DIRECTIONS + row] = angle * angle));
      crossed[face * 3 + corner] = angles[ALONG[0]!]! * angles[ALONG[1]!]!;
    }
    for (let p = 0; p < 3; p++) {
      for (let q = 0; q < 3; q++) {
        products[face * 9 + p * 3 + q] = product(squares, at + p * DIRECTIONS, squares, at + q * DIRECTIONS);
      }
    }
  }
  return { areas, squares, products, crossed };
});

function scaledBy({ warp, weft, twist }: BendRigidity, scales: FaceScales | undefined, face: number): BendRigidity {
  const [along, across] = [scaleOf(scales, 'bendWarp', face), scaleOf(scales, 'bendWeft', face)];
  return { warp: warp * along, weft: weft * across, twist: twist * Math.sqrt(along * across) };
}

/**
 * The neighbour's far point, turned into this triangle's plane; on a border, this triangle's own, mirrored. Where the hinge is measured as the rows
 * through its ends, as far off the edge, but straight across from this triangle's own.
 */
function unfoldedFlap(rest: Mesh, t: Topology, face: number, corner: number, corners: Flat[], straight: boolean): Flat {
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
    if (straight) along = own.along;
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

/** What `fitNonNegative` found last. */
const fitted = new Float64Array(3);
const tried = new Float64Array(3);
const withWanted = new Float64Array(3);
/** Rows of the normal equations, each of up to three products and what is wanted. */
const rows = new Float64Array(12);

/**
 * Least squares for three unknowns that must not be negative, by trying every set of those that are not zero. The three columns stand one
 * after the other in `squares` from `at`, their products with each other in `products` from `from`. Leaves the unknowns in `fitted`.
 */
function fitNonNegative(
  squares: Float64Array,
  at: number,
  products: Float64Array,
  from: number,
  wanted: Float64Array,
): void {
  for (let p = 0; p < 3; p++) withWanted[p] = product(squares, at + p * DIRECTIONS, wanted, 0);
  fitted.fill(0);
  let bestError = Infinity;
  for (const chosen of SETS) {
    if (!solveNormal(products, from, chosen)) continue;
    let error = 0;
    for (let row = 0; row < DIRECTIONS; row++) {
      const got =
        tried[0]! * squares[at + row]! +
        tried[1]! * squares[at + DIRECTIONS + row]! +
        tried[2]! * squares[at + 2 * DIRECTIONS + row]!;
      error += (got - wanted[row]!) ** 2;
    }
    if (error < bestError * (1 - 1e-9)) {
      bestError = error;
      fitted.set(tried);
    }
  }
}

function product(p: Float64Array, atP: number, q: Float64Array, atQ: number): number {
  let sum = 0;
  for (let i = 0; i < DIRECTIONS; i++) sum += p[atP + i]! * q[atQ + i]!;
  return sum;
}

/** Solves the normal equations of some unknowns by elimination, into `tried`; false where they are singular or one is negative. */
function solveNormal(products: Float64Array, from: number, chosen: readonly number[]): boolean {
  const n = chosen.length;
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) rows[i * 4 + j] = products[from + chosen[i]! * 3 + chosen[j]!]!;
    rows[i * 4 + n] = withWanted[chosen[i]!]!;
  }
  for (let i = 0; i < n; i++) {
    const pivot = rows[i * 4 + i]!;
    if (!(pivot > 1e-9 * products[from + chosen[i]! * 4]!)) return false;
    for (let j = 0; j < n; j++) {
      if (j === i) continue;
      const factor = rows[j * 4 + i]! / pivot;
      for (let k = i; k <= n; k++) rows[j * 4 + k]! -= factor * rows[i * 4 + k]!;
    }
  }
  tried.fill(0);
  for (let i = 0; i < n; i++) {
    const value = rows[i * 4 + n]! / rows[i * 4 + i]!;
    if (value < 0) return false;
    tried[chosen[i]!] = value;
  }
  return true;
}
