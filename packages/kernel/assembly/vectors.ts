// Vectors of three numbers in the first lanes of a v128; what is in the fourth is left out.

// @ts-ignore: decorator
@inline
export function dot(a: v128, b: v128): f32 {
  const m = f32x4.mul(a, b);
  return (
    f32x4.extract_lane(m, 0) + f32x4.extract_lane(m, 1) + f32x4.extract_lane(m, 2)
  );
}

// @ts-ignore: decorator
@inline
export function squareOf(v: v128): f32 {
  return dot(v, v);
}

// @ts-ignore: decorator
@inline
export function cross(a: v128, b: v128): v128 {
  const ayzx = v128.shuffle<f32>(a, a, 1, 2, 0, 3),
    byzx = v128.shuffle<f32>(b, b, 1, 2, 0, 3);
  const c = f32x4.sub(f32x4.mul(a, byzx), f32x4.mul(ayzx, b));
  return v128.shuffle<f32>(c, c, 1, 2, 0, 3);
}

/** Adds so many times a vector to what is stored. */
// @ts-ignore: decorator
@inline
export function add(to: usize, v: v128, scale: f32): void {
  v128.store(to, f32x4.add(v128.load(to), f32x4.mul(v, f32x4.splat(scale))));
}
