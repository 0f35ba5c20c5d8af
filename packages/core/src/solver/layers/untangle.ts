import { CROSSING_WORDS } from './crossingWords';
import * as Point from '@lumbra/kernel/layouts/point';
import { cross, dot, length, type Vector3 } from '../../math/vector';
import { topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import type { LayeredCloth } from './layeredCloth';

// What to do about a start in which cloth crosses. Contact would lock it in, since it forbids every crossing, also the way
// out. So points of crossing features are marked, and are not kept apart; and they are pulled so that the line along
// which the layers cross gets shorter, until nothing crosses (Volino and Magnenat-Thalmann 2006, "Resolving Surface
// Collisions through Intersection Contour Minimization").

/** Points this many edges around a crossing are marked as well, so that what is pulled out has room. */
const MARKED_RINGS = 1;

interface Addresses {
  points: number;
  displacement: number;
  residual: number;
  tangled: number;
}

interface Around {
  /** Neighbours of each point, over all cloths. */
  neighbours: number[][];
  /** The far points of the faces at each edge, by its ends. */
  faces: Map<number, number[]>;
}

export class Untangle {
  readonly #memory: KernelMemory;
  readonly #count: number;
  readonly #addresses: Addresses;
  readonly #cloths: readonly LayeredCloth[];
  #around: Around | null = null;

  constructor(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number, addresses: Addresses) {
    this.#memory = memory;
    this.#cloths = cloths;
    this.#count = count;
    this.#addresses = addresses;
  }

  /** What is around points and edges: found where cloth crosses, which most never does. */
  #lookAround(): Around {
    if (this.#around) return this.#around;
    const neighbours = Array.from({ length: this.#count }, (): number[] => []);
    const faces = new Map<number, number[]>();
    for (const { rest, firstPoint } of this.#cloths) {
      const t = topology(rest);
      for (let edge = 0; edge < t.edgeCount; edge++) {
        const [a, b] = [firstPoint + t.edgePoints[edge * 2]!, firstPoint + t.edgePoints[edge * 2 + 1]!];
        neighbours[a]!.push(b);
        neighbours[b]!.push(a);
        const far = [0, 1].map((side) => t.edgeOpposites[edge * 2 + side]!).filter((point) => point >= 0);
        faces.set(
          this.#key(a, b),
          far.map((point) => firstPoint + point),
        );
      }
    }
    return (this.#around = { neighbours, faces });
  }

  #key(a: number, b: number): number {
    return Math.min(a, b) * this.#count + Math.max(a, b);
  }

  /** Marks the points of all crossing features, given as 5 byte offsets each; returns how many are marked. */
  mark(listed: Uint32Array): number {
    const flags = this.#memory.bytes(this.#addresses.tangled, this.#count);
    flags.fill(0);
    if (listed.length === 0) return 0;
    const { neighbours } = this.#lookAround();
    let wave = new Set([...listed].map((offset) => offset / Point.BYTES));
    for (let ring = 0; ring <= MARKED_RINGS; ring++) {
      for (const point of wave) flags[point] = 1;
      wave = new Set([...wave].flatMap((point) => neighbours[point]!));
    }
    return flags.reduce((sum, flag) => sum + flag, 0);
  }

  /** Pulls every crossing edge and triangle apart by at most `reach` m, without giving them speed. */
  pull(listed: Uint32Array, reach: number): void {
    const sums = new Map<number, { x: number; y: number; z: number; count: number }>();
    const add = (point: number, v: Vector3, share: number) => {
      const sum = sums.get(point) ?? { x: 0, y: 0, z: 0, count: 0 };
      sum.x += v[0] * share;
      sum.y += v[1] * share;
      sum.z += v[2] * share;
      sum.count++;
      sums.set(point, sum);
    };
    for (let i = 0; i < listed.length; i += CROSSING_WORDS) {
      const [p, q, a, b, c] = [0, 1, 2, 3, 4].map((k) => listed[i + k]! / Point.BYTES) as [
        number,
        number,
        number,
        number,
        number,
      ];
      const way = this.#wayOut(p, q, a, b, c);
      if (!way) continue;
      for (const point of [p, q]) add(point, way, 0.5);
      for (const point of [a, b, c]) add(point, way, -0.5);
    }
    this.#move(sums, reach);
  }

  #at(point: number): Vector3 {
    const p = this.#memory.points(this.#addresses.points, point, 1);
    return [p[0]!, p[1]!, p[2]!];
  }

  /** The direction, of length 1 at most, in which the edge p q moves against the triangle a b c to shorten the contour. */
  #wayOut(p: number, q: number, a: number, b: number, c: number): Vector3 | null {
    const [pp, pq, pa, pb, pc] = [p, q, a, b, c].map((point) => this.#at(point)) as [
      Vector3,
      Vector3,
      Vector3,
      Vector3,
      Vector3,
    ];
    const normal = unit(cross(minus(pb, pa), minus(pc, pa)));
    const edge = unit(minus(pq, pp));
    if (!normal || !edge) return null;
    const through = dot(edge, normal);
    if (Math.abs(through) < 1e-6) return null;
    let way: Vector3 = [0, 0, 0];
    for (const far of this.#lookAround().faces.get(this.#key(p, q)) ?? []) {
      const away = minus(this.#at(far), pp);
      const face = unit(cross(edge, away));
      const line = face && unit(cross(normal, face));
      if (!line) continue;
      // The contour runs from the edge into the face.
      const inward = minus(away, scaled(edge, dot(away, edge)));
      const into = dot(line, inward) < 0 ? scaled(line, -1) : line;
      const step = minus(into, scaled(normal, (2 * dot(edge, into)) / through));
      way = [way[0] + step[0], way[1] + step[1], way[2] + step[2]];
    }
    const size = length(way);
    return size > 1e-9 ? scaled(way, 1 / Math.max(1, size)) : null;
  }

  #move(sums: Map<number, { x: number; y: number; z: number; count: number }>, reach: number): void {
    const { points, displacement, residual } = this.#addresses;
    const masses = this.#memory.floats(points, this.#count * 4);
    const moved = [displacement, residual].map((address) => this.#memory.floats(address, this.#count * 4));
    for (const [point, { x, y, z, count }] of sums) {
      if (masses[point * 4 + 3] === 0) continue;
      for (const values of moved) {
        values[point * 4]! += (reach * x) / count;
        values[point * 4 + 1]! += (reach * y) / count;
        values[point * 4 + 2]! += (reach * z) / count;
      }
    }
  }
}

function minus(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

function scaled(v: Vector3, by: number): Vector3 {
  return [v[0] * by, v[1] * by, v[2] * by];
}

function unit(v: Vector3): Vector3 | null {
  const size = length(v);
  return size > 1e-12 ? scaled(v, 1 / size) : null;
}
