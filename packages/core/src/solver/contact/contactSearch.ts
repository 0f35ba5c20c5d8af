import * as Contact from '@lumbra/kernel/layouts/contact/contact';
import * as Candidate from '@lumbra/kernel/layouts/contact/candidate';
import * as Feeler from '@lumbra/kernel/layouts/contact/feeler';
import * as LocalPlace from '@lumbra/kernel/layouts/contact/localPlace';
import * as Plane from '@lumbra/kernel/layouts/contact/plane';
import * as SearchRecord from '@lumbra/kernel/layouts/contact/search';
import * as SharpPair from '@lumbra/kernel/layouts/contact/sharpPair';
import * as Point from '@lumbra/kernel/layouts/point';
import { length } from '../../math/vector';
import type { ColliderMesh } from './colliderMesh';
import {
  placeCollider,
  reachOf,
  targetDistance,
  writeTouch,
  type LocalBox,
  type TouchedSurface,
} from './colliderRecords';
import type { KernelMemory } from '../kernelMemory';
import type { Pose } from '../../math/pose';
import type { Touch } from '../model';

/** Never gather for less than this motion, in m, nor for more. */
const LEAST_REACH = 0.002;
const MOST_REACH = 0.05;
/** How far, in m, the sweeps of one substep move a point at most, on top of what prediction did. */
const NEAR = 0.004;
/** A gathering should last about this many substeps. */
const WANTED_SUBSTEPS = 12;
/** Pairs with sharp features are listed for so many times the motion of this substep. */
const MORE = 1.5;
/** Cloth is stretched, so that its edges reach so many times as far as they are long. */
const REACH_OF_EDGE = 1.2;
/** Room for this many pairs with sharp features at first; enlarged when it does not do. */
const FIRST_PAIRS = 1024;
/** A face and a feature may meet in two places. */
const CONTACTS_PER_PAIR = 2;

/** The features of one cloth that feel: points, edges and faces, as byte offsets in the kernel's memory. */
export interface Feelers {
  firstPoint: number;
  points: number;
  /** Those of webs in open seams come last, after as many as are of the cloth. */
  edges: { address: number; count: number; ofCloth: number };
  faces: { address: number; count: number };
  longestEdge: number;
  /** What masks scale of its surface; see surface.ts. */
  surface: number;
}

/** What a collider is given as: where it is, how it moves and how it touches. */
export interface PlacedCollider {
  pose: Pose;
  poseAt?: ((time: number) => Pose) | undefined;
  touchAt?: ((time: number) => Touch) | undefined;
  mesh: ColliderMesh | null;
  box: LocalBox;
  bounces: boolean;
}

/** One cloth as a collider meets it. */
export interface TouchedCloth {
  feelers: Feelers;
  record: number;
  /** Distance in m that it keeps from the collider. */
  target: number;
  surface: TouchedSurface;
}

/** How a collider touches one cloth now. */
export interface TakenCloth extends Pick<TouchedCloth, 'target' | 'surface'> {
  /** In m. */
  longestEdge: number;
  /** Writes its record. */
  write: (record: number) => void;
}

interface MovingCollider {
  /** One record a cloth. */
  records: number[];
  mesh: ColliderMesh | null;
  touchAt: ((time: number) => Touch) | undefined;
  bounces: boolean;
  box: LocalBox;
  reach: number;
  poseAt: ((time: number) => Pose) | undefined;
  pose: Pose;
  /** How far its surface has moved since the frame began, in m; only differences count. */
  travel: number;
}

/** Two colliders, by their numbers, that leave cloth between them less room than it is thick: by how many m, and where. */
export interface Squeeze {
  missing: number;
  between: [number, number];
  place: [number, number, number];
}

/** How cloth lies to colliders. What two of them squeeze between them, with less room than it is thick, is left out of depths and faces: there it cannot keep out of both. */
export interface ContactMeasure {
  /** Per collider, how deep cloth is inside it, in m (negative where it keeps off, -1 where it is nowhere near), and where. */
  depths: { depth: number; place: [number, number, number] }[];
  /** Per collider, how many faces of cloth pass through its surface, counted exactly, and where one of them is; of a plane none. */
  pierced: { count: number; place: [number, number, number] }[];
  /** Where the most is missing. */
  squeezed: Squeeze | null;
}

interface Search {
  address: number;
  collider: MovingCollider;
  record: number;
  target: number;
  surface: TouchedSurface;
  feelers: Feelers;
}

/**
 * Where cloths meet colliders. What may meet is gathered for as far as anything can move, and gathered again before
 * anything has moved that far, so that no contact is missed between gatherings.
 */
