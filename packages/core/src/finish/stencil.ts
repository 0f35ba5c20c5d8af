/** Points as weighted sums of others: point i is the sum of `weights[k]` times point `sources[k]` for k from `starts[i]` to `starts[i + 1]`. */
export interface Stencil {
  starts: Uint32Array;
  sources: Uint32Array;
  weights: Float64Array;
}

/** Collects a stencil, point after point. */
export function stencilOf(rows: readonly (readonly [source: number, weight: number][])[]): Stencil {
  const starts = new Uint32Array(rows.length + 1);
  rows.forEach((row, i) => (starts[i + 1] = starts[i]! + row.length));
  const sources = new Uint32Array(starts.at(-1)!);
  const weights = new Float64Array(sources.length);
  let at = 0;
  for (const row of rows) {
    for (const [source, weight] of row) {
      sources[at] = source;
      weights[at++] = weight;
    }
  }
  return { starts, sources, weights };
}

/** The sums, for values with so many components a point. */
export function applyStencil(stencil: Stencil, values: Float32Array, components: number): Float32Array {
  if (components === 3) return applyToPlaces(stencil, values);
  const { starts, sources, weights } = stencil;
  const count = starts.length - 1;
  const out = new Float32Array(count * components);
  for (let i = 0; i < count; i++) {
    for (let c = 0; c < components; c++) {
      let sum = 0;
      for (let k = starts[i]!; k < starts[i + 1]!; k++) sum += weights[k]! * values[sources[k]! * components + c]!;
      out[i * components + c] = sum;
    }
  }
  return out;
}

/** The same for x y z, gone through once for all three. */
function applyToPlaces({ starts, sources, weights }: Stencil, values: Float32Array): Float32Array {
  const count = starts.length - 1;
  const out = new Float32Array(count * 3);
  for (let i = 0; i < count; i++) {
    let [x, y, z] = [0, 0, 0];
    const end = starts[i + 1]!;
    for (let k = starts[i]!; k < end; k++) {
      const weight = weights[k]!;
      const from = sources[k]! * 3;
      x += weight * values[from]!;
      y += weight * values[from + 1]!;
      z += weight * values[from + 2]!;
    }
    out[i * 3] = x;
    out[i * 3 + 1] = y;
    out[i * 3 + 2] = z;
  }
  return out;
}
