import type { Topology } from '../mesh/topology';
import type { KernelMemory } from './kernelMemory';

/** Never gather for less than this motion, in m, nor for more. */
const LEAST_REACH = 0.002;
const MOST_REACH = 0.05;
/** A gathering should last about this many substeps. */
const WANTED_SUBSTEPS = 12;

/** Where one cloth meets one collider. */
interface Pair {
  probes: { address: number; count: number };
  collider: number;
  target: number;
  contacts: number;
  found: number;
}

/**
 * The near pairs of cloth and colliders. They are gathered for as far as anything can move, and gathered again
 * before anything has moved that far, so that no contact is missed between gatherings.
 */
export class ContactSearch {
  readonly pairs: Pair[] = [];
  #memory: KernelMemory;
  #left = 0;

  constructor(memory: KernelMemory) {
    this.#memory = memory;
  }

  /** Lays out the places where a cloth feels: all points, then the middles of all edges. */
  addProbes(t: Topology, pointCount: number, firstPoint: number): { address: number; count: number } {
    const count = pointCount + t.edgeCount;
    const address = this.#memory.allocate(count * 8);
    const probes = this.#memory.integers(address, count * 2);
    for (let point = 0; point < pointCount; point++) {
      probes[point * 2] = probes[point * 2 + 1] = (firstPoint + point) * 16;
    }
    for (let edge = 0; edge < t.edgeCount; edge++) {
      for (const end of [0, 1]) {
        probes[(pointCount + edge) * 2 + end] = (firstPoint + t.edgePoints[edge * 2 + end]!) * 16;
      }
    }
    return { address, count };
  }

  addPair(probes: { address: number; count: number }, collider: number, target: number): void {
    const contacts = this.#memory.allocate(probes.count * 8);
    this.pairs.push({ probes, collider, target, contacts, found: 0 });
  }

  /** Forces the next `update` to gather, after points were set from outside. */
  invalidate(): void {
    this.#left = 0;
  }

  /**
   * Gathers when anything could have moved farther than the last gathering reached.
   * @param motion the farthest that any point can move in the coming substep, in m
   */
  update(points: number, displacement: number, motion: number): void {
    this.#left -= motion;
    if (this.#left > 0) return;
    const reach = Math.min(MOST_REACH, Math.max(LEAST_REACH, motion * WANTED_SUBSTEPS, motion * 2));
    for (const pair of this.pairs) {
      const { probes, collider, target, contacts } = pair;
      pair.found = this.#memory.run.gatherContacts(
        points,
        displacement,
        probes.address,
        probes.count,
        collider,
        target + Math.max(reach, motion * 2),
        contacts,
      );
    }
    this.#left = reach - motion;
  }
}
