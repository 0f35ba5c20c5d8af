import type { Mesh } from '../mesh/mesh';
import { ringsOf } from '../mesh/pointLists';

/** Takes in all points within a distance in m, along the edges of the mesh as cut, of those that are 1. */
export function grown(mesh: Mesh, reached: Uint8Array, distance: number): void {
  const { starts, entries } = ringsOf(mesh);
  const p = mesh.positions;
  const away = Float64Array.from(reached, (one) => (one === 1 ? 0 : Infinity));
  let wave = [...reached.keys()].filter((point) => reached[point] === 1);
  // Points are taken up again whenever a shorter way to them is found.
  while (wave.length > 0) {
    const next = new Set<number>();
    for (const point of wave) {
      for (let i = starts[point]!; i < starts[point + 1]!; i++) {
        const other = entries[i]!;
        const [x, y, z] = [0, 1, 2].map((axis) => p[other * 3 + axis]! - p[point * 3 + axis]!) as [
          number,
          number,
          number,
        ];
        const there = away[point]! + Math.sqrt(x * x + y * y + z * z);
        if (there > distance || there >= away[other]!) continue;
        away[other] = there;
        reached[other] = 1;
        next.add(other);
      }
    }
    wave = [...next];
  }
}
