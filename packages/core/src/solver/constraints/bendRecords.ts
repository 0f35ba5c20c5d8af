import * as FlatHinge from '@lumbra/kernel/layouts/constraints/flatHinge';
import * as FoldedHinge from '@lumbra/kernel/layouts/constraints/foldedHinge';
import * as Point from '@lumbra/kernel/layouts/point';
import type { Fabric } from '../../fabric/fabric';
import { sameValues, scaleOf, type FaceScales } from '../../fabric/faceScales';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import type { Topology } from '../../mesh/topology';
import { angleSign, bendMoments, bendParts, hingePoints, restAngle, type BendElements } from './bendElements';
import { elementStiffness } from '../energies/bendEnergy';
import { rigidityToAsk } from './bendRelaxation';
import { writeStarts, type ColourStarts } from './colourStarts';
import { hingeWeights, rigidityOf } from './hingeWeights';
import type { KernelMemory } from '../kernelMemory';

/** The hinges of one cloth in the kernel's memory: see layouts/constraints/flatHinge.ts and foldedHinge.ts there. */
export interface BendRecords {
  flat: Hinges & { elements: BendElements };
  /** The angles as cut, in radians, and the moments by which a curl adds to them, in m, two each. */
  angle: Hinges & { edges: Uint32Array; rest: Float64Array; moments: Float64Array };
}

const SHARES = [FlatHinge.SHARE_1, FlatHinge.SHARE_2, FlatHinge.SHARE_3];
const MOVES = [FlatHinge.MOVE_0, FlatHinge.MOVE_1, FlatHinge.MOVE_2, FlatHinge.MOVE_3];

/** What the layouts of both kinds of hinges say of their points. */
interface Layout {
  BYTES: number;
  POINT_0: number;
  POINT_1: number;
}

interface Hinges {
  address: number;
  count: number;
  starts: ColourStarts;
}

/** Writes what bends of a cloth. */
export function buildBend(memory: KernelMemory, rest: Mesh, t: Topology, firstPoint: number): BendRecords {
  const { flat, folded, foldedStarts } = bendParts(rest);
  const write = (points: ArrayLike<number>, { BYTES, POINT_0, POINT_1 }: Layout, starts: readonly number[]) => {
    const count = points.length / 4;
    const address = memory.allocate(count * BYTES);
    const records = memory.records(address, BYTES, count);
    for (let i = 0; i < points.length; i++) {
      records.setInteger(i >> 2, POINT_0 + (i & 3) * (POINT_1 - POINT_0), (firstPoint + points[i]!) * Point.BYTES);
    }
    return { address, count, starts: writeStarts(memory, starts) };
  };
  const foldedPoints = [...folded].flatMap((edge) => hingePoints(t, edge));
  const constraints = {
    flat: { ...write(flat.points, FlatHinge, flat.starts), elements: flat },
    angle: {
      ...write(foldedPoints, FoldedHinge, foldedStarts),
      edges: folded,
      rest: Float64Array.from(folded, (edge) => restAngle(rest, t, edge)),
      moments: Float64Array.from([...folded].flatMap((edge) => signedMoments(rest, t, edge))),
    },
  };
  setRestAngles(memory, constraints.angle, () => 0);
  return constraints;
}

/** Sets by how much more than as cut each hinge that is folded at rest wants to be folded, in radians. */
export function setRestAngles(
  memory: KernelMemory,
  { address, count, rest }: BendRecords['angle'],
  more: (hinge: number) => number,
): void {
  const records = memory.records(address, FoldedHinge.BYTES, count);
  for (let i = 0; i < count; i++) records.setFloat(i, FoldedHinge.REST_ANGLE, rest[i]! + more(i));
}

/** The moments of a hinge in the sign of its angle. */
function signedMoments(rest: Mesh, t: Topology, edge: number): number[] {
  const sign = angleSign(rest, t, edge);
  return bendMoments(rest, t, edge).map((moment) => sign * moment);
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
  // What is lost is told by the mesh and the fabric alone: a mask changes the cloth only where it lies.
  const asked = rigidityToAsk(rest, t, rigidityOf(fabric));
  const stiffness = hingeWeights(rest, t, asked, { scales });
  all.unshift({ warp, weft, warpScale, weftScale, stiffness });
  all.length = Math.min(all.length, MOST_FOUND);
  return stiffness;
}

/** Sets stiffness and damping for substeps of h seconds and damping every `dampingInterval` seconds. */
export function setBendStiffness(
  memory: KernelMemory,
  constraints: BendRecords,
  rest: Mesh,
  t: Topology,
  fabric: Fabric,
  inverseMasses: Float64Array,
  h: number,
  dampingInterval: number,
  scales?: FaceScales,
): void {
  const stiffness = relaxedHingeWeights(rest, t, fabric, scales);
  const flat = memory.records(constraints.flat.address, FlatHinge.BYTES, constraints.flat.count);
  const { count, points, vectors, edges, shares } = constraints.flat.elements;
  const dampingOf = (edge: number) => {
    const [face, other] = [t.edgeFaces[edge * 2]!, t.edgeFaces[edge * 2 + 1]!];
    const share = (scaleOf(scales, 'damping', face) + scaleOf(scales, 'damping', other)) / 2;
    return fabric.damping * share * dampingInterval * stiffness[edge]!;
  };
  const [k, w] = [new Float64Array(4), new Float64Array(4)];
  // Substeps may be of another length in every frame: no lists are made here.
  for (let i = 0; i < count; i++) {
    let [total, damping] = [0, 0];
    for (let n = i * 2; n < i * 2 + 2; n++) if (edges[n]! >= 0) damping += shares[n]! * dampingOf(edges[n]!);
    for (let corner = 0; corner < 4; corner++) {
      k[corner] = vectors[i * 4 + corner]!;
      w[corner] = inverseMasses[points[i * 4 + corner]!]!;
      total += w[corner]! * k[corner]! * k[corner]!;
    }
    const strength = h * h * elementStiffness(constraints.flat.elements, i, stiffness);
    const acting = strength / (strength * total + 1);
    for (let corner = 0; corner < 4; corner++) {
      if (corner > 0) flat.setFloat(i, SHARES[corner - 1]!, k[corner]!);
      flat.setFloat(i, MOVES[corner]!, w[corner]! * k[corner]! * acting);
    }
    flat.setFloat(i, FlatHinge.DAMPING, acting > 0 ? damping / (1 + damping * total) / acting : 0);
  }
  const folded = memory.records(constraints.angle.address, FoldedHinge.BYTES, constraints.angle.count);
  constraints.angle.edges.forEach((edge, i) => {
    const compliance = Math.min(1 / (h * h * Math.max(stiffness[edge]!, 1e-30)), 1e30);
    folded.setFloat(i, FoldedHinge.COMPLIANCE, compliance);
    folded.setFloat(i, FoldedHinge.DAMPING, dampingOf(edge));
  });
}
