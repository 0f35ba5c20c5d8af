import { nearestWeights } from '../mesh/nearestPlace';
import { eachClosePair, hasCorner } from './closePairs';

/** Each of two that come near takes no more than this share of what is between them. */
const SHARE = 0.45;

/** Corners that weigh less are not concerned. */
const NOTHING = 1e-6;

/** A surface whose points are to be moved. */
export interface MovedSurface {
  /** x y z in m. */
  positions: Float32Array;
  triangles: Uint32Array;
  /** For each point the first of those that it is sewn to; they lie at one place. */
  sewn?: Uint32Array | undefined;
}

/**
 * How much of their moves points can take, 0 to 1 each, so that no two parts of a surface meet that do not share a point. `moves` are one or more ways to
 * move the points (x y z in m each), of which both sides of a thickened cloth are two: whichever ways two parts go, they do not meet. Every
 * point that is near a face, and every two edges that are near each other, take less than half of what is between them, along the shortest way.
 */
export function keptApart(
  { positions, triangles, sewn }: MovedSurface,
  moves: readonly Float32Array[],
): Float32Array[] {
  const points = positions.length / 3;
  const shares = moves.map(() => new Float32Array(points).fill(1));
  /** How far each point goes at most. */
  const reach = new Float32Array(points);
  for (const move of moves) {
    for (let i = 0; i < points; i++)
      reach[i] = Math.max(reach[i]!, Math.hypot(move[i * 3]!, move[i * 3 + 1]!, move[i * 3 + 2]!));
  }
  const mesh = { positions, triangles };
  const cornerOf = (point: number) => sewn?.[point] ?? point;
  /** Corners of faces, with points that are sewn together as one. */
  const corners = sewn ? triangles.map((point) => sewn[point]!) : triangles;

  /** A point near a place takes its share of what is between them; `away` leads there, and is `distance` long. */
  const take = (point: number, side: number, away: readonly number[], distance: number) => {
    for (let n = 0; n < moves.length; n++) {
      const move = moves[n]!;
      const [x, y, z] = [move[point * 3]!, move[point * 3 + 1]!, move[point * 3 + 2]!];
      const towards = (side * (x * away[0]! + y * away[1]! + z * away[2]!)) / distance;
      const most = SHARE * distance;
      if (towards > most) shares[n]![point] = Math.min(shares[n]![point]!, most / towards);
    }
  };
  /** Two places may come near: corners weigh in at each. */
  const near = (first: readonly Corner[], second: readonly Corner[]) => {
    let [x, y, z, far] = [0, 0, 0, 0];
    for (const [corners, sign] of [
      [first, -1],
      [second, 1],
    ] as const) {
      let most = 0;
      for (const { point, weight } of corners) {
        x += sign * weight * positions[point * 3]!;
        y += sign * weight * positions[point * 3 + 1]!;
        z += sign * weight * positions[point * 3 + 2]!;
        most = Math.max(most, reach[point]!);
      }
      far += most;
    }
    const distance = Math.sqrt(x * x + y * y + z * z);
    if (distance === 0 || distance >= far) return;
    const away = [x, y, z];
    for (const { point, weight } of first) if (weight > NOTHING) take(point, 1, away, distance);
    for (const { point, weight } of second) if (weight > NOTHING) take(point, -1, away, distance);
  };

  const farthest = (face: number) =>
    Math.max(reach[triangles[face * 3]!]!, reach[triangles[face * 3 + 1]!]!, reach[triangles[face * 3 + 2]!]!);
  eachClosePair({ positions, triangles, sewn }, farthest, (one, other, neighbours) => {
    const a = [triangles[one * 3]!, triangles[one * 3 + 1]!, triangles[one * 3 + 2]!];
    const b = [triangles[other * 3]!, triangles[other * 3 + 1]!, triangles[other * 3 + 2]!];
    for (const [own, face] of [
      [a, other],
      [b, one],
    ] as const) {
      for (const point of own) {
        if (neighbours && hasCorner(corners, face * 3, cornerOf(point))) continue;
        const from = placeOf(positions, point);
        const weights = nearestWeights(mesh, face, from);
        const there = [0, 1, 2].map((corner) => ({ point: triangles[face * 3 + corner]!, weight: weights[corner]! }));
        near([{ point, weight: 1 }], there);
      }
    }
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) {
        const [p, q, r, s] = [a[i]!, a[(i + 1) % 3]!, b[j]!, b[(j + 1) % 3]!];
        if (neighbours && [p, q].some((own) => [r, s].some((far) => cornerOf(own) === cornerOf(far)))) continue;
        const [t, u] = nearestAlong(positions, p, q, r, s);
        const first = [
          { point: p, weight: 1 - t },
          { point: q, weight: t },
        ];
        const second = [
          { point: r, weight: 1 - u },
          { point: s, weight: u },
        ];
        near(first, second);
      }
    }
  });
  return shares;
}

interface Corner {
  point: number;
  weight: number;
}

function placeOf(positions: Float32Array, point: number): [number, number, number] {
  return [positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!];
}

/** How far along each of two edges, 0 to 1, they are nearest to each other (Ericson, Real-Time Collision Detection, 2005, 5.1.9). */
function nearestAlong(positions: Float32Array, p: number, q: number, r: number, s: number): [number, number] {
  let [aa, ab, bb, ac, bc] = [0, 0, 0, 0, 0];
  for (let axis = 0; axis < 3; axis++) {
    const a = positions[q * 3 + axis]! - positions[p * 3 + axis]!;
    const b = positions[s * 3 + axis]! - positions[r * 3 + axis]!;
    const c = positions[p * 3 + axis]! - positions[r * 3 + axis]!;
    [aa, ab, bb, ac, bc] = [aa + a * a, ab + a * b, bb + b * b, ac + a * c, bc + b * c];
  }
  const clamp = (value: number) => Math.min(1, Math.max(0, value));
  if (aa === 0) return [0, bb === 0 ? 0 : clamp(bc / bb)];
  if (bb === 0) return [clamp(-ac / aa), 0];
  const slope = aa * bb - ab * ab;
  const t = slope > 1e-12 * aa * bb ? clamp((ab * bc - ac * bb) / slope) : 0;
  const u = (ab * t + bc) / bb;
  if (u < 0) return [clamp(-ac / aa), 0];
  if (u > 1) return [clamp((ab - ac) / aa), 1];
  return [t, u];
}
