import type { Mesh } from '../mesh/mesh';
import { cutPiece } from './cutPiece';
import { fitForSeams } from './fitForSeams';
import { layPlace } from './layPiece';
import { pieceFolds } from './pieceFolds';
import { sewnAsFolded } from './sewAsFolded';
import { seamPairs, sewnTogether } from './sewnPoints';
import { sideCounts } from './sideCounts';
import type { Pattern } from './schema';

/** Pieces lie so many m apart in material coordinates. */
const GAP = 0.05;

/**
 * All pieces of a pattern as one mesh, each in its place; which points seams bring together stands in `sewn`. In material coordinates pieces
 * lie beside each other.
 */
export function patternMesh(given: Pattern): Mesh {
  const pattern = sewnAsFolded(given);
  const counts = sideCounts(pattern);
  const cuts = pattern.pieces.map((piece) => cutPiece(piece, pattern, counts));
  const firsts: number[] = [];
  let count = 0;
  for (const { places } of cuts) {
    firsts.push(count);
    count += places.length / 2;
  }
  const positions = new Float32Array(count * 3);
  const material = new Float32Array(count * 2);
  const folds: { edges: number[]; angles: number[] } = { edges: [], angles: [] };
  const parts: { id: string; first: number; count: number; corner: readonly [number, number] }[] = [];
  let across = 0;
  cuts.forEach(({ places, material: own, size }, i) => {
    const piece = pattern.pieces[i]!;
    const lay = layPlace(piece);
    const first = firsts[i]!;
    for (let point = 0; point < places.length / 2; point++) {
      positions.set(lay(places[point * 2]!, places[point * 2 + 1]!), (first + point) * 3);
      material.set([own[point * 2]! + across, own[point * 2 + 1]!], (first + point) * 2);
    }
    const folded = pieceFolds(piece, cuts[i]!);
    for (const point of folded?.edges ?? []) folds.edges.push(first + point);
    for (const angle of folded?.angles ?? []) folds.angles.push(angle);
    parts.push({ id: piece.id, first, count: places.length / 2, corner: [across, 0] });
    across += size[0] + GAP;
  });
  const pairs = pattern.seams.flatMap((seam) => seamPairs(seam, pattern, cuts, firsts, counts));
  const sewn = sewnTogether(count, pairs);
  const cut = new Uint32Array(cuts.reduce((sum, own) => sum + own.triangles.length, 0));
  let corner = 0;
  cuts.forEach(({ triangles: own }, i) => {
    for (const point of own) cut[corner++] = point + firsts[i]!;
  });
  const triangles = pairs.length > 0 ? fitForSeams(cut, sewn, material) : cut;
  return {
    ...{ positions, triangles, material, parts },
    ...(pairs.length > 0 && { sewn }),
    ...(folds.angles.length > 0 && {
      folds: { edges: Uint32Array.from(folds.edges), angles: Float32Array.from(folds.angles) },
    }),
  };
}
