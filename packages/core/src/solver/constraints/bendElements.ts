import { cross, dot, length, type Vector3 } from '../../math/vector';
import { arcTangent } from '../../math/trigonometry';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { topology, type Topology } from '../../mesh/topology';
import { colour } from './colouring';
import { flatEdges } from './flatTriangles';
import { cornerPlace, unfolded, unfoldedAround } from './unfold';

// What bends. Every inner edge is a hinge. On a square grid with alternating diagonals the hinge on a side measures three points in a
// row and nothing else, and both hinges that end in a point measure the same row: of the points, every other one is the middle
// of two such hinges, and the others of none. Points that are free then move off the bent surface, every other one by as
// much, and a third of the stiffness is gone (acting rigidity 0.65 of what was asked for; more where warp and weft differ, less beside a
// clamp). So such a hinge leaves half of its stiffness to the row through its other end, and every row is measured once. Where the diagonals on
// both sides are the same way round, as beside a seam, a side measures half of the row through either end: it is those rows as well.

/** Weights below this share of the largest count as none. */
const NOTHING = 1e-3;
/** What lies in a row does so to within this share of its length. */
const IN_ROW = 0.01;
/** Hinges folded less than this at rest, in radians, are taken as flat. */
const FLAT_ANGLE = 0.02;

/** Of each element its points, four a piece, and how its stiffness comes from that of the edges. */
export interface BendElements {
  count: number;
  /** Where each colour begins, with the count appended. */
  starts: readonly number[];
  points: Uint32Array;
  /** k with sum k_i x_i of length 2 sin(angle / 2), four an element. */
  vectors: Float64Array;
  /** Up to two edges an element, whose stiffness it has a share of; -1 for none. */
  edges: Int32Array;
  shares: Float64Array;
  /** What k makes of a surface that rises by half the square of the way along warp, and along weft, in m: times a curvature, the angle. */
  moments: Float64Array;
}

export interface BendParts {
  /** What is flat at rest: hinges and rows, in the order of their colours. */
  flat: BendElements;
  /** The inner edges that are folded at rest, in the order of their colours. */
  folded: Uint32Array;
  /** Where each colour of those begins, with their count appended. */
  foldedStarts: readonly number[];
  /** The inner edges whose far points lie across opposite ends of them, and which are measured as the rows through both. */
  slanted: ReadonlySet<number>;
}

/** What of a mesh bends. */
export const bendParts = oncePerMesh((rest): BendParts => {
  const t = topology(rest);
  const flat: number[] = [];
  const folded: number[] = [];
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1]! < 0) continue;
    const angle = restAngle(rest, t, edge);
    (Math.abs(angle) < FLAT_ANGLE ? flat : folded).push(edge);
  }
  const points = folded.flatMap((edge) => hingePoints(t, edge));
  const { order, starts } = colour(points, 4, rest.positions.length / 3);
  const inOrder = Uint32Array.from(order, (i) => folded[i]!);
  const { elements, slanted } = flatElements(rest, t, flat);
  return { flat: elements, folded: inOrder, foldedStarts: starts, slanted };
});

interface Element {
  points: [number, number, number, number];
  vector: [number, number, number, number];
  from: [edge: number, share: number][];
  moments: readonly [number, number];
}

