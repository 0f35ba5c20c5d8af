import type { Fabric } from '../fabric/fabric';
import { sameValues, scaleOf, type FaceScales } from '../fabric/faceScales';
import { arcTangent } from '../math/trigonometry';
import { cross, dot, length, type Vector3 } from '../math/vector';
import type { Mesh } from '../mesh/mesh';
import { oncePerMesh } from '../mesh/oncePerMesh';
import { topology, type Topology } from '../mesh/topology';
import { colour } from './colouring';
import { bendRelaxation } from './bendRelaxation';
import { hingeWeights } from './hingeWeights';
import type { KernelMemory } from './kernelMemory';

const FLAT_WORDS = 12;
const ANGLE_WORDS = 8;
/** Hinges folded less than this at rest, in radians, are taken as flat. */
const FLAT_ANGLE = 0.02;

/** The hinges of one cloth in the kernel's memory; layouts in kernel/assembly/bendFlat.ts and bendAngle.ts. */
export interface BendConstraints {
  flat: { address: number; count: number; edges: Uint32Array };
  angle: { address: number; count: number; edges: Uint32Array };
}

/**
 * The inner edges of a mesh, those that are flat at rest apart from the folded ones, each in the order of their colours; and the bend
 * vectors of the flat ones, 4 numbers each.
 */
const hingesOf = oncePerMesh((rest): { flat: Uint32Array; folded: Uint32Array; vectors: Float64Array } => {
  const t = topology(rest);
  const flat: number[] = [];
  const folded: number[] = [];
  for (let edge = 0; edge < t.edgeCount; edge++) {
    if (t.edgeFaces[edge * 2 + 1]! < 0) continue;
    // Cloth that is cut flat bends about flat hinges, wherever its points start.
    const angle = rest.material ? 0 : restAngle(rest, t, edge);
    (Math.abs(angle) < FLAT_ANGLE ? flat : folded).push(edge);
  }
  const ordered = (edges: number[]) => {
    const points = edges.flatMap((edge) => hingePoints(t, edge));
    return Uint32Array.from(colour(points, 4, rest.positions.length / 3).order, (i) => edges[i]!);
  };
  const inOrder = ordered(flat);
  const vectors = new Float64Array(inOrder.length * 4);
  inOrder.forEach((edge, i) => vectors.set(bendVector(rest, t, edge), i * 4));
  return { flat: inOrder, folded: ordered(folded), vectors };
});

/** Writes the hinges of a cloth. */
export function buildBend(memory: KernelMemory, rest: Mesh, t: Topology, firstPoint: number): BendConstraints {
  const { flat: flatEdges, folded: foldedEdges } = hingesOf(rest);
  const write = (edges: Uint32Array, words: number) => {
    const address = memory.allocate(edges.length * words * 4);
    const offsets = memory.integers(address, edges.length * words);
    edges.forEach((edge, i) => {
      offsets.set(
        hingePoints(t, edge).map((point) => (firstPoint + point) * 16),
        i * words,
      );
    });
    return { address, count: edges.length, edges };
  };
  const constraints = { flat: write(flatEdges, FLAT_WORDS), angle: write(foldedEdges, ANGLE_WORDS) };
  const values = memory.floats(constraints.angle.address, constraints.angle.count * ANGLE_WORDS);
  foldedEdges.forEach((edge, i) => (values[i * ANGLE_WORDS + 4] = restAngle(rest, t, edge)));
  return constraints;
}

/** Stiffnesses that were found for a mesh, and for which numbers, the newest first. */
interface Found {
  warp: number;
  weft: number;
  warpScale: Float32Array | undefined;
  weftScale: Float32Array | undefined;
  stiffness: Float64Array;
}
const foundFor = oncePerMesh((): Found[] => []);
/** So many are remembered for a mesh: of cloths that share it, and of a change and its undo. */
const MOST_FOUND = 4;

/**
 * Stiffness of each hinge in N.m with which the mesh as a whole, its points free, bends as the fabric says. Not to be written to: found
 * once, since it takes most of the time that a new solver takes, and depends on nothing but the mesh and how it bends.
 */
export function relaxedHingeWeights(rest: Mesh, t: Topology, fabric: Fabric, scales?: FaceScales): Float64Array {
  const [warp, weft] = [fabric.bendWarp, fabric.bendWeft];
  const [warpScale, weftScale] = [scales?.bendWarp, scales?.bendWeft];
  const all = foundFor(rest);
  const known = all.find(
    (one) =>
      one.warp === warp &&
      one.weft === weft &&
      sameValues(one.warpScale, warpScale) &&
      sameValues(one.weftScale, weftScale),
  );
  if (known) return known.stiffness;
  const fitted = hingeWeights(rest, t, fabric, scales);
  const share = bendRelaxation(rest, t, fitted);
  const stiffness = fitted.map((value) => value / share);
  all.unshift({ warp, weft, warpScale, weftScale, stiffness });
  all.length = Math.min(all.length, MOST_FOUND);
  return stiffness;
}

