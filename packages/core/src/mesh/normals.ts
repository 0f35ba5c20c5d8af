/**
 * Area-weighted point normals (x y z, unit length; zero where a point has no face), written into `out`.
 * Positions are x y z in metres. Points that `sewn` says are sewn together, and are together, have the same normal.
 */
export function pointNormals(
  positions: ArrayLike<number>,
  triangles: Uint32Array,
  out: Float32Array = new Float32Array(positions.length),
  sewn?: Uint32Array,
): Float32Array {
  out.fill(0);
  for (let t = 0; t < triangles.length; t += 3) {
    const a = triangles[t]! * 3,
      b = triangles[t + 1]! * 3,
      c = triangles[t + 2]! * 3;
    const ux = positions[b]! - positions[a]!,
      uy = positions[b + 1]! - positions[a + 1]!,
      uz = positions[b + 2]! - positions[a + 2]!;
    const vx = positions[c]! - positions[a]!,
      vy = positions[c + 1]! - positions[a + 1]!,
      vz = positions[c + 2]! - positions[a + 2]!;
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx;
    // Written out: this goes over all faces for every frame that is shown.
    out[a]! += nx;
    out[a + 1]! += ny;
    out[a + 2]! += nz;
    out[b]! += nx;
    out[b + 1]! += ny;
    out[b + 2]! += nz;
    out[c]! += nx;
    out[c + 1]! += ny;
    out[c + 2]! += nz;
  }
  if (sewn) addAcrossSeams(out, sewn, positions);
  for (let i = 0; i < out.length; i += 3) {
    const size = Math.sqrt(out[i]! * out[i]! + out[i + 1]! * out[i + 1]! + out[i + 2]! * out[i + 2]!);
    if (size > 0) {
      out[i]! /= size;
      out[i + 1]! /= size;
      out[i + 2]! /= size;
    }
  }
  return out;
}

/** Sewn points that are farther from each other than this, in m, are not together yet. */
const TOGETHER = 1e-4;

function addAcrossSeams(sums: Float32Array, sewn: Uint32Array, positions: ArrayLike<number>): void {
  const meet = (point: number, first: number) =>
    [0, 1, 2].every((axis) => Math.abs(positions[point * 3 + axis]! - positions[first * 3 + axis]!) < TOGETHER);
  for (const way of ['gather', 'spread'] as const) {
    for (let point = 0; point < sewn.length; point++) {
      const first = sewn[point]!;
      if (first === point || !meet(point, first)) continue;
      for (let axis = 0; axis < 3; axis++) {
        if (way === 'gather') sums[first * 3 + axis]! += sums[point * 3 + axis]!;
        else sums[point * 3 + axis] = sums[first * 3 + axis]!;
      }
    }
  }
}