function flatElements(
  rest: Mesh,
  t: Topology,
  edges: readonly number[],
): { elements: BendElements; slanted: Set<number> } {
  const rows = new Rows(rest, t);
  const slanted = new Set<number>();
  const hinges: Element[] = [];
  for (const edge of edges) {
    const points = hingePoints(t, edge);
    const vector = bendVector(rest, t, edge);
    const least = NOTHING * Math.max(...vector.map(Math.abs));
    const idle = [0, 1].find((end) => Math.abs(vector[end]!) < least);
    const moments = bendMoments(rest, t, edge, vector);
    const hinge = { edge, points, vector, moments };
    if (idle !== undefined) rows.add(hinge, idle as 0 | 1);
    else if (isSlanted(rest, t, edge) && rows.addSlanted(hinge)) slanted.add(edge);
    else hinges.push({ points, vector, from: [[edge, 1]], moments });
  }
  const all = [...hinges, ...rows.all()];
  const { order, starts } = colour(
    all.flatMap(({ points }) => points),
    4,
    rest.positions.length / 3,
  );
  const elements: BendElements = {
    count: all.length,
    starts,
    points: new Uint32Array(all.length * 4),
    vectors: new Float64Array(all.length * 4),
    edges: new Int32Array(all.length * 2).fill(-1),
    shares: new Float64Array(all.length * 2),
    moments: new Float64Array(all.length * 2),
  };
  order.forEach((which, i) => {
    const { points, vector, from, moments } = all[which]!;
    elements.points.set(points, i * 4);
    elements.vectors.set(vector, i * 4);
    elements.moments.set(moments, i * 2);
    from.forEach(([edge, share], n) => {
      elements.edges[i * 2 + n] = edge;
      elements.shares[i * 2 + n] = share;
    });
  });
  return { elements, slanted };
}

/** Three points in a row, each row once. */
class Rows {
  readonly #rest: Mesh;
  readonly #topology: Topology;
  readonly #at: (point: number) => Vector3;
  readonly #neighbours: number[][];
  readonly #found = new Map<string, Element>();

  constructor(rest: Mesh, t: Topology) {
    this.#rest = rest;
    this.#topology = t;
    this.#at = placeOf(rest);
    this.#neighbours = Array.from({ length: rest.positions.length / 3 }, () => []);
    for (let edge = 0; edge < t.edgeCount; edge++) {
      const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
      this.#neighbours[a]!.push(b);
      this.#neighbours[b]!.push(a);
    }
  }

  /** Adds a hinge that measures the row of its far points about one of its ends; the other end, `idle`, gets half, where it has such a row. */
  add(hinge: Omit<Element, 'from'> & { edge: number }, idle: 0 | 1): void {
    const { edge, points, vector, moments } = hinge;
    const [other, middle] = [points[idle]!, points[1 - idle]!];
    const across = this.#rowThrough(edge, other, middle, points[2], points[3]);
    const arms = [vector[2], vector[3]] as const;
    this.#give([other, middle, points[2], points[3]], arms, moments, [edge, across ? 0.5 : 1]);
    if (across) this.#give([middle, other, ...across], arms, moments, [edge, 0.5]);
  }

  /** Adds a hinge whose far points lie across opposite ends of its edge as the rows through both ends; false where it has not both. */
  addSlanted({ edge, points, vector }: Omit<Element, 'from'> & { edge: number }): boolean {
    const [rest, t] = [this.#rest, this.#topology];
    const [a, b, c, d] = points;
    const arms = [vector[2], vector[3]] as const;
    const isFirst = farPoints(rest, t, edge)[0].along < 0.5;
    // Which end the first far point is across from.
    const [own, other] = isFirst ? [a, b] : [b, a];
    const through = this.#beside(edge, own, other, d);
    const throughOther = this.#beside(edge, other, own, c);
    if (through === undefined || throughOther === undefined) return false;
    // The hinge feels twist besides, the rows do not: theirs are the moments of their arms.
    const places = flatHinge(rest, t, edge);
    const [from, to] = isFirst ? [places[0], places[1]] : [places[1], places[0]];
    const moment = (axis: 0 | 1) =>
      (arms[0] * (places[2][axis] - from[axis]) ** 2 + arms[1] * (places[3][axis] - to[axis]) ** 2) / 2;
    const moments = [moment(0), moment(1)] as const;
    this.#give([other, own, c, through], arms, moments, [edge, 0.5]);
    this.#give([own, other, throughOther, d], arms, moments, [edge, 0.5]);
    return true;
  }

  all(): Element[] {
    return [...this.#found.values()];
  }

  /** Gives stiffness to a row; its points are one that does nothing, the middle, and both ends. */
  #give(
    points: Element['points'],
    [p, q]: readonly [number, number],
    moments: Element['moments'],
    from: Element['from'][number],
  ): void {
    const [, middle, a, b] = points;
    const key = `${middle} ${Math.min(a, b)} ${Math.max(a, b)}`;
    const known = this.#found.get(key);
    // A row has an edge on either side of it.
    if (known && known.from.length < 2) known.from.push(from);
    else if (!known) this.#found.set(key, { points, vector: [0, -(p + q), p, q], from: [from], moments });
  }

  /** The neighbours of one end of an edge that lie from it as two others lie from the other end; null where there are none. */
  #rowThrough(edge: number, point: number, other: number, a: number, b: number): [number, number] | null {
    const found = [a, b].map((far) => this.#beside(edge, point, other, far));
    return found[0] === undefined || found[1] === undefined ? null : [found[0], found[1]];
  }

  /** The neighbour of one end of an edge that lies from it as another point lies from the other end. */
  #beside(edge: number, point: number, other: number, far: number): number | undefined {
    const around = this.#placesAround(edge, point);
    const [from, to, middle] = [around(other), around(far), around(point)];
    if (!from || !to || !middle) return undefined;
    const arm = minus(to, from);
    const limit = IN_ROW * length(arm);
    return this.#neighbours[point]!.find((near) => {
      const at = around(near);
      return at !== undefined && length(minus(minus(at, middle), arm)) < limit;
    });
  }

  /** Where the points around one end of an edge lie; beside a closed seam, with the faces around it turned flat. */
  #placesAround(edge: number, point: number): (other: number) => Vector3 | undefined {
    const [rest, t] = [this.#rest, this.#topology];
    if (!rest.cornerMaterial) return this.#at;
    const has = (face: number) => [0, 1, 2].some((i) => rest.triangles[face * 3 + i] === point);
    const places = unfoldedAround(rest, t, t.edgeFaces[edge * 2]!, has);
    return (other) => places.get(other);
  }
}