/** Sets stiffness and damping for substeps of h seconds and damping every `dampingInterval` seconds. */
export function setBendStiffness(
  memory: KernelMemory,
  constraints: BendConstraints,
  rest: Mesh,
  t: Topology,
  fabric: Fabric,
  inverseMasses: Float64Array,
  h: number,
  dampingInterval: number,
  scales?: FaceScales,
): void {
  const stiffness = relaxedHingeWeights(rest, t, fabric, scales);
  const flat = memory.floats(constraints.flat.address, constraints.flat.count * FLAT_WORDS);
  const { vectors } = hingesOf(rest);
  const [k, w] = [new Float64Array(4), new Float64Array(4)];
  // Substeps may be of another length in every frame: no lists are made here.
  constraints.flat.edges.forEach((edge, i) => {
    let total = 0;
    for (let corner = 0; corner < 4; corner++) {
      const point = corner < 2 ? t.edgePoints[edge * 2 + corner]! : t.edgeOpposites[edge * 2 + corner - 2]!;
      k[corner] = vectors[i * 4 + corner]!;
      w[corner] = inverseMasses[point]!;
      total += w[corner]! * k[corner]! * k[corner]!;
    }
    const strength = h * h * stiffness[edge]!;
    const acting = strength / (strength * total + 1);
    const [face, other] = [t.edgeFaces[edge * 2]!, t.edgeFaces[edge * 2 + 1]!];
    const share = (scaleOf(scales, 'damping', face) + scaleOf(scales, 'damping', other)) / 2;
    const damping = fabric.damping * share * dampingInterval * stiffness[edge]!;
    const at = i * FLAT_WORDS + 4;
    for (let corner = 0; corner < 4; corner++) {
      if (corner > 0) flat[at + corner - 1] = k[corner]!;
      flat[at + 3 + corner] = w[corner]! * k[corner]! * acting;
    }
    flat[at + 7] = acting > 0 ? damping / (1 + damping * total) / acting : 0;
  });
  const angle = memory.floats(constraints.angle.address, constraints.angle.count * ANGLE_WORDS);
  constraints.angle.edges.forEach((edge, i) => {
    angle[i * ANGLE_WORDS + 5] = Math.min(1 / (h * h * Math.max(stiffness[edge]!, 1e-30)), 1e30);
  });
}

/** Start and end of the edge, then the far points of its two faces. */
function hingePoints(t: Topology, edge: number): [number, number, number, number] {
  return [
    t.edgePoints[edge * 2]!,
    t.edgePoints[edge * 2 + 1]!,
    t.edgeOpposites[edge * 2]!,
    t.edgeOpposites[edge * 2 + 1]!,
  ];
}

/** k with sum k_i x_i of length 2 sin(angle / 2): how far the far points rise out of the edge, over their distance. */
function bendVector(rest: Mesh, t: Topology, edge: number): [number, number, number, number] {
  const at = placeOf(rest);
  const [a, b, c, d] = hingePoints(t, edge).map(at) as [Vector3, Vector3, Vector3, Vector3];
  const across = (far: Vector3) => {
    const [e, f] = [minus(b, a), minus(far, a)];
    const square = Math.max(dot(e, e), 1e-18);
    const along = dot(e, f) / square;
    const height = Math.max(length(cross(e, f)) / Math.sqrt(square), 1e-6);
    return { along, height };
  };
  const [p, q] = [across(c), across(d)];
  return [
    -(1 - p.along) / p.height - (1 - q.along) / q.height,
    -p.along / p.height - q.along / q.height,
    1 / p.height,
    1 / q.height,
  ];
}

/** Where a point lies at rest; cloth that is cut flat lies in its material plane. */
function placeOf(rest: Mesh): (point: number) => Vector3 {
  const m = rest.material;
  if (m) return (point) => [m[point * 2]!, m[point * 2 + 1]!, 0];
  const p = rest.positions;
  return (point) => [p[point * 3]!, p[point * 3 + 1]!, p[point * 3 + 2]!];
}

/** Signed angle between the faces at rest, in radians, as kernel/assembly/bendAngle.ts measures it. */
function restAngle(rest: Mesh, t: Topology, edge: number): number {
  const at = placeOf(rest);
  const [start, end, far0, far1] = hingePoints(t, edge).map(at) as [Vector3, Vector3, Vector3, Vector3];
  const e = minus(end, start);
  const m = cross(e, minus(far0, start));
  const n = cross(minus(far1, start), e);
  const size = length(e);
  return size < 1e-12 ? 0 : arcTangent(dot(cross(m, n), e) / size, dot(m, n));
}

function minus(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}
