import * as WantedBend from '@lumbra/kernel/layouts/constraints/wantedBend';
import { scaleOf, type ScaledNumber } from '../../fabric/faceScales';
import { sine } from '../../math/trigonometry';
import type { Topology } from '../../mesh/topology';
import type { ClothState } from '../clothState';
import type { KernelMemory } from '../kernelMemory';
import { setRestAngles } from './bendRecords';

/** Angles between faces, in radians, that a curl alone asks for at most: beyond a right angle bending no longer tells more from less. */
const MOST_ANGLE = Math.PI / 2;

/** Sets the curl that a fabric has now, and how much of a fold stays; creases that there are stay. */
export function setCurl(memory: KernelMemory, cloth: ClothState): void {
  const { fabric, scales, curl, topology: t } = cloth;
  const { count, edges, moments } = cloth.bend.flat.elements;
  const bends = fabric.curlWarp !== 0 || fabric.curlWeft !== 0 || fabric.creaseMemory !== 0;
  // Once there may be creases they are there for the rest of the run.
  if (!bends && !curl.any) return;
  if (curl.setFor?.fabric === fabric && curl.setFor.scales === scales) return;
  curl.setFor = { fabric, scales };
  curl.any = true;
  const wanted = memory.records(curl.wanted, WantedBend.BYTES, count);
  /** The mean share of the faces beside so many edges. */
  const shareOf = (name: ScaledNumber, of: ArrayLike<number>, from: number, to: number) =>
    scales?.[name] ? beside(t, of, from, to, scales, name) : 1;
  const angleOf = (of: ArrayLike<number>, from: number, to: number, warp: number, weft: number) => {
    const angle =
      fabric.curlWarp * shareOf('curlWarp', of, from, to) * warp +
      fabric.curlWeft * shareOf('curlWeft', of, from, to) * weft;
    return Math.min(MOST_ANGLE, Math.max(-MOST_ANGLE, angle));
  };
  for (let i = 0; i < count; i++) {
    const [from, to] = [i * 2, i * 2 + 2];
    const own = angleOf(edges, from, to, moments[from]!, moments[from + 1]!);
    wanted.setFloat(i, WantedBend.CURL, foldOf(own));
    wanted.setFloat(i, WantedBend.KEEPS, fabric.creaseMemory * shareOf('creaseMemory', edges, from, to));
  }
  const { angle } = cloth.bend;
  setRestAngles(memory, angle, (i) => angleOf(angle.edges, i, i + 1, angle.moments[i * 2]!, angle.moments[i * 2 + 1]!));
}

/** The length of the bend vector of a hinge that is folded by an angle in radians: 2 sin(angle / 2). */
export function foldOf(angle: number): number {
  return 2 * sine(angle / 2);
}

/** How much of a number the faces have that lie beside edges, from one place of a list up to another: the mean. */
function beside(
  t: Topology,
  edges: ArrayLike<number>,
  from: number,
  to: number,
  scales: ClothState['scales'],
  name: ScaledNumber,
): number {
  let [sum, count] = [0, 0];
  for (let n = from; n < to; n++) {
    const edge = edges[n]!;
    if (edge < 0) continue;
    sum += scaleOf(scales, name, t.edgeFaces[edge * 2]!) + scaleOf(scales, name, t.edgeFaces[edge * 2 + 1]!);
    count += 2;
  }
  return count > 0 ? sum / count : 1;
}

/** The creases of a cloth, so that they can be put back; nothing where there can be none. */
export function saveCreases(memory: KernelMemory, { curl, bend }: ClothState): Uint8Array {
  if (!curl.any) return new Uint8Array();
  const wanted = memory.records(curl.wanted, WantedBend.BYTES, bend.flat.count);
  const creases = Float32Array.from({ length: bend.flat.count }, (_, i) => wanted.float(i, WantedBend.CREASE));
  return new Uint8Array(creases.buffer);
}

/** Puts creases back as they were saved. */
export function restoreCreases(memory: KernelMemory, { curl, bend }: ClothState, saved: Uint8Array): void {
  const creases = new Float32Array(saved.slice().buffer);
  const wanted = memory.records(curl.wanted, WantedBend.BYTES, bend.flat.count);
  for (let i = 0; i < bend.flat.count; i++) wanted.setFloat(i, WantedBend.CREASE, creases[i] ?? 0);
  if (creases.some((crease) => crease !== 0)) curl.any = true;
}