export class ContactSearch {
  readonly #memory: KernelMemory;
  readonly #colliders: MovingCollider[] = [];
  readonly #searches: Search[] = [];
  #left = 0;

  constructor(memory: KernelMemory) {
    this.#memory = memory;
  }

  addCollider({ pose, poseAt, touchAt, mesh, box, bounces }: PlacedCollider, cloths: readonly TouchedCloth[]): void {
    const records = cloths.map(({ record }) => record);
    const collider = { records, mesh, touchAt, bounces, box, reach: reachOf(box), poseAt, pose, travel: 0 };
    this.#colliders.push(collider);
    for (const record of records) placeCollider(this.#memory, record, box, pose, pose);
    for (const { feelers, record, target, surface } of cloths) {
      const address = this.#writeSearch(feelers, record, mesh ? FIRST_PAIRS : 0);
      this.#searches.push({ address, collider, record, target, surface, feelers });
    }
  }

  #writeSearch(
    { firstPoint, points, edges, faces, longestEdge, surface }: Feelers,
    record: number,
    pairs: number,
  ): number {
    const memory = this.#memory;
    const address = memory.allocate(SearchRecord.BYTES);
    const words = {
      FIRST_POINT: firstPoint * Point.BYTES,
      POINT_COUNT: points,
      EDGES: edges.address,
      EDGE_COUNT: edges.count,
      FACES: faces.address,
      FACE_COUNT: faces.count,
      PLANES: memory.allocate(points * Plane.BYTES),
      FLAGS: memory.allocate(points),
      GIVES: memory.allocate(points * 4),
      POINTS_NEAR: memory.allocate(points * Candidate.BYTES),
      EDGES_NEAR: memory.allocate(edges.count * Feeler.EDGE_BYTES),
      FACES_NEAR: memory.allocate(faces.count * Feeler.FACE_BYTES),
      COLLIDER: record,
      SURFACE: surface,
    };
    memory.records(address, SearchRecord.BYTES).setWords(SearchRecord, words);
    this.#setLongestEdge(address, longestEdge);
    this.#makeRoom(address, { points, edges, faces }, pairs);
    const places = pairs > 0 ? memory.allocate(points * LocalPlace.BYTES) : 0;
    memory.records(address, SearchRecord.BYTES).setInteger(0, SearchRecord.PLACES, places);
    return address;
  }

