import * as Crossing from '@lumbra/kernel/layouts/layers/crossing';
import * as Pair from '@lumbra/kernel/layouts/layers/featurePair';
import * as Block from '@lumbra/kernel/layouts/layers/layerBlock';
import * as ZoneSum from '@lumbra/kernel/layouts/layers/zoneSum';
import * as Point from '@lumbra/kernel/layouts/point';
import type { KernelMemory } from '../kernelMemory';
import { CountedCrossings, type Crossings } from './countedCrossings';
import { CROSSING_WORDS } from './crossingWords';
import type { LayeredCloth } from './layeredCloth';
import { setDistances, writeFaces, writeForest, writeRest, writeRings, type Forest } from './layerTrees';
import { writeSewn } from './sewn';
import { writeStars } from './stars';
import type { PairModel } from '../model';
import { addMeetings, setMeetings, type MeetingCloth } from './pairs';
import { Untangle } from './untangle';

// Contact of cloth with itself and with other cloth: what kernel/assembly/layers works on, and the order of a
// substep. The promise, when exact: cloth that starts without crossings never has one. See docs/solver.md.

/** What layer contact did since it was last asked. */
export interface LayerCounts {
  /** Searches of the whole trees, and local ones for points that moved otherwise than planned. */
  queries: number;
  extensions: number;
  /** Largest list of near features. */
  pairs: number;
  /** Features that had to be split, points that had to move as rigid zones, substeps that were taken back. */
  splits: number;
  zonePoints: number;
  takenBack: number;
  /** Milliseconds of queries with extensions, of keeping layers apart, and of forbidding crossings; 0 unless timed. */
  queryTime: number;
  contactTime: number;
  forbidTime: number;
}

/** Room for this many pairs a point at first; doubled when it does not do. */
const PAIRS_PER_POINT = 8;
/** A substep gets this many rounds of forbidding crossings and enlarging balls before it is taken back. */
const ROUNDS = 16;
/** So often colliders have their say again after crossings had to be ruled out. */
const ROUNDS_WITH_COLLIDERS = 3;
/** Above this share of escaped points a new query costs less than extending the last one. */
const MANY_ESCAPED = 0.1;
const MOST_HORIZON = 64;
/** Draft looks at least this far ahead, at the price of missing what moves otherwise than planned. */
const DRAFT_HORIZON = 24;

interface Addresses {
  points: number;
  displacement: number;
  residual: number;
  start: number;
}

export class LayerContact {
  readonly #memory: KernelMemory;
  /** Where the layerBlock lies. */
  readonly block: number;
  readonly #count: number;
  readonly #points: number;
  readonly #untangle: Untangle;
  readonly #rest: number;
  readonly #forest: Forest;
  readonly #meetings: number;
  #capacity = 0;
  #horizon = 0;
  #step = 0;
  #sorted = 0;
  #tangled = false;
  #overflowed = false;
  #age = 0;
  /** Without it layers only push: cheaper, for draft, and then they may cross. */
  exact = true;
  /** A clock in ms for profiling; without it nothing is timed. */
  clock: (() => number) | null = null;
  #counts = emptyCounts();
  readonly #counted = new CountedCrossings();

