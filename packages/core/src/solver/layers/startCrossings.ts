import { boxTree } from '../../mesh/boxTree';
import { crossingsOf } from '../../mesh/crossings';
import { facesInBox } from '../../mesh/facesInBox';
import type { Mesh } from '../../mesh/mesh';

/** What starts crossed about open seams, per cloth. */
interface StartCrossings {
  /** Webs that pass through cloth or other webs, by their place in the list. */
  crossedWebs: Set<number>[];
  /** Stitches beside which faces that have it in common cross each other, by the first of its points. */
  crossedStitches: Set<number>[];
}

/**
 * What starts crossed about open seams.
 *
 * @param webs per cloth the three corners of each face of its webs
 * @param apart per cloth a byte a point, 1 for those that start apart from the first of what they are sewn to
 */
export function startCrossings(
  cloths: readonly { rest: Mesh; positions: Float32Array }[],
  webs: readonly (readonly number[])[][],
  apart: readonly (Uint8Array | null)[],
): StartCrossings {
  // All cloths as one: webs first, then the faces beside open seams, then all others.
  const firsts = cloths.map((_, i) => cloths.slice(0, i).reduce((sum, { positions }) => sum + positions.length / 3, 0));
  const positions = Float32Array.from(cloths.flatMap((cloth) => [...cloth.positions]));
  const found: StartCrossings = {
    crossedWebs: cloths.map(() => new Set()),
    crossedStitches: cloths.map(() => new Set()),
  };
  const kinds = [0, 1, 2].map(() => ({ cloth: [] as number[], face: [] as number[], corners: [] as number[] }));
  const add = (kind: number, cloth: number, face: number, corners: readonly number[]) => {
    kinds[kind]!.cloth.push(cloth);
    kinds[kind]!.face.push(face);
    for (const point of corners) kinds[kind]!.corners.push(firsts[cloth]! + point);
  };
  cloths.forEach(({ rest: { triangles, sewn } }, i) => {
    webs[i]!.forEach((corners, web) => add(0, i, web, corners));
    const open = new Set(sewn?.filter((_, point) => apart[i]?.[point]));
    for (let face = 0; face < triangles.length / 3; face++) {
      const corners = [...triangles.subarray(face * 3, face * 3 + 3)];
      add(corners.some((point) => open.has(sewn?.[point] ?? -1)) ? 1 : 2, i, face, corners);
    }
  });
  const [cloth, faceOf] = [kinds.flatMap((kind) => kind.cloth), kinds.flatMap((kind) => kind.face)];
  const triangles = Uint32Array.from(kinds.flatMap((kind) => kind.corners));
  const webCount = kinds[0]!.face.length;
  const looked = webCount + kinds[1]!.face.length;
  const tree = boxTree({ positions, triangles: triangles.subarray(0, looked * 3) });
  const stitches = (face: number) => {
    const i = cloth[face]!;
    const { sewn } = cloths[i]!.rest;
    return [0, 1, 2].map((corner) => sewn?.[triangles[face * 3 + corner]! - firsts[i]!] ?? -1);
  };
  const note = (face: number, other: number) => {
    for (const one of [face, other]) if (one < webCount) found.crossedWebs[cloth[one]!]!.add(faceOf[one]!);
    if (face < webCount || other < webCount || cloth[face] !== cloth[other]) return;
    const theirs = stitches(other);
    for (const stitch of stitches(face)) if (theirs.includes(stitch)) found.crossedStitches[cloth[face]!]!.add(stitch);
  };
  for (let face = 0; face < triangles.length / 3; face++) {
    facesInBox(tree, boxOf(positions, triangles, face), (other) => {
      if (face < looked && other >= face) return;
      crossingsOf(positions, triangles, face, other, () => note(face, other));
    });
  }
  return found;
}

/** The low and the high corner of the box around a face. */
function boxOf(positions: Float32Array, triangles: Uint32Array, face: number): Float32Array {
  const box = new Float32Array(6).fill(Infinity, 0, 3).fill(-Infinity, 3);
  for (let corner = 0; corner < 9; corner++) {
    const axis = corner % 3;
    const value = positions[triangles[face * 3 + (corner - axis) / 3]! * 3 + axis]!;
    box[axis] = Math.min(box[axis]!, value);
    box[axis + 3] = Math.max(box[axis + 3]!, value);
  }
  return box;
}
