/**
 * The middles of the triangles around points, weighted by their area; of a point without any, the point itself.
 *
 * @param places u v of each point
 * @param from the first point that is asked for
 * @param to the point after the last
 * @returns u v of each that is asked for
 */
export function centroids(places: Float64Array, triangles: Uint32Array, from: number, to: number): Float64Array {
  const isAsked = (point: number) => point >= from && point < to;
  const middles = new Float64Array((to - from) * 2);
  const weights = new Float64Array(to - from);
  for (let t = 0; t < triangles.length; t += 3) {
    const a = triangles[t]!;
    const b = triangles[t + 1]!;
    const c = triangles[t + 2]!;
    if (!isAsked(a) && !isAsked(b) && !isAsked(c)) continue;
    const au = places[a * 2]!;
    const av = places[a * 2 + 1]!;
    const bu = places[b * 2]!;
    const bv = places[b * 2 + 1]!;
    const cu = places[c * 2]!;
    const cv = places[c * 2 + 1]!;
    const area = Math.abs((bu - au) * (cv - av) - (bv - av) * (cu - au));
    const u = ((au + bu + cu) * area) / 3;
    const v = ((av + bv + cv) * area) / 3;
    for (let corner = 0; corner < 3; corner++) {
      const at = triangles[t + corner]! - from;
      if (!(at >= 0 && at < weights.length)) continue;
      middles[at * 2]! += u;
      middles[at * 2 + 1]! += v;
      weights[at]! += area;
    }
  }
  for (let i = 0; i < weights.length; i++) {
    const weight = weights[i]!;
    middles[i * 2] = weight > 0 ? middles[i * 2]! / weight : places[(from + i) * 2]!;
    middles[i * 2 + 1] = weight > 0 ? middles[i * 2 + 1]! / weight : places[(from + i) * 2 + 1]!;
  }
  return middles;
}
