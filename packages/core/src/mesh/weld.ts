import { pointCount, type Mesh } from './mesh';

export interface WeldOptions {
  /** Points nearer than this become one, in metres. */
  tolerance: number;
}

export const WELD_DEFAULTS: WeldOptions = { tolerance: 1e-6 };

export interface Welded {
  mesh: Mesh;
  /** For each old point, the new point that it became. */
  points: Uint32Array;
  /** Faces that were dropped because two of their corners became one. */
  droppedFaces: number;
}

/**
 * Makes points in one place one point, so that faces that only look joined are joined. The first point of a
 * group keeps its place and its material coordinates.
 *
 * @example weld(mesh, { tolerance: 0.0005 }).mesh
 */
export function weld(mesh: Mesh, options: Partial<WeldOptions> = {}): Welded {
  const { tolerance } = { ...WELD_DEFAULTS, ...options };
  const count = pointCount(mesh);
  const cells = new Map<string, number[]>();
  const points = new Uint32Array(count);
  const kept: number[] = [];
  const { positions } = mesh;
  const size = Math.max(tolerance, 1e-9);
  for (let i = 0; i < count; i++) {
    const at = [0, 1, 2].map((axis) => Math.floor(positions[i * 3 + axis]! / size));
    const found = nearby(cells, at).find((k) => {
      const j = kept[k]!;
      const square = [0, 1, 2].reduce(
        (sum, axis) => sum + (positions[i * 3 + axis]! - positions[j * 3 + axis]!) ** 2,
        0,
      );
      return square <= tolerance * tolerance;
    });
    if (found !== undefined) {
      points[i] = found;
      continue;
    }
    const key = at.join(' ');
    const cell = cells.get(key);
    if (cell) cell.push(kept.length);
    else cells.set(key, [kept.length]);
    points[i] = kept.length;
    kept.push(i);
  }
  const triangles: number[] = [];
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) => points[mesh.triangles[t + corner]!]!) as [number, number, number];
    if (a !== b && b !== c && c !== a) triangles.push(a, b, c);
  }
  const welded: Mesh = {
    positions: new Float32Array(kept.flatMap((i) => [...positions.subarray(i * 3, i * 3 + 3)])),
    triangles: new Uint32Array(triangles),
    ...(mesh.material && {
      material: new Float32Array(kept.flatMap((i) => [...mesh.material!.subarray(i * 2, i * 2 + 2)])),
    }),
  };
  return { mesh: welded, points, droppedFaces: (mesh.triangles.length - triangles.length) / 3 };
}

function nearby(cells: Map<string, number[]>, at: number[]): number[] {
  const found: number[] = [];
  for (let x = -1; x <= 1; x++)
    for (let y = -1; y <= 1; y++)
      for (let z = -1; z <= 1; z++) found.push(...(cells.get(`${at[0]! + x} ${at[1]! + y} ${at[2]! + z}`) ?? []));
  return found.sort((a, b) => a - b);
}
