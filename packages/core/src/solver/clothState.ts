import type { Fabric } from '../fabric/fabric';
import type { FaceScales } from '../fabric/faceScales';
import { length } from '../math/vector';
import { pointCount } from '../mesh/mesh';
import { topology, type Topology } from '../mesh/topology';
import { buildAirTriangles, type AirTriangles } from './airTriangles';
import { buildAttachments } from './attachments';
import { buildBend, type BendConstraints } from './bendConstraints';
import type { Feelers } from './contactSearch';
import { flatTriangles, type FlatTriangles } from './flatTriangles';
import type { KernelMemory } from './kernelMemory';
import { loosestAnywhere } from './loosest';
import { buildMembrane, type MembraneConstraints } from './membraneConstraints';
import type { ClothModel } from './model';
import { pointScales } from './pointScales';
import { writeSurface } from './surface';

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
  membrane: MembraneConstraints;
  bend: BendConstraints;
  attachments: { address: number; count: number };
  airTriangles: AirTriangles;
  /** Address of how much of the friction between its yarns masks leave each point, an f32 each; 0 where all have it all. */
  slowing: number;
}

/**
 * Lays a cloth out in the kernel's memory. `points` is the address of the points of all cloths, `idlePoint` a held point that nothing
 * else uses; `gravity` in m/s^2.
 */
export function addCloth(
  memory: KernelMemory,
  model: ClothModel,
  {
    points: address,
    firstPoint,
    idlePoint,
    gravity,
  }: { points: number; firstPoint: number; idlePoint: number; gravity: number },
): ClothState {
  const { rest } = model;
  const fabric = model.fabricAt?.(0) ?? model.fabric;
  const points = pointCount(rest);
  const scales = model.scalesAt?.(0) ?? model.scales;
  const flat = flatTriangles(rest, fabric, scales);
  const t = topology(rest);
  const inverseMasses = Float64Array.from(flat.pointMasses, (mass) => (mass > 0 ? 1 / mass : 0));
  const freeMasses = inverseMasses.slice();
  const carried = (model.holds ?? []).flatMap((hold) => hold.carried);
  const held = [...new Set([...model.held, ...carried])].sort((a, b) => a - b);
  for (const point of held) inverseMasses[point] = 0;
  const values = memory.floats(address + firstPoint * 16, points * 4);
  for (let i = 0; i < points; i++) {
    values.set(model.positions.subarray(i * 3, i * 3 + 3), i * 4);
    values[i * 4 + 3] = inverseMasses[i]!;
  }
  const membrane = buildMembrane(memory, rest, flat, firstPoint, idlePoint);
  const bend = buildBend(memory, rest, t, firstPoint);
  const acceleration = model.load ?? gravity;
  const pinned = { rest, held, fabric: { ...fabric, ...loosestAnywhere(model, fabric) }, acceleration };
  const attachments = buildAttachments(memory, pinned, t, firstPoint);
  const slowing = scales?.damping ? memory.allocate(points * 4) : 0;
  if (slowing !== 0) memory.floats(slowing, points).set(pointScales(rest, scales, 'damping'));
  const airTriangles = buildAirTriangles(memory, rest, flat, fabric, firstPoint, scales);
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
    attachments,
    airTriangles,
    slowing,
  };
}

/** Writes the points, edges and faces of a cloth that feel colliders. */
export function writeFeelers(
  memory: KernelMemory,
  { model, fabric, firstPoint, points, topology: t }: ClothState,
): Feelers {
  const write = (features: Uint32Array) => {
    const address = memory.allocate(features.length * 4);
    memory.integers(address, features.length).set(features.map((point) => (firstPoint + point) * 16));
    return address;
  };
  const { positions, triangles } = model.rest;
  let longest = 0;
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [a, b] = [t.edgePoints[edge * 2]! * 3, t.edgePoints[edge * 2 + 1]! * 3];
    const [x, y, z] = [0, 1, 2].map((axis) => positions[a + axis]! - positions[b + axis]!) as [number, number, number];
    longest = Math.max(longest, length([x, y, z]));
  }
  const { restWarp, restWeft } = loosestAnywhere(model, fabric);
  return {
    firstPoint,
    points,
    edges: { address: write(t.edgePoints), count: t.edgeCount },
    faces: { address: write(triangles), count: triangles.length / 3 },
    longestEdge: longest * Math.max(1, restWarp, restWeft),
    surface: writeSurface(memory, model.rest, model.fabric.thickness, model.scales),
  };
}
