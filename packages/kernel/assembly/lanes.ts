// Small helpers on 128-bit vectors, shared by the four-wide loops.

/** Keeps x, y, z and clears w, where points carry their inverse mass. */
// @ts-ignore: decorator
@inline
export function xyzMask(): v128 {
  return i32x4(-1, -1, -1, 0);
}

/** Displaced difference (p_a + d_a) - (p_b + d_b), taken so that the small parts never meet the large ones. */
// @ts-ignore: decorator
@inline
export function difference(pa: v128, da: v128, pb: v128, db: v128): v128 {
  return f32x4.add(f32x4.sub(pa, pb), f32x4.sub(da, db));
}

// @ts-ignore: decorator
@inline
export function multiplyAdd(a: v128, b: v128, c: v128): v128 {
  return f32x4.add(f32x4.mul(a, b), c);
}

// The low half (x, y of the pairs) and the high half (z, w) of a 4x4 transpose.
// @ts-ignore: decorator
@inline
export function interleaveLow(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 4, 1, 5);
}

// @ts-ignore: decorator
@inline
export function interleaveHigh(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 6, 3, 7);
}

// @ts-ignore: decorator
@inline
export function joinLow(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 1, 4, 5);
}

// @ts-ignore: decorator
@inline
export function joinHigh(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 3, 6, 7);
}

// The larger and the smaller of two numbers. WebAssembly's own must answer NaN for NaN and tell -0 from 0, which takes a dozen
// instructions; of vectors there are forms that need not, of one instruction. Neither number may be NaN.
// @ts-ignore: decorator
@inline
export function larger<T>(a: T, b: T): T {
  if (sizeof<T>() == 8) {
    return <T>f64x2.extract_lane(f64x2.pmax(f64x2.splat(<f64>a), f64x2.splat(<f64>b)), 0);
  }
  return <T>f32x4.extract_lane(f32x4.pmax(f32x4.splat(<f32>a), f32x4.splat(<f32>b)), 0);
}

// @ts-ignore: decorator
@inline
export function smaller<T>(a: T, b: T): T {
  if (sizeof<T>() == 8) {
    return <T>f64x2.extract_lane(f64x2.pmin(f64x2.splat(<f64>a), f64x2.splat(<f64>b)), 0);
  }
  return <T>f32x4.extract_lane(f32x4.pmin(f32x4.splat(<f32>a), f32x4.splat(<f32>b)), 0);
}
