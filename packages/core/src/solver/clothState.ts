import * as Point from '@lumbra/kernel/layouts/point';
import type { Fabric } from '../fabric/fabric';
import type { FaceScales } from '../fabric/faceScales';
import { pointCount, type Mesh } from '../mesh/mesh';
import { topology, type Topology } from '../mesh/topology';
import { buildAirTriangles, setAirMasses, setAirScales, type AirTriangles } from './air/airTriangles';
import { buildAttachments, setAttachments, type Attachments, type Pinned } from './constraints/attachmentRecords';
import { buildBend, type BendRecords } from './constraints/bendRecords';
import { buildCurl, type CurlRecords } from './constraints/curlRecords';
import type { Feelers } from './contact/contactSearch';
import { flatTriangles, type FlatTriangles } from './constraints/flatTriangles';
import type { KernelMemory } from './kernelMemory';
import { longestPossible } from './longestEdge';
import { loosestAnywhere } from './constraints/loosest';
import { buildMembrane, setFlatTriangles, type MembraneRecords } from './constraints/membraneRecords';
import type { ClothModel } from './model';
import { pointScales } from './constraints/pointScales';
import { writeSurface } from './contact/surface';

/** One cloth in the kernel's memory. */
export interface ClothState {
  model: ClothModel;
  /** As it is now; keyed numbers change it from frame to frame. */
  fabric: Fabric;
  scales: FaceScales | undefined;
  firstPoint: number;
  points: number;
  flat: FlatTriangles;
  topology: Topology;
  /** In 1/kg; 0 for points that are held now, which `freeMasses` has as they are when they are let go. */
  inverseMasses: Float64Array;
  freeMasses: Float64Array;
  membrane: MembraneRecords;
  bend: BendRecords;
  curl: CurlRecords;
  attachments: Attachments;
  airTriangles: AirTriangles;
  /** Address of how much of the friction between its yarns masks leave each point, an f32 each; 0 where all have it all. */
  slowing: number;
}

const NOTHING: Mesh = { positions: new Float32Array(), triangles: new Uint32Array() };

/** What makes a cloth cloth: of one whose motion is given nothing, for only its surface matters. */
export function insideOf({ given, rest }: ClothModel): Mesh {
  return given ? NOTHING : rest;
}

/** Where a cloth lies in the kernel's memory. */
interface ClothPlace {
  /** Address of the points of all cloths. */
  points: number;
  firstPoint: number;
  /** A held point that nothing else uses. */
  idlePoint: number;
  /** In m/s². */
  gravity: number;
}

/** Lays a cloth out in the kernel's memory. */
export function addCloth(memory: KernelMemory, model: ClothModel, place: ClothPlace): ClothState {
  const { rest } = model;
  const { firstPoint } = place;
  const fabric = model.fabricAt?.(0) ?? model.fabric;
  const points = pointCount(rest);
  const scales = model.scalesAt?.(0) ?? model.scales;
  const inside = insideOf(model);
  const flat = flatTriangles(inside, fabric, scales);
  const t = topology(rest);
  const { inverseMasses, freeMasses } = inverseMassesOf(model, flat);
  const values = memory.points(place.points, firstPoint, points);
  for (let i = 0; i < points; i++) {
    values.set(model.positions.subarray(i * 3, i * 3 + 3), i * 4);
    values[i * 4 + 3] = inverseMasses[i]!;
  }
  const membrane = buildMembrane(memory, inside, flat, firstPoint, place.idlePoint);
  const bend = buildBend(memory, inside, topology(inside), firstPoint);
  const curl = buildCurl(memory, bend, firstPoint, points);
  const attachments = buildAttachments(memory, pinnedOf(model, fabric, place.gravity), topology(inside), firstPoint);
  const slowing = scales?.damping && !model.given ? memory.allocate(points * 4) : 0;
  if (slowing !== 0) memory.floats(slowing, points).set(pointScales(rest, scales, 'damping'));
  const airTriangles = buildAirTriangles(memory, inside, flat, fabric, firstPoint, scales);
  return {
    model,
    fabric,
    scales,
    firstPoint,
    points,
    flat,
    topology: t,
    inverseMasses,
    freeMasses,
    membrane,
    bend,
    curl,
    attachments,
    airTriangles,
    slowing,
  };
}

