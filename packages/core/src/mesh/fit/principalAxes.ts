import { cross, direction, type Matrix3, type Vector3 } from '../../math/vector';

/**
 * The directions along which points spread most, second most and least, as the columns of a turn: Jacobi's method on their
 * covariance. Exact arithmetic, so the same everywhere.
 */
export function principalAxes(positions: ArrayLike<number>): Matrix3 {
  const count = positions.length / 3;
  const mean = [0, 0, 0];
  for (let i = 0; i < positions.length; i++) mean[i % 3]! += positions[i]! / count;
  const a = [0, 1, 2].map(() => [0, 0, 0]);
  for (let i = 0; i < positions.length; i += 3) {
    for (let r = 0; r < 3; r++) {
      for (let c = 0; c < 3; c++) a[r]![c]! += (positions[i + r]! - mean[r]!) * (positions[i + c]! - mean[c]!);
    }
  }
  const v = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (let sweep = 0; sweep < 24; sweep++) {
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const) {
      const off = a[p]![q]!;
      if (off === 0) continue;
      const theta = (a[q]![q]! - a[p]![p]!) / (2 * off);
      const t = (theta < 0 ? -1 : 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
      const c = 1 / Math.sqrt(t * t + 1);
      const s = t * c;
      for (let k = 0; k < 3; k++) {
        const [kp, kq] = [a[k]![p]!, a[k]![q]!];
        a[k]![p] = c * kp - s * kq;
        a[k]![q] = s * kp + c * kq;
      }
      for (let k = 0; k < 3; k++) {
        const [pk, qk] = [a[p]![k]!, a[q]![k]!];
        a[p]![k] = c * pk - s * qk;
        a[q]![k] = s * pk + c * qk;
        const [vp, vq] = [v[k]![p]!, v[k]![q]!];
        v[k]![p] = c * vp - s * vq;
        v[k]![q] = s * vp + c * vq;
      }
    }
  }
  const order = [0, 1, 2].sort((i, j) => a[j]![j]! - a[i]![i]! || i - j);
  const column = (i: number): Vector3 => [v[0]![i]!, v[1]![i]!, v[2]![i]!];
  const x = direction(column(order[0]!)) ?? [1, 0, 0];
  const y = direction(column(order[1]!)) ?? [0, 1, 0];
  return [...x, ...y, ...cross(x, y)];
}
