import type { Mesh } from '../mesh';

export interface BallOptions {
  /** In metres. */
  radius: number;
  /** How often the icosahedron's faces are split in four: 0 to 6; 3 gives 642 points. */
  detail: number;
}

/** A closed ball around the origin with evenly spread points and no poles: a subdivided icosahedron. */
export function ball({ radius, detail }: BallOptions): Mesh {
  const g = (1 + Math.sqrt(5)) / 2;
  // prettier-ignore
  const points: number[][] = [
    [-1, g, 0], [1, g, 0], [-1, -g, 0], [1, -g, 0], [0, -1, g], [0, 1, g],
    [0, -1, -g], [0, 1, -g], [g, 0, -1], [g, 0, 1], [-g, 0, -1], [-g, 0, 1],
  ].map(onUnitBall);
  // prettier-ignore
  let triangles: number[] = [
    0, 11, 5, 0, 5, 1, 0, 1, 7, 0, 7, 10, 0, 10, 11, 1, 5, 9, 5, 11, 4, 11, 10, 2, 10, 7, 6, 7, 1, 8,
    3, 9, 4, 3, 4, 2, 3, 2, 6, 3, 6, 8, 3, 8, 9, 4, 9, 5, 2, 4, 11, 6, 2, 10, 8, 6, 7, 9, 8, 1,
  ];
  for (let level = 0; level < detail; level++) {
    const middles = new Map<number, number>();
    const middle = (a: number, b: number): number => {
      const key = Math.min(a, b) * 0x100000 + Math.max(a, b);
      const known = middles.get(key);
      if (known !== undefined) return known;
      const [p, q] = [points[a]!, points[b]!];
      points.push(onUnitBall([p[0]! + q[0]!, p[1]! + q[1]!, p[2]! + q[2]!]));
      middles.set(key, points.length - 1);
      return points.length - 1;
    };
    const split: number[] = [];
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
      const [ab, bc, ca] = [middle(a, b), middle(b, c), middle(c, a)];
      split.push(a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca);
    }
    triangles = split;
  }
  const positions = new Float32Array(points.flat().map((value) => value * radius));
  return { positions, triangles: new Uint32Array(triangles) };
}

function onUnitBall(point: number[]): number[] {
  const [x, y, z] = point as [number, number, number];
  const size = Math.sqrt(x * x + y * y + z * z);
  return [x / size, y / size, z / size];
}