/** Start and end of the edge, then the far points of its two faces. */
export function hingePoints(t: Topology, edge: number): [number, number, number, number] {
  return [
    t.edgePoints[edge * 2]!,
    t.edgePoints[edge * 2 + 1]!,
    t.edgeOpposites[edge * 2]!,
    t.edgeOpposites[edge * 2 + 1]!,
  ];
}

/** k with sum k_i x_i of length 2 sin(angle / 2): how far the far points rise out of the edge, over their distance. */
function bendVector(rest: Mesh, t: Topology, edge: number): [number, number, number, number] {
  const [p, q] = farPoints(rest, t, edge);
  return [
    -(1 - p.along) / p.height - (1 - q.along) / q.height,
    -p.along / p.height - q.along / q.height,
    1 / p.height,
    1 / q.height,
  ];
}

/** Whether the far points of a hinge lie across opposite ends of its edge. */
function isSlanted(rest: Mesh, t: Topology, edge: number): boolean {
  const [p, q] = farPoints(rest, t, edge);
  const [one, other] = p.along < q.along ? [p, q] : [q, p];
  return Math.abs(one.along) < IN_ROW && Math.abs(other.along - 1) < IN_ROW;
}

/** Where the far points of an edge's faces lie across it: as a share along it, and how far from it in m. */
function farPoints(rest: Mesh, t: Topology, edge: number) {
  const [a, b, ...far] = hingePlaces(rest, t, edge);
  const e = minus(b, a);
  const square = Math.max(dot(e, e), 1e-18);
  const across = (place: Vector3) => {
    const f = minus(place, a);
    const height = Math.max(length(cross(e, f)) / Math.sqrt(square), 1e-6);
    return { along: dot(e, f) / square, height };
  };
  return [across(far[0]), across(far[1])] as const;
}

/** What k makes of a surface that rises by half the square of the way along warp, and along weft, from any place, in m. */
export function bendMoments(
  rest: Mesh,
  t: Topology,
  edge: number,
  k: readonly number[] = bendVector(rest, t, edge),
): [number, number] {
  const places = flatHinge(rest, t, edge);
  const moment = (axis: 0 | 1) => k.reduce((sum, each, i) => sum + (each * places[i]![axis] * places[i]![axis]) / 2, 0);
  return [moment(0), moment(1)];
}

