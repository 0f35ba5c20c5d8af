import { cosine, sine } from '../../math/trigonometry';
import type { Mesh } from '../mesh';

export interface DiscOptions {
  /** In metres. */
  radius: number;
  /** Wanted distance between neighbouring points in metres. */
  spacing: number;
}

/**
 * A flat round piece in the x z plane around the origin, facing up: rings of 6, 12, 18… points around its centre, so
 * that its triangles are nearly even, its border is a circle and no direction is preferred.
 *
 * @example disc({ radius: 0.15, spacing: 0.01 }) // 15 rings, 721 points
 */
export function disc({ radius, spacing }: DiscOptions): Mesh {
  const rings = Math.max(1, Math.round(radius / spacing));
  const first = (ring: number) => (ring === 0 ? 0 : 1 + 3 * ring * (ring - 1));
  const count = first(rings + 1);
  const positions = new Float32Array(count * 3);
  const material = new Float32Array(count * 2);
  material.set([radius, radius]);
  for (let ring = 1; ring <= rings; ring++) {
    const r = (radius * ring) / rings;
    for (let i = 0; i < 6 * ring; i++) {
      const angle = (2 * Math.PI * i) / (6 * ring);
      const [x, z] = [r * cosine(angle), r * sine(angle)];
      const point = first(ring) + i;
      positions.set([x, 0, z], point * 3);
      material.set([radius + x, radius + z], point * 2);
    }
  }
  const triangles: number[] = [];
  for (let ring = 1; ring <= rings; ring++) {
    const outer = (i: number) => first(ring) + (i % (6 * ring));
    const inner = (i: number) => (ring === 1 ? 0 : first(ring - 1) + (i % (6 * (ring - 1))));
    for (let sector = 0; sector < 6; sector++) {
      for (let i = 0; i < ring; i++) {
        const [a, b] = [outer(sector * ring + i), outer(sector * ring + i + 1)];
        triangles.push(a, inner(sector * (ring - 1) + i), b);
        if (i < ring - 1) triangles.push(b, inner(sector * (ring - 1) + i), inner(sector * (ring - 1) + i + 1));
      }
    }
  }
  return { positions, triangles: new Uint32Array(triangles), material };
}