/**
 * Lets a cloth have the numbers of a model of the same form, as they are when a run of it starts: what is keyed is set with the next frame,
 * and stiffness with the next substep.
 */
export function takeCloth(memory: KernelMemory, cloth: ClothState, model: ClothModel, place: ClothPlace): void {
  const { rest } = model;
  const fabric = model.fabricAt?.(0) ?? model.fabric;
  const scales = model.scalesAt?.(0) ?? model.scales;
  const inside = insideOf(model);
  const flat = flatTriangles(inside, fabric, scales);
  const { inverseMasses, freeMasses } = inverseMassesOf(model, flat);
  Object.assign(cloth, { model, fabric, scales, flat, inverseMasses, freeMasses });
  const values = memory.points(place.points, cloth.firstPoint, cloth.points);
  for (let i = 0; i < cloth.points; i++) values[i * 4 + 3] = inverseMasses[i]!;
  setFlatTriangles(memory, cloth.membrane, flat);
  setAttachments(memory, cloth.attachments, pinnedOf(model, fabric, place.gravity), topology(inside), cloth.firstPoint);
  setAirMasses(memory, cloth.airTriangles, flat, fabric, scales);
  setAirScales(memory, cloth.airTriangles, scales);
  if (cloth.slowing !== 0) memory.floats(cloth.slowing, cloth.points).set(pointScales(rest, scales, 'damping'));
}

/** In 1/kg, as they begin and as they are free: what is held, or carried from the start, does not move. */
function inverseMassesOf(model: ClothModel, flat: FlatTriangles): Pick<ClothState, 'inverseMasses' | 'freeMasses'> {
  if (model.given) {
    const none = new Float64Array(pointCount(model.rest));
    return { inverseMasses: none, freeMasses: none.slice() };
  }
  const freeMasses = Float64Array.from(flat.pointMasses, (mass) => (mass > 0 ? 1 / mass : 0));
  const inverseMasses = freeMasses.slice();
  for (const point of heldAlways(model)) inverseMasses[point] = 0;
  return { inverseMasses, freeMasses };
}

/** Points that are held whenever the run is, in ascending order. */
function heldAlways({ held, holds = [] }: ClothModel): number[] {
  return [...new Set([...held, ...holds.flatMap(({ carried }) => carried)])].sort((a, b) => a - b);
}

function pinnedOf(model: ClothModel, fabric: Fabric, gravity: number): Pinned {
  const loosest = { ...fabric, ...loosestAnywhere(model, fabric) };
  const held = model.given ? [] : heldAlways(model);
  return { rest: insideOf(model), held, fabric: loosest, acceleration: model.load ?? gravity };
}

/** Writes the points, edges and faces of a cloth that feel colliders. */
export function writeFeelers(
  memory: KernelMemory,
  { model, fabric, scales, firstPoint, points }: ClothState,
  webEdges: Uint32Array,
): Feelers {
  const write = (features: Uint32Array) => {
    const address = memory.allocate(features.length * 4);
    memory.integers(address, features.length).set(features.map((point) => (firstPoint + point) * Point.BYTES));
    return address;
  };
  // What is given its motion feels none.
  const { triangles } = insideOf(model);
  const { edgePoints, edgeCount } = topology(insideOf(model));
  const edges = Uint32Array.from([...edgePoints, ...webEdges]);
  return {
    firstPoint,
    points,
    edges: { address: write(edges), count: edges.length / 2, ofCloth: edgeCount },
    faces: { address: write(triangles), count: triangles.length / 3 },
    longestEdge: longestPossible(model, fabric),
    surface: writeSurface(memory, model.rest, model.fabric.thickness, scales),
  };
}