  /** `count` is the number of points of all cloths, which come one after the other; `meeting` says how these meet. */
  constructor(
    memory: KernelMemory,
    cloths: readonly LayeredCloth[],
    meeting: { cloths: readonly MeetingCloth[]; pairs: readonly PairModel[] | undefined },
    { count, ...addresses }: Addresses & { count: number },
  ) {
    this.#memory = memory;
    this.#count = count;
    this.#points = addresses.points;
    const perPoint = () => memory.allocate((count + 1) * Point.BYTES);
    const [centre, plan, scratch, rest] = [perPoint(), perPoint(), perPoint(), perPoint()];
    const forest = (this.#forest = writeForest(memory, cloths));
    this.#rest = rest;
    writeRest(memory, rest, cloths);
    this.#meetings = addMeetings(memory, meeting.cloths, meeting.pairs);
    this.block = memory.allocate(Block.BYTES);
    const room = (bytes: number) => memory.allocate(bytes);
    const tangled = room(count + 1);
    this.#untangle = new Untangle(memory, cloths, count, { ...addresses, tangled });
    const words = {
      POINTS: addresses.points,
      DISPLACEMENT: addresses.displacement,
      RESIDUAL: addresses.residual,
      START: addresses.start,
      CENTRE: centre,
      PLAN: plan,
      SCRATCH: scratch,
      REST: rest,
      RINGS: writeRings(memory, cloths, count),
      FACES: writeFaces(memory, cloths, count),
      TRIANGLES: forest.triangles,
      NODES: forest.nodes,
      PARENTS: forest.parents,
      CLOTHS: forest.cloths,
      TASKS: room(memory.run.taskBytes(cloths.length)),
      ESCAPED: perPoint(),
      FLAGS: room(count + 1),
      ZONES: room((count + 1) * 4),
      ZONE_SUMS: room((count + 1) * ZoneSum.BYTES),
      TOUCHED: room(Math.max(forest.triangleCount * 4, CROSSINGS_LISTED * Crossing.BYTES)),
      FACE_FLAGS: room(forest.triangleCount),
      POINT_COUNT: count,
      TRIANGLE_COUNT: forest.triangleCount,
      NODE_COUNT: forest.nodeCount,
      CLOTH_COUNT: cloths.length,
      TANGLED: tangled,
      SETTLED: perPoint(),
      MEETINGS: this.#meetings,
      SEWN: writeSewn(memory, cloths, count),
      WAKES: room(Block.WAKES_BYTES),
      STARS: writeStars(memory, cloths, count),
      SPANS: room(forest.triangleCount * 16),
    };
    memory.records(this.block, Block.BYTES).setWords(Block, words);
    this.#makeLists(Math.max(4096, count * PAIRS_PER_POINT));
  }

  /** Takes over how far the same cloths keep apart, how rough they are and how they meet. */
  take(
    cloths: readonly LayeredCloth[],
    meeting: readonly MeetingCloth[],
    pairs: readonly PairModel[] | undefined,
  ): void {
    writeRest(this.#memory, this.#rest, cloths);
    setDistances(this.#memory, this.#forest, cloths);
    setMeetings(this.#memory, this.#meetings, meeting, pairs);
    this.#counted.clear();
    this.invalidate();
  }

  /** Takes over how far the faces of cloths keep apart, and how rough they are. */
  setDistances(cloths: readonly LayeredCloth[]): void {
    this.#counted.clear();
    setDistances(this.#memory, this.#forest, cloths);
  }

  /** Forces a query before the next contact: points were set from outside, or a frame begins. */
  invalidate(): void {
    this.#horizon = 0;
  }

  counts(): LayerCounts {
    const block = this.#memory.records(this.block, Block.BYTES);
    const [splits, zonePoints] = [block.integer(0, Block.SPLITS), block.integer(0, Block.ZONE_POINTS)];
    block.setWords(Block, { SPLITS: 0, ZONE_POINTS: 0 });
    const counts = { ...this.#counts, splits, zonePoints };
    this.#counts = emptyCounts();
    return counts;
  }

  /**
   * Keeps layers apart at the end of a substep, after all other constraints.
   * @param push farthest, in m, that layers which are too near move apart in a substep
   * @param colliders one more pass of contact with colliders, or layers would push each other into them
   * @returns how many pairs of features touch, and whether the substep must be taken back: then no point may move
   */
  solve(push: number, colliders: () => void): { touching: number; takeBack: boolean } {
    const { run } = this.#memory;
    const started = this.#now();
    this.#pullOut(push);
    this.#step++;
    if (this.#step > this.#horizon) this.#query();
    if (this.exact) this.#followEscaped();
    const queried = this.#now();
    const touching = run.keepLayersApart(this.#step, push);
    if (touching > 0) colliders();
    const apart = this.#now();
    this.#counts.queryTime += queried - started;
    this.#counts.contactTime += apart - queried;
    const takeBack = this.exact && !this.#settleWith(colliders);
    if (takeBack) {
      this.#counts.takenBack++;
      this.invalidate();
    }
    this.#counts.forbidTime += this.#now() - apart;
    return { touching, takeBack };
  }

  /** Looks for all pairs from where the points are at the start of this substep. */
  #query(): void {
    const { run } = this.#memory;
    this.#horizon = run.makePlan(this.exact ? 1 : DRAFT_HORIZON, MOST_HORIZON);
    let pairs = run.queryLayers(this.#horizon);
    while (pairs > this.#capacity) {
      this.#makeLists(Math.ceil(pairs * 1.5));
      pairs = run.queryLayers(this.#horizon);
    }
    this.#step = 1;
    this.#sorted = pairs;
    this.#counts.queries++;
    this.#counts.pairs = Math.max(this.#counts.pairs, pairs);
  }

  /** Makes room for so many pairs: in order, as they are listed, and for the addresses of some of them. */
  #makeLists(capacity: number): void {
    this.#capacity = capacity;
    const { run } = this.#memory;
    const blocks = run.blocksFor(capacity);
    const room = (bytes: number) => this.#memory.allocate(bytes);
    const [pairs, spare] = [room(capacity * Pair.BYTES), room(blocks * run.blockBytes())];
    const [links, notes, sifted] = [room(blocks * 4), room(capacity * 4), room(capacity * 4)];
    this.#memory.records(this.block, Block.BYTES).setWords(Block, {
      PAIRS: pairs,
      SPARE: spare,
      PAIR_CAPACITY: capacity,
      LINKS: links,
      BLOCK_CAPACITY: blocks,
      NOTES: notes,
      SIFTED: sifted,
    });
    this.setLists();
  }

  /** Tells the kernel where all of that lies. */
  setLists(): void {
    this.#memory.run.setLayerData(this.block);
  }

  /** Pairs that were added since the query. */
  get #besides(): number {
    return this.#memory.records(this.block, Block.BYTES).integer(0, Block.PAIR_TOTAL) - this.#sorted;
  }

  /** Points that do not move as planned get larger balls, or all are looked at anew. Returns how many there were. */
  #followEscaped(): number {
    const { run } = this.#memory;
    const escaped = run.listEscaped(this.#step);
    if (escaped === 0) return 0;
    const many = escaped > this.#count * MANY_ESCAPED || this.#besides > this.#sorted / 2 + this.#count / 4;
    if (many && this.#step > 1) {
      this.#query();
      return escaped;
    }
    this.#counts.extensions++;
    run.extendLayers(escaped, this.#step, this.#horizon);
    const pairs = this.#sorted + this.#besides;
    if (pairs > this.#capacity) {
      this.#overflowed = true;
      this.#makeLists(Math.ceil(pairs * 1.5));
      this.#query();
    }
    return escaped;
  }

  /**
   * Rules crossings out. What that moved may have come into colliders: then these have their say once more, and crossings are ruled out
   * again, last. False when they could not be.
   */
  #settleWith(colliders: () => void): boolean {
    for (let round = 1; ; round++) {
      const found = this.#forbid();
      if (found !== 'moved' || round > ROUNDS_WITH_COLLIDERS) return found !== 'crossed';
      colliders();
    }
  }

  /** Rules crossings out, and tells whether any point had to be moved for that, or that it was in vain. */
  #forbid(): 'apart' | 'moved' | 'crossed' {
    const { run } = this.#memory;
    let moved = false;
    for (let round = 0; round < ROUNDS; round++) {
      moved = run.forbidCrossing(this.#step) !== 0 || moved;
      if (this.#followEscaped() === 0) return moved ? 'moved' : 'apart';
    }
    return 'crossed';
  }

  /**
   * Counts, exactly, the edges that pass through triangles now, and gives places (x y z) of the first of them.
   * Ends the current query.
   */
  crossings(): { count: number; places: Float32Array } {
    this.invalidate();
    const { count, listed } = this.#countAll();
    const points = this.#places();
    const shown = Math.min(count, PLACES_TOLD);
    const places = new Float32Array(shown * 3);
    for (let i = 0; i < shown; i++) {
      for (let axis = 0; axis < 3; axis++) {
        const of = (end: number) => points[listed[i * CROSSING_WORDS + end]! / 4 + axis]!;
        places[i * 3 + axis] = 0.5 * (of(0) + of(1));
      }
    }
    return { count, places };
  }

  #places(): Float32Array {
    return this.#memory.floats(this.#points, this.#count * 4);
  }

  #countAll(): Crossings {
    return this.#counted.at(this.#places(), () => this.#listed('countCrossings'));
  }

  /** All crossings, or those of tangled points. */
  #listed(of: 'countCrossings' | 'listTangled'): Crossings {
    const count = this.#memory.run[of](CROSSINGS_LISTED);
    const touched = this.#memory.records(this.block, Block.BYTES).integer(0, Block.TOUCHED);
    return { count, listed: this.#memory.integers(touched, Math.min(count, CROSSINGS_LISTED) * CROSSING_WORDS) };
  }

  /**
   * A frame begins: whatever was found is void, and what crosses is marked, so that it is not locked in, whether it was set so or
   * has slipped in. From here a run goes on alike, whatever was before.
   */
  beginFrame(): void {
    this.invalidate();
    this.#age = 0;
    this.#overflowed = false;
    this.#tangled = this.exact && this.#untangle.mark(this.#countAll().listed) > 0;
  }

  /**
   * Whether the lists of near features were too short in the frame. They are longer now; but what was found depends on when that was
   * noticed, so the frame has to be computed again.
   */
  get overflowed(): boolean {
    return this.#overflowed;
  }

  /** Every few substeps, what crosses is pulled out by at most `reach` m. */
  #pullOut(reach: number): void {
    if (!this.#tangled || !this.exact || this.#age++ % PULL_INTERVAL !== 0) return;
    this.#untangle.pull(this.#listed('listTangled').listed, reach * PULL_INTERVAL);
    // The boxes of the query, where it is still of use.
    if (this.#step < this.#horizon) this.#memory.run.refitLayers(this.#horizon);
  }

  #now(): number {
    return this.clock ? this.clock() : 0;
  }
}

/** So many crossings are listed, and places of crossings told. */
const CROSSINGS_LISTED = 4096;
const PLACES_TOLD = 64;
/** Substeps between pulls at what crosses. */
const PULL_INTERVAL = 8;

function emptyCounts(): LayerCounts {
  return {
    ...{ queries: 0, extensions: 0, pairs: 0, splits: 0, zonePoints: 0, takenBack: 0 },
    ...{ queryTime: 0, contactTime: 0, forbidTime: 0 },
  };
}
