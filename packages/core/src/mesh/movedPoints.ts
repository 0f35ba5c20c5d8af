import type { Clip, Mesh } from './mesh';

/** Seconds that a clip lasts. */
export function clipSeconds({ samples, rate }: Clip): number {
  return Math.max(0, samples - 1) / rate;
}

/**
 * The points of an animated mesh at a time of one of its clips, x y z in m: linear blend skinning of morphed points, with
 * matrices and weights interpolated linearly between samples. Before its beginning and after its end a clip stands still, unless it
 * repeats. Exact arithmetic, so the same everywhere.
 */
export function movedPoints(mesh: Mesh, clip: Clip, seconds: number, repeat: boolean): Float32Array {
  const { bind, joints, weights, bones, targets } = mesh.motion!;
  const whole = clipSeconds(clip);
  let at = Math.min(Math.max(seconds, 0), whole);
  if (repeat && whole > 0) at = seconds - Math.floor(seconds / whole) * whole;
  const exact = at * clip.rate;
  const first = Math.min(Math.floor(exact), clip.samples - 1);
  const second = Math.min(first + 1, clip.samples - 1);
  const share = exact - first;
  const blend = (values: Float32Array, width: number) => {
    const blended = new Float64Array(width);
    for (let i = 0; i < width; i++) {
      const [a, b] = [values[first * width + i]!, values[second * width + i]!];
      blended[i] = a + (b - a) * share;
    }
    return blended;
  };
  const matrices = blend(clip.matrices, bones * 12);
  const morph = blend(clip.targetWeights, targets.length);
  const out = new Float32Array(bind.length);
  for (let point = 0; point < bind.length / 3; point++) {
    let [x, y, z] = [bind[point * 3]!, bind[point * 3 + 1]!, bind[point * 3 + 2]!];
    for (let k = 0; k < targets.length; k++) {
      const weight = morph[k]!;
      if (weight === 0) continue;
      const target = targets[k]!;
      x += weight * target[point * 3]!;
      y += weight * target[point * 3 + 1]!;
      z += weight * target[point * 3 + 2]!;
    }
    let [px, py, pz] = [0, 0, 0];
    for (let k = 0; k < 4; k++) {
      const weight = weights[point * 4 + k]!;
      if (weight === 0) continue;
      const m = joints[point * 4 + k]! * 12;
      px += weight * (matrices[m]! * x + matrices[m + 1]! * y + matrices[m + 2]! * z + matrices[m + 3]!);
      py += weight * (matrices[m + 4]! * x + matrices[m + 5]! * y + matrices[m + 6]! * z + matrices[m + 7]!);
      pz += weight * (matrices[m + 8]! * x + matrices[m + 9]! * y + matrices[m + 10]! * z + matrices[m + 11]!);
    }
    out[point * 3] = px;
    out[point * 3 + 1] = py;
    out[point * 3 + 2] = pz;
  }
  return out;
}