/** Where the four points of a hinge lie when its second face is laid flat beside its first: along warp and weft from one corner, in m. */
function flatHinge(rest: Mesh, t: Topology, edge: number): [Vector3, Vector3, Vector3, Vector3] {
  const points = hingePoints(t, edge);
  const inFace = (side: 0 | 1) => {
    const face = t.edgeFaces[edge * 2 + side]!;
    const [e1u, e1v, e2u, e2v] = flatEdges(rest, face);
    const corners: Vector3[] = [
      [0, 0, 0],
      [e1u, e1v, 0],
      [e2u, e2v, 0],
    ];
    return (point: number) => corners[[0, 1, 2].find((corner) => rest.triangles[face * 3 + corner] === point)!]!;
  };
  const [own, other] = [inFace(0), inFace(1)];
  const [a, b, c] = [own(points[0]), own(points[1]), own(points[2])];
  return [a, b, c, unfolded([a, b], c, [other(points[0]), other(points[1]), other(points[3])])];
}

/** Where the four points of a hinge lie at rest; each face is looked at by itself, so it may lie elsewhere on the fabric than the other. */
function hingePlaces(rest: Mesh, t: Topology, edge: number): [Vector3, Vector3, Vector3, Vector3] {
  const points = hingePoints(t, edge);
  if (!rest.cornerMaterial) return points.map(placeOf(rest)) as [Vector3, Vector3, Vector3, Vector3];
  const inFace = (side: 0 | 1, point: number) => cornerPlace(rest, t.edgeFaces[edge * 2 + side]!, point);
  const [a, b, c] = [inFace(0, points[0]), inFace(0, points[1]), inFace(0, points[2])];
  return [a, b, c, unfolded([a, b], c, [inFace(1, points[0]), inFace(1, points[1]), inFace(1, points[3])])];
}

/** Where a point lies at rest; cloth that is cut flat lies in its material plane. */
function placeOf(rest: Mesh): (point: number) => Vector3 {
  const m = rest.material;
  if (m) return (point) => [m[point * 2]!, m[point * 2 + 1]!, 0];
  const p = rest.positions;
  return (point) => [p[point * 3]!, p[point * 3 + 1]!, p[point * 3 + 2]!];
}

/** By how much edges are folded at rest, of cloth that is cut flat and folded. */
const foldsByEdge = oncePerMesh(({ folds }) => {
  const angles = new Map<string, number>();
  folds?.angles.forEach((angle, i) => angles.set(ends(folds.edges[i * 2]!, folds.edges[i * 2 + 1]!), angle));
  return angles;
});

function ends(a: number, b: number): string {
  return a < b ? `${a} ${b}` : `${b} ${a}`;
}

/**
 * Signed angle between the faces at rest, in radians, as kernel/assembly/bendAngle.ts measures it. Cloth that is cut flat bends about flat hinges,
 * wherever its points start, but for those that are said to be folded.
 */
export function restAngle(rest: Mesh, t: Topology, edge: number): number {
  if (rest.material || rest.cornerMaterial) {
    if (!rest.folds) return 0;
    const fold = foldsByEdge(rest).get(ends(t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!)) ?? 0;
    return fold === 0 ? 0 : fold * angleSign(rest, t, edge);
  }
  const at = placeOf(rest);
  const [start, end, far0, far1] = hingePoints(t, edge).map(at) as [Vector3, Vector3, Vector3, Vector3];
  const e = minus(end, start);
  const m = cross(e, minus(far0, start));
  const n = cross(minus(far1, start), e);
  const size = length(e);
  return size < 1e-12 ? 0 : arcTangent(dot(cross(m, n), e) / size, dot(m, n));
}

/** Whether the angle of a hinge counts up as its face is folded inwards: where its first face runs from its start to its end it counts down. */
export function angleSign(rest: Mesh, t: Topology, edge: number): 1 | -1 {
  const [start, end] = hingePoints(t, edge);
  const face = t.edgeFaces[edge * 2]! * 3;
  const at = [0, 1, 2].find((corner) => rest.triangles[face + corner] === start)!;
  return rest.triangles[face + ((at + 1) % 3)] === end ? -1 : 1;
}

function minus(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}
