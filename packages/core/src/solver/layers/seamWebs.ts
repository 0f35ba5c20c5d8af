import type { Mesh } from '../../mesh/mesh';
import { seamEdges } from '../../mesh/seamEdges';
import { topology } from '../../mesh/topology';
import { startCrossings } from './startCrossings';

// What lies between the borders of a seam when it closes is caught in it, and crosses. So contact has a web there: faces from border to border, that are
// as narrow as the seam is open, and that nothing passes. As it shrinks it moves aside what is in its way.

/** Points that start nearer than this to what they are sewn to, in m, are one from the start. */
export const CLOSED = 1e-4;

/** A cloth where a run of it starts. */
interface StartingCloth {
  rest: Mesh;
  /** In m, x, y, z a point. */
  positions: Float32Array;
}

/** A cloth as layers meet it. */
export interface WebbedCloth {
  /** Its faces, and after them the webs in its open seams. */
  mesh: Mesh;
  /** A byte a point, 1 for those that start apart from the first of what they are sewn to; null where there are none. */
  apart: Uint8Array | null;
}

/**
 * Per cloth how layers meet it. Webs that pass through cloth from the start are left out. Where faces beside the same stitch start crossed, as panels that overlap
 * by a little, its points count as one from the start: what is around them may pass itself.
 */
export function withWebs(cloths: readonly StartingCloth[]): WebbedCloth[] {
  const apart = cloths.map(apartOf);
  if (apart.every((points) => points === null)) return cloths.map(({ rest }) => ({ mesh: rest, apart: null }));
  const webs = cloths.map(websOf);
  const { crossedWebs, crossedStitches } = startCrossings(cloths, webs, apart);
  return cloths.map(({ rest }, i) => {
    const isLet = (point: number) => crossedStitches[i]!.has(rest.sewn![point]!);
    const left = webs[i]!.filter((corners, web) => !crossedWebs[i]!.has(web) && !corners.some(isLet));
    const own = apart[i]?.map((is, point) => (isLet(point) ? 0 : is)) ?? null;
    if (left.length === 0) return { mesh: rest, apart: own };
    const { positions, sewn, folds } = rest;
    const triangles = Uint32Array.from([...rest.triangles, ...left.flat()]);
    // How pieces lie to each other is only said by where they are placed, not by where they are cut.
    return { mesh: { positions, triangles, sewn, ...(folds && { folds }) }, apart: own };
  });
}

/** The edges of the webs of a cloth, two points each: what is sewn together around a collider feels it between its points too. */
export function webEdges({ rest }: StartingCloth, { mesh }: WebbedCloth): Uint32Array {
  return mesh === rest ? new Uint32Array() : topology(mesh).edgePoints.slice(topology(rest).edgePoints.length);
}

/** Which points start apart from what they are sewn to. */
function apartOf({ rest: { sewn }, positions }: StartingCloth): Uint8Array | null {
  if (!sewn) return null;
  const apart = Uint8Array.from(seamGaps(sewn, positions), (gap) => (gap > CLOSED ? 1 : 0));
  return apart.includes(1) ? apart : null;
}

/** Per point how far in m it is from the first of those that it is sewn to. */
export function seamGaps(sewn: Uint32Array, positions: Float32Array): Float64Array {
  return Float64Array.from(sewn, (first, point) => gapOf(positions, first, point));
}

function gapOf(positions: Float32Array, a: number, b: number): number {
  let square = 0;
  for (let axis = 0; axis < 3; axis++) square += (positions[a * 3 + axis]! - positions[b * 3 + axis]!) ** 2;
  return Math.sqrt(square);
}

/** The faces between the borders of all seams that are open, three corners each: two for each pair of edges, one where they share an end. */
function websOf({ rest, positions }: StartingCloth): number[][] {
  const { sewn } = rest;
  if (!sewn) return [];
  const { edgePoints } = topology(rest);
  const isOpen = (a: number, b: number) => gapOf(positions, a, b) > CLOSED;
  const web: number[][] = [];
  seamEdges(topology(rest), sewn).forEach((first, edge) => {
    if (first === edge) return;
    const [p, q] = [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!];
    const [a, b] = [edgePoints[first * 2]!, edgePoints[first * 2 + 1]!];
    const [pOther, qOther] = sewn[p] === sewn[a] ? [a, b] : [b, a];
    if (isOpen(q, qOther)) web.push([p, q, qOther]);
    if (isOpen(p, pOther)) web.push([p, isOpen(q, qOther) ? qOther : q, pOther]);
  });
  return web;
}
