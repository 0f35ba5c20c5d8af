import * as Group from '@lumbra/kernel/layouts/constraints/membraneGroup';
import * as Point from '@lumbra/kernel/layouts/point';
import type { Fabric } from '../../fabric/fabric';
import type { FaceScales } from '../../fabric/faceScales';
import type { Mesh } from '../../mesh/mesh';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { colour } from './colouring';
import { writeStarts, type ColourStarts } from './colourStarts';
import type { FlatTriangles } from './flatTriangles';
import { membraneStiffness } from '../energies/membraneEnergy';
import { gatheredFaces } from './gatheredFaces';
import type { KernelMemory } from '../kernelMemory';

const CORNERS = [Group.CORNER_0, Group.CORNER_1, Group.CORNER_2];
/** The inverse of the edges' matrix, row by row. */
const INVERSE = [Group.WARP_1, Group.WEFT_1, Group.WARP_2, Group.WEFT_2];

/** The membrane constraints of one cloth in the kernel's memory: see layouts/constraints/membraneGroup.ts there. */
export interface MembraneRecords {
  address: number;
  groups: number;
  colours: ColourStarts;
  /** For each of the 4 lanes of each group, its triangle, or -1 for padding. */
  lanes: Int32Array;
  /** Faces that are gathered at a seam; see `gatheredFaces`. */
  gathered: Uint8Array | null;
  /** Room for the addresses of the groups that are swept again, where colours begin among them, and how many there are now. */
  again: { list: number; listed: number; flags: number; count: number };
}

/** A field of the triangle in one slot of all groups. */
const laneOf = (field: number, slot: number) => field + (slot & 3) * Group.LANE;

/** What was found for a mesh when last asked: nearly always the same faces have an area. */
const foundFor = oncePerMesh(() => ({ solid: new Int32Array(), lanes: new Int32Array(), starts: [0] }));

/** The faces that have an area, colour by colour, four to a group, -1 where a colour is padded, and the group that each colour begins with. Not to be written to. */
function lanesOf(rest: Mesh, { areas }: FlatTriangles): { lanes: Int32Array; starts: number[] } {
  const found = foundFor(rest);
  const solid = Int32Array.from(areas.keys()).filter((t) => areas[t]! > 0);
  if (found.lanes.length > 0 && sameNumbers(solid, found.solid)) return found;
  const points = new Uint32Array(solid.length * 3);
  solid.forEach((t, i) => points.set(rest.triangles.subarray(t * 3, t * 3 + 3), i * 3));
  const { order, starts } = colour(points, 3, rest.positions.length / 3);
  const lanes: number[] = [];
  const groupStarts = [0];
  for (let c = 0; c + 1 < starts.length; c++) {
    for (let i = starts[c]!; i < starts[c + 1]!; i++) lanes.push(solid[order[i]!]!);
    while (lanes.length % 4 !== 0) lanes.push(-1);
    groupStarts.push(lanes.length / 4);
  }
  return Object.assign(found, { solid, lanes: Int32Array.from(lanes), starts: groupStarts });
}

function sameNumbers(a: Int32Array, b: Int32Array): boolean {
  return a.length === b.length && a.every((value, i) => value === b[i]);
}

/**
 * Writes the groups of four, colour by colour. Colours are padded with triangles on `idlePoint`, a held point
 * that nothing else uses.
 */
export function buildMembrane(
  memory: KernelMemory,
  rest: Mesh,
  flat: FlatTriangles,
  firstPoint: number,
  idlePoint: number,
): MembraneRecords {
  const { lanes, starts } = lanesOf(rest, flat);
  const groups = lanes.length / 4;
  const address = memory.allocate(groups * Group.BYTES);
  const list = memory.allocate(groups * 4);
  const flags = memory.allocate(groups);
  const colours = writeStarts(memory, starts);
  const listed = memory.allocate(starts.length * 4);
  const records = memory.records(address, Group.BYTES, groups);
  lanes.forEach((triangle, slot) => {
    CORNERS.forEach((field, corner) => {
      const point = triangle < 0 ? idlePoint : firstPoint + rest.triangles[triangle * 3 + corner]!;
      records.setInteger(slot >> 2, laneOf(field, slot), point * Point.BYTES);
    });
  });
  const gathered = gatheredFaces(rest);
  const constraints = { address, groups, colours, lanes, gathered, again: { list, listed, flags, count: 0 } };
  setFlatTriangles(memory, constraints, flat);
  return constraints;
}

/** Sets how the triangles lie flat, at the fabric's rest size. */
export function setFlatTriangles(memory: KernelMemory, constraints: MembraneRecords, flat: FlatTriangles): void {
  const records = memory.records(constraints.address, Group.BYTES, constraints.groups);
  constraints.lanes.forEach((triangle, slot) => {
    INVERSE.forEach((field, k) => {
      records.setFloat(slot >> 2, laneOf(field, slot), triangle < 0 ? 0 : flat.inverses[triangle * 4 + k]!);
    });
  });
}

/** Sets the stiffness for substeps of h seconds. */
export function setMembraneStiffness(
  memory: KernelMemory,
  constraints: MembraneRecords,
  flat: FlatTriangles,
  fabric: Fabric,
  h: number,
  scales?: FaceScales,
): void {
  const records = memory.records(constraints.address, Group.BYTES, constraints.groups);
  constraints.lanes.forEach((triangle, slot) => {
    const set = (field: number, value: number) => records.setFloat(slot >> 2, laneOf(field, slot), value);
    const gathered = constraints.gathered?.[triangle] === 1;
    const { warp, weft, shear, squeeze } = membraneStiffness(fabric, scales, triangle, gathered);
    const compliance = (stiffness: number) => (triangle < 0 ? 1 : 1 / (stiffness * flat.areas[triangle]! * h * h));
    set(Group.WARP_COMPLIANCE, compliance(warp));
    set(Group.WEFT_COMPLIANCE, compliance(weft));
    set(Group.SHEAR_COMPLIANCE, compliance(shear));
    set(Group.SOFTER, 1 / squeeze);
  });
}