  #setLongestEdge(search: number, longestEdge: number): void {
    const record = this.#memory.records(search, SearchRecord.BYTES);
    record.setFloat(0, SearchRecord.LONGEST_EDGE, longestEdge * REACH_OF_EDGE);
  }

  /** Gives a search room for so many pairs with sharp features, and for all contacts. */
  #makeRoom(
    address: number,
    { points, edges, faces }: Pick<Feelers, 'points' | 'edges' | 'faces'>,
    pairs: number,
  ): void {
    const memory = this.#memory;
    const list = memory.allocate(pairs * SharpPair.BYTES);
    const most = points + edges.count + faces.count + pairs * CONTACTS_PER_PAIR;
    const contacts = memory.allocate(most * Contact.BYTES);
    const words = { CONTACTS: contacts, PAIR_ROOM: pairs, PAIRS: list, PAIR_COUNT: 0 };
    memory.records(address, SearchRecord.BYTES).setWords(SearchRecord, words);
  }

  /** Lists which sharp features of a mesh what is near may come within so many m of. */
  #gatherSharp(points: number, displacement: number, { address, feelers, collider }: Search, near: number): void {
    const { run } = this.#memory;
    for (;;) {
      const found = run.gatherSharp(points, displacement, address, near, collider.travel);
      if (found <= this.#memory.records(address, SearchRecord.BYTES).integer(0, SearchRecord.PAIR_ROOM)) return;
      this.#makeRoom(address, feelers, Math.ceil(found * 1.5));
    }
  }

  /**
   * Takes over where colliders are, how they move and how they touch each cloth, of as many as there are and in the same order. `cloths` are
   * those that each touches, in the order in which they were added.
   */
  take(colliders: readonly { placed: Omit<PlacedCollider, 'mesh' | 'box'>; cloths: readonly TakenCloth[] }[]): void {
    let at = 0;
    colliders.forEach(({ placed, cloths }, i) => {
      const { pose, poseAt, touchAt, bounces } = placed;
      Object.assign(this.#colliders[i]!, { pose, poseAt, touchAt, bounces });
      for (const { target, surface, longestEdge, write } of cloths) {
        const search = this.#searches[at++]!;
        Object.assign(search, { target, surface });
        write(search.record);
        this.#setLongestEdge(search.address, longestEdge);
        placeCollider(this.#memory, search.record, this.#colliders[i]!.box, pose, pose);
      }
    });
    this.invalidate();
  }

  /** Forces the next `update` to gather, after points were set from outside. */
  invalidate(): void {
    this.#left = 0;
  }

  /** Takes all colliders to where they are at a time in s, without motion: the start of a run, or of its continuation. */
  placeAt(time: number): void {
    for (const collider of this.#colliders) {
      if (collider.mesh?.deforms) {
        collider.mesh.beginFrame(time, time);
        this.#fitBox(collider);
      } else if (!collider.poseAt) continue;
      if (collider.poseAt) collider.pose = collider.poseAt(time);
      for (const record of collider.records) {
        placeCollider(this.#memory, record, collider.box, collider.pose, collider.pose);
      }
    }
    this.setTouch(time);
    this.invalidate();
  }

  /** Prepares what changes its shape for a frame, from a time in s to another. */
  beginFrame(startTime: number, endTime: number): void {
    for (const collider of this.#colliders) {
      // From any frame the same sums, whatever was before.
      collider.travel = 0;
      if (!collider.mesh?.deforms) continue;
      collider.mesh.beginFrame(startTime, endTime);
      this.#fitBox(collider);
    }
    this.invalidate();
  }

  #fitBox(collider: MovingCollider): void {
    collider.box = collider.mesh!.box;
    collider.reach = reachOf(collider.box);
  }

  /** Lets keyed clearance, friction and bounce be as they are at a time in s. */
  setTouch(time: number): void {
    for (const search of this.#searches) {
      if (!search.collider.touchAt) continue;
      const touch = search.collider.touchAt(time);
      const { thickness, own } = search.surface;
      const target = targetDistance(own?.clearance ?? touch.clearance, thickness);
      // What was gathered for a smaller distance does not hold for a larger one.
      if (target > search.target) this.invalidate();
      search.target = target;
      writeTouch(this.#memory, search.record, touch, search.surface);
    }
  }

  /** Moves all colliders through a substep that ends at a time in s; returns the farthest that a surface moved, in m. */
  moveTo(time: number): number {
    let farthest = 0;
    for (const collider of this.#colliders) {
      const deforms = collider.mesh?.deforms === true;
      if (!collider.poseAt && !deforms) continue;
      const before = collider.pose;
      const now = collider.poseAt?.(time) ?? before;
      const moved = poseDistance(before, now, collider.reach) + (deforms ? collider.mesh!.moveTo(time) : 0);
      collider.pose = now;
      collider.travel += moved;
      farthest = Math.max(farthest, moved);
      // A collider that stands still is written as such, unless it stood still already.
      const from = moved === 0 ? now : before;
      for (const record of collider.records) {
        placeCollider(this.#memory, record, collider.box, from, now, moved > 0);
      }
    }
    return farthest;
  }

  /**
   * Gathers when anything could have moved farther than the last gathering reached; lists what is near now.
   * @param motion the farthest that any point or surface can move in the coming substep, in m
   */
  update(points: number, displacement: number, motion: number): void {
    this.#left -= motion;
    const { run } = this.#memory;
    const gather = this.#left <= 0;
    if (gather) {
      const reach = Math.max(Math.min(MOST_REACH, Math.max(LEAST_REACH, motion * WANTED_SUBSTEPS)), motion * 2);
      for (const { address, collider, target } of this.#searches) {
        run.gatherContacts(points, displacement, address, target + reach, collider.travel);
      }
      this.#left = reach - motion;
    }
    // Several passes over the contacts follow; they look only at those that can be near now.
    for (const search of this.#searches) {
      const { address, collider, target } = search;
      const near = target + Math.min(motion, NEAR);
      // First the pairs: getting room for them takes that of the contacts anew.
      if (collider.mesh && (gather || run.isSharpOutdated(points, displacement, address, near, collider.travel))) {
        // With a little more, so that motion that grows does not ask for them again at once.
        this.#gatherSharp(points, displacement, search, target + Math.min(motion * MORE, NEAR));
      }
      run.nearContacts(points, displacement, address, near, collider.travel);
      if (collider.mesh) run.nearSharp(points, displacement, address, near);
    }
    this.#shareRoom(points, displacement);
  }

  /** Lets colliders that leave a cloth too little room between them share it, of what is listed now; returns where the most is missing. */
  #shareRoom(points: number, displacement: number): Squeeze | null {
    const { run } = this.#memory;
    let worst: Squeeze | null = null;
    // Of many colliders few are near: pairs are made of those alone.
    const near = this.#searches.filter(({ address }) => run.clearRoom(address));
    near.forEach(({ address, feelers, collider }, i) => {
      for (const other of near.slice(i + 1)) {
        if (other.feelers !== feelers) continue;
        const missing = run.shareRoom(points, displacement, address, other.address);
        if (missing <= (worst?.missing ?? 0)) continue;
        const between = [collider, other.collider].map((one) => this.#colliders.indexOf(one)) as [number, number];
        worst = { missing, between, place: this.#foundAt(address) };
      }
    });
    return worst;
  }

  /**
   * One pass over all contacts, in a substep whose residuals were `start` when it began; returns how many places of cloth touch
   * something.
   */
  solve(points: number, displacement: number, residual: number, start: number, push: number): number {
    let touching = 0;
    for (const { address } of this.#searches) {
      touching += this.#memory.run.solveContacts(points, displacement, residual, start, address, push);
    }
    return touching;
  }

  /** After a substep of 1 / `rate` s: throws back what hit a collider that bounces; returns the largest speed given, in m/s. */
  throwBack(points: number, velocity: number, rate: number): number {
    let fastest = 0;
    for (const { address, collider } of this.#searches) {
      if (!collider.bounces) continue;
      fastest = Math.max(fastest, this.#memory.run.throwBack(points, velocity, address, rate));
    }
    return fastest;
  }

  /** How cloth lies to the colliders. */
  measure(points: number, residual: number): ContactMeasure {
    this.invalidate();
    const { run } = this.#memory;
    for (const { address, feelers } of this.#searches) {
      const { count, ofCloth } = feelers.edges;
      // A web is no cloth: where it is inside, nothing is.
      this.#setEdges(address, ofCloth);
      run.listToMeasure(points, residual, address);
      this.#setEdges(address, count);
    }
    const squeezed = this.#shareRoom(points, residual);
    for (const { address } of this.#searches) run.widenSqueezed(address);
    return { squeezed, depths: this.#deepest(points, residual), pierced: this.#pierced(points, residual) };
  }

  #deepest(points: number, residual: number): ContactMeasure['depths'] {
    return this.#colliders.map((collider) => {
      const worst = { depth: -1, place: [0, 0, 0] as [number, number, number] };
      for (const search of this.#searches) {
        if (search.collider !== collider) continue;
        const depth = this.#memory.run.deepestContact(points, residual, search.address);
        if (depth <= worst.depth) continue;
        worst.depth = depth;
        worst.place = this.#foundAt(search.address);
      }
      return worst;
    });
  }

  /** Where in the world the kernel found what it was asked for last. */
  #foundAt(search: number): [number, number, number] {
    const record = this.#memory.records(search, SearchRecord.BYTES);
    const along = (axis: number) => record.float(0, SearchRecord.FOUND_AT + axis * 4);
    return [along(0), along(1), along(2)];
  }

  #setEdges(search: number, count: number): void {
    this.#memory.records(search, SearchRecord.BYTES).setInteger(0, SearchRecord.EDGE_COUNT, count);
  }

  #pierced(points: number, residual: number): ContactMeasure['pierced'] {
    return this.#colliders.map((collider) => {
      const found = { count: 0, place: [0, 0, 0] as [number, number, number] };
      for (const search of this.#searches) {
        if (search.collider !== collider || !collider.mesh) continue;
        const count = this.#memory.run.countPierced(points, residual, search.address);
        if (count > 0) found.place = this.#foundAt(search.address);
        found.count += count;
      }
      return found;
    });
  }

  /** Whether a point of all is squeezed between colliders without room, as it was measured last. */
  isSqueezed(point: number): boolean {
    return this.#searches.some(({ address, feelers: { firstPoint, points } }) => {
      if (point < firstPoint || point >= firstPoint + points) return false;
      return this.#memory.run.isSqueezed(address, point * Point.BYTES);
    });
  }
}

/** The farthest that a place within `reach` of a collider's origin moves between two poses. */
function poseDistance(before: Pose, now: Pose, reach: number): number {
  const shift = length([
    now.center[0] - before.center[0],
    now.center[1] - before.center[1],
    now.center[2] - before.center[2],
  ]);
  let square = 0;
  for (let i = 0; i < 9; i++) square += (now.rotation[i]! - before.rotation[i]!) ** 2;
  return shift + Math.sqrt(square) * reach;
}
