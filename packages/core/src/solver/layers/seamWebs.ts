import { boxTree } from '../../mesh/boxTree';
import { crossingsOf } from '../../mesh/crossings';
import { facesInBox } from '../../mesh/facesInBox';
import type { Mesh } from '../../mesh/mesh';
import { seamEdges } from '../../mesh/seamEdges';
import { topology } from '../../mesh/topology';
import { CLOSED } from './sewn';

// What lies between the borders of a seam when it closes is caught in it, and crosses. So contact has a web there: faces from border to border, that are
// as narrow as the seam is open, and that nothing passes. As it shrinks it moves aside what is in its way.

/** A cloth where a run of it starts. */
interface StartingCloth {
  rest: Mesh;
  /** In m, x, y, z a point. */
  positions: Float32Array;
}

/** Per cloth its mesh as layers meet it: with webs in its open seams after its own faces. Webs that pass through cloth from the start are left out. */
export function meshesWithWebs(cloths: readonly StartingCloth[]): Mesh[] {
  const webs = cloths.map(websOf);
  if (webs.every(({ length }) => length === 0)) return cloths.map(({ rest }) => rest);
  const free = freeOf(cloths, webs);
  return cloths.map(({ rest }, i) => {
    if (free[i]!.length === 0) return rest;
    const { positions, triangles, sewn, folds } = rest;
    // How pieces lie to each other is only said by where they are placed, not by where they are cut.
    return { positions, triangles: Uint32Array.from([...triangles, ...free[i]!]), sewn, ...(folds && { folds }) };
  });
}

/** The corners of the faces between the borders of all seams that are open: two for each pair of edges, one where they share an end. */
function websOf({ rest, positions }: StartingCloth): number[] {
  const { sewn } = rest;
  if (!sewn) return [];
  const { edgePoints } = topology(rest);
  const web: number[] = [];
  seamEdges(topology(rest), sewn).forEach((first, edge) => {
    if (first === edge) return;
    const [p, q] = [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!];
    const [a, b] = [edgePoints[first * 2]!, edgePoints[first * 2 + 1]!];
    const [pOther, qOther] = sewn[p] === sewn[a] ? [a, b] : [b, a];
    if (isOpen(positions, q, qOther)) web.push(p, q, qOther);
    if (isOpen(positions, p, pOther)) web.push(p, isOpen(positions, q, qOther) ? qOther : q, pOther);
  });
  return web;
}

function isOpen(positions: Float32Array, a: number, b: number): boolean {
  let square = 0;
  for (let axis = 0; axis < 3; axis++) square += (positions[a * 3 + axis]! - positions[b * 3 + axis]!) ** 2;
  return Math.sqrt(square) > CLOSED;
}

/** Of webs those that pass through nothing where the cloths start. */
function freeOf(cloths: readonly StartingCloth[], webs: readonly number[][]): number[][] {
  const positions = Float32Array.from(cloths.flatMap((cloth) => [...cloth.positions]));
  const firstPoints: number[] = [];
  let points = 0;
  for (const cloth of cloths) {
    firstPoints.push(points);
    points += cloth.positions.length / 3;
  }
  const between = Uint32Array.from(webs.flatMap((web, i) => web.map((point) => firstPoints[i]! + point)));
  const own = cloths.flatMap(({ rest }, i) => Array.from(rest.triangles, (point) => firstPoints[i]! + point));
  const triangles = Uint32Array.from([...between, ...own]);
  const tree = boxTree({ positions, triangles: between });
  const crossed = new Set<number>();
  const box = new Float32Array(6);
  for (let face = 0; face < triangles.length / 3; face++) {
    box.fill(Infinity, 0, 3).fill(-Infinity, 3);
    for (let corner = 0; corner < 9; corner++) {
      const value = positions[triangles[face * 3 + Math.floor(corner / 3)]! * 3 + (corner % 3)]!;
      box[corner % 3] = Math.min(box[corner % 3]!, value);
      box[3 + (corner % 3)] = Math.max(box[3 + (corner % 3)]!, value);
    }
    facesInBox(tree, box, (web) => {
      if (web === face) return;
      crossingsOf(positions, triangles, face, web, () => {
        crossed.add(web);
        if (face < between.length / 3) crossed.add(face);
      });
    });
  }
  let first = 0;
  return webs.map((web) => {
    const free = web.filter((_, corner) => !crossed.has(first + Math.floor(corner / 3)));
    first += web.length / 3;
    return free;
  });
}
