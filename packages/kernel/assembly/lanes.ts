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
