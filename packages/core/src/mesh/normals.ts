/**
 * Area-weighted point normals (x y z, unit length; zero where a point has no face), written into `out`.
 * Positions are x y z in metres.
 */
export function pointNormals(
  positions: ArrayLike<number>,
  triangles: Uint32Array,
  out: Float32Array = new Float32Array(positions.length),
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
