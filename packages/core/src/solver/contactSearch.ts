import type { Topology } from '../mesh/topology';
import type { KernelMemory } from './kernelMemory';

/** Never gather for less than this motion, in m, nor for more. */
const LEAST_REACH = 0.002;
const MOST_REACH = 0.05;
/** How far, in m, the sweeps of one substep move a point at most, on top of what prediction did. */
const NEAR = 0.001;
/** A gathering should last about this many substeps. */
const WANTED_SUBSTEPS = 12;

/** Where one cloth meets one collider. */
interface Pair {
  probes: { address: number; count: number };
  collider: number;
  target: number;
  /** Probes that may meet the collider before the next gathering. */
  candidates: { address: number; count: number };
  /** Of these, the ones that may meet it in this substep. */
  near: { address: number; count: number };
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
    const list = () => ({ address: this.#memory.allocate(probes.count * 8), count: 0 });
    this.pairs.push({ probes, collider, target, candidates: list(), near: list() });
  }

  /** Forces the next `update` to gather, after points were set from outside. */
  invalidate(): void {
    this.#left = 0;
  }

  /**
   * Gathers when anything could have moved farther than the last gathering reached; lists what is near now.
   * @param motion the farthest that any point can move in the coming substep, in m
   */
  update(points: number, displacement: number, motion: number): void {
    this.#left -= motion;
    const { run } = this.#memory;
    if (this.#left <= 0) {
      const reach = Math.max(Math.min(MOST_REACH, Math.max(LEAST_REACH, motion * WANTED_SUBSTEPS)), motion * 2);
      for (const { probes, collider, target, candidates } of this.pairs) {
        candidates.count = run.gatherContacts(
          points,
          displacement,
          probes.address,
          probes.count,
          collider,
          target + reach,
          candidates.address,
        );
      }
      this.#left = reach - motion;
    }
    // Several passes over the contacts follow; all but the first look only at those that can be near now.
    for (const { candidates, collider, target, near } of this.pairs) {
      if (candidates.count === 0) near.count = 0;
      else {
        near.count = run.gatherContacts(
          points,
          displacement,
          candidates.address,
          candidates.count,
          collider,
          target + Math.min(motion, NEAR),
          near.address,
        );
      }
    }
  }
}
