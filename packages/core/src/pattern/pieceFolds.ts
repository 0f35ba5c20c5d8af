import { arcTangent } from '../math/trigonometry';
import { cross, dot, length, type Vector3 } from '../math/vector';
import type { Folds } from '../mesh/mesh';
import { topology } from '../mesh/topology';
import type { CutPiece } from './cutPiece';
import { pleatedPlace, pleatRow } from './pleatRow';
import type { Piece } from './schema';

/** Along their side pleats are stitched down so far, in m, and stay folded there however softly they hang. */
const STITCHED = 0.025;
/** Edges that are folded less than this by pleats count as flat, in radians. */
const FLAT = 0.02;

/** What of a piece is folded of itself: along its lines, and by its pleats as they lie, as far as those are pressed; none where it is flat. */
export function pieceFolds(piece: Piece, { places, triangles, lineFolds }: CutPiece): Folds | null {
  const edges = [...lineFolds.edges];
  const angles = [...lineFolds.angles];
  const row = pleatRow(piece);
  if (piece.pleats && row) {
    const lay = pleatedPlace(piece);
    const { from, across } = row;
    const off = (point: number) =>
      (places[point * 2]! - from[0]) * across[0] + (places[point * 2 + 1]! - from[1]) * across[1];
    const at = Array.from({ length: places.length / 2 }, (_, i) => lay(places[i * 2]!, places[i * 2 + 1]!));
    const { edgeCount, edgePoints, edgeOpposites } = topology({
      positions: new Float32Array(at.length * 3),
      triangles,
    });
    for (let edge = 0; edge < edgeCount; edge++) {
      const [a, b] = [edgePoints[edge * 2]!, edgePoints[edge * 2 + 1]!];
      const [c, d] = [edgeOpposites[edge * 2]!, edgeOpposites[edge * 2 + 1]!];
      if (d < 0) continue;
      const stitched = Math.max(off(a), off(b)) < STITCHED;
      const angle = foldAt(at[a]!, at[b]!, at[c]!, at[d]!) * (stitched ? 1 : piece.pleats.pressed);
      if (Math.abs(angle) < FLAT) continue;
      edges.push(a, b);
      angles.push(angle);
    }
  }
  return angles.length > 0 ? { edges: Uint32Array.from(edges), angles: Float32Array.from(angles) } : null;
}

/** By how much two faces are folded about their edge from a to b, the first to its left. */
function foldAt(a: Vector3, b: Vector3, left: Vector3, right: Vector3): number {
  const e = minus(b, a);
  const [m, n] = [cross(e, minus(left, a)), cross(minus(right, a), e)];
  const size = length(e);
  return size > 0 ? -arcTangent(dot(cross(m, n), e) / size, dot(m, n)) : 0;
}

function minus(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}
