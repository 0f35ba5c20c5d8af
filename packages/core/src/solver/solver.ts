import * as Point from '@lumbra/kernel/layouts/point';
import { length, type Vector3 } from '../math/vector';
import { pointCount } from '../mesh/mesh';
import { INTERVAL, setBend, setFabric } from './constraints/clothFabric';
import { addCloth, insideOf, takeCloth, writeFeelers, type ClothState } from './clothState';
import { ColliderMesh } from './contact/colliderMesh';
import {
  addColliderRecord,
  localBox,
  targetDistance,
  writeCollider,
  type TouchedSurface,
} from './contact/colliderRecords';
import { clothConstraints } from './constraints';
import type { Constraint } from './constraints/constraint';
import { AGAIN_BACKWARD } from './constraints/membrane';
import { usedReach, type UsedReach } from './constraints/usedReach';
import { ContactSearch, type ContactMeasure, type Feelers, type PlacedCollider } from './contact/contactSearch';
import { exactSurface } from './contact/exactSurface';
import { flatTriangles } from './constraints/flatTriangles';
import { Forces } from './air/forces';
import { gripped } from './holds/gripped';
import { Holds, type HeldCloth } from './holds/holds';
import { HelperLostError, KernelMemory } from './kernelMemory';
import { LayerContact, type LayerCounts } from './layers/layerContact';
import type { LayeredCloth } from './layers/layeredCloth';
import { webEdges, withWebs, type WebbedCloth } from './layers/seamWebs';
import { longestPossible } from './longestEdge';
import { measureCloths, type FrameMeasures } from './measure/measureCloths';
import type { ClothModel, ColliderModel, Model } from './model';
import { pairOf, type MeetingCloth } from './layers/pairs';
import { sameForm } from './sameForm';
import { setSurface } from './contact/surface';

export type { FrameMeasures } from './measure/measureCloths';

/** Speed in m/s at which cloth that is already too near a collider is pushed out. */
const PUSH_SPEED = 0.5;

/** A time in s, at a whole number of frames of `seconds` where it is so but for rounding: sums of frames drift off them. */
function wholeFrames(time: number, seconds: number): number {
  const frames = Math.round(time / seconds);
  return Math.abs(time / seconds - frames) < 1e-6 ? frames * seconds : time;
}

/** Positions and velocities of all points, from which a run can go on bit for bit. */
export interface SolverState {
  time: number;
  /** Bound on the fastest point's speed in m/s, by which contact is searched. */
  speed: number;
  /** Positions, residuals and velocities, each 4 numbers a point (x y z w). */
  arrays: Float32Array;
  /** What constraints need besides, kind by kind: of each cloth which groups of faces are swept again, then of each its creases. */
  again: Uint8Array[];
  /** Where the positions are counted from, x y z in m; the world's origin where it is missing. */
  origin?: Vector3;
}

/** A step gave numbers that are not finite. The frames before it are sound. */
export class UnstableError extends Error {
  constructor(
    readonly cloth: string,
    readonly time: number,
  ) {
    super(`The cloth “${cloth}” could not be computed any further ${time.toFixed(3)} s into the run.`);
  }
}

/**
 * Cloth by extended position-based dynamics with small substeps, one sweep each (Macklin et al. 2016 "XPBD:
 * Position-Based Simulation of Compliant Constrained Dynamics"; Macklin et al. 2019 "Small Steps in Physics
 * Simulation"). Same model, same calls: same bits, on any machine.
 */
export class Solver {
  readonly #memory = new KernelMemory();
  #model: Model;
  readonly #cloths: ClothState[] = [];
  readonly #search: ContactSearch;
  readonly #layers: LayerContact | null;
  /** How layers meet each cloth. */
  readonly #webbed: WebbedCloth[];
  readonly #holds: Holds;
  readonly #constraints: Constraint[];
  readonly #forces: Forces;
  readonly #count: number;
  readonly #points: number;
  readonly #displacement: number;
  readonly #residual: number;
  readonly #start: number;
  readonly #velocity: number;
  readonly #acceleration: number;
  readonly #origin: Vector3;
  /** The longest edge of any cloth, in m, and what of each feels colliders. */
  #spacing = 0;
  #feelers: Feelers[] = [];
  #time = 0;
  #substep = 0;
  /** Substep length for which the constraints are set. */
  #h = 0;
  /** Bound on the fastest point's speed after the last substep, in m/s. */
  #speed = 0;
  #contacts = 0;
  /** Points before the last `advance`, and its time in s. */
  #before: Float32Array | null = null;
  #advanced = 1;

  constructor(model: Model) {
    this.#model = model;
    this.#origin = model.origin ?? [0, 0, 0];
    const total = model.cloths.reduce((sum, cloth) => sum + pointCount(cloth.rest), 0);
    // One held point more, for the padding of the four-wide loops.
    this.#count = total + 1;
    const array = () => this.#memory.allocate(this.#count * Point.BYTES);
    this.#points = array();
    this.#displacement = array();
    this.#residual = array();
    this.#start = array();
    this.#velocity = array();
    this.#acceleration = array();
    this.#search = new ContactSearch(this.#memory);
    let firstPoint = 0;
    for (const cloth of model.cloths) {
      this.#cloths.push(addCloth(this.#memory, cloth, this.#placeOf(firstPoint)));
      firstPoint += pointCount(cloth.rest);
    }
    const firstPointOf = new Map(this.#cloths.map(({ model: { id }, firstPoint: first }) => [id, first]));
    this.#holds = new Holds(this.#memory, this.#heldCloths(), firstPointOf);
    const at = { points: this.#points, displacement: this.#displacement };
    this.#constraints = [
      ...clothConstraints(this.#memory, this.#simulated, { ...at, residual: this.#residual, velocity: this.#velocity }),
      this.#holds.asConstraint(this.#points, this.#displacement),
    ];
    this.#forces = new Forces(this.#memory, model.air, this.#cloths, {
      ...{ count: this.#count, points: this.#points, velocity: this.#velocity, acceleration: this.#acceleration },
    });
    this.#webbed = withWebs(model.cloths);
    this.#addColliders();
    this.#layers = this.#addLayers(total);
  }

  /** Where a cloth lies whose points begin with this one. */
  #placeOf(firstPoint: number): Parameters<typeof addCloth>[2] {
    const gravity = length(this.#model.air.gravity);
    return { points: this.#points, firstPoint, idlePoint: this.#count - 1, gravity };
  }

  get #simulated(): ClothState[] {
    return this.#cloths.filter(({ model: { given } }) => !given);
  }

  #heldCloths(): HeldCloth[] {
    return this.#cloths.map(({ model: { holds = [], ties = [] }, firstPoint, points }) => {
      return { firstPoint, points, holds, ties };
    });
  }

  #addLayers(total: number): LayerContact | null {
    const { layers: how, pairs } = this.#model;
    if (how === 'off') return null;
    const meeting = { cloths: this.#meetingCloths(), pairs };
    const layers = new LayerContact(this.#memory, this.#layeredCloths(), meeting, {
      ...{ count: total, points: this.#points, displacement: this.#displacement },
      ...{ residual: this.#residual, start: this.#start },
    });
    layers.exact = how !== 'draft';
    return layers;
  }

  #layeredCloths(): LayeredCloth[] {
    return this.#cloths.map(({ model, firstPoint, points, scales }, i) => {
      const { passing, fabric } = model;
      const { mesh: rest, apart } = this.#webbed[i]!;
      const thickness = model.layerDistance ?? fabric.thickness;
      const others = this.#cloths.flatMap((one) => pairOf(this.#model.pairs, model.id, one.model.id)?.clearance ?? []);
      const farthest = Math.max(thickness, ...others);
      const { friction } = fabric;
      return { rest, apart, firstPoint, points, thickness, farthest, passing, friction, scales };
    });
  }

  #meetingCloths(): MeetingCloth[] {
    return this.#cloths.map(({ model: { id, touchesItself = true, given = false } }) => ({ id, touchesItself, given }));
  }

  #addColliders(): void {
    const feelers = this.#cloths.map((cloth, i) =>
      writeFeelers(this.#memory, cloth, webEdges(cloth.model, this.#webbed[i]!)),
    );
    const spacing = Math.max(0, ...feelers.map(({ longestEdge }) => longestEdge));
    this.#spacing = spacing;
    this.#feelers = feelers;
    for (const collider of this.#model.colliders) {
      const { mesh: own, pointsAt } = collider.kind === 'mesh' ? collider : {};
      const surface = own ?? exactSurface(collider);
      const mesh = surface && new ColliderMesh(this.#memory, surface, { spacing, pointsAt });
      const cloths = this.#touchedBy(collider).map(({ cloth, surface: touched, target }) => {
        const record = addColliderRecord(this.#memory, collider, mesh?.address ?? 0, touched);
        return { feelers: feelers[cloth]!, record, target, surface: touched };
      });
      const box = own ? mesh!.box : localBox(collider);
      this.#search.addCollider({ ...placedAs(collider), mesh, box }, cloths);
    }
    this.#search.placeAt(0);
  }

  /** The cloths, by their number, that a collider touches, and how. */
  #touchedBy(collider: ColliderModel): { cloth: number; surface: TouchedSurface; target: number }[] {
    return this.#cloths.flatMap(({ model: { id, fabric, given } }, cloth) => {
      if (given) return [];
      const own = pairOf(this.#model.pairs, id, collider.id);
      if (own && !own.touches) return [];
      const target = targetDistance(own?.clearance ?? collider.clearance, fabric.thickness);
      return [{ cloth, surface: { thickness: fabric.thickness, friction: fabric.friction, own }, target }];
    });
  }

  /**
   * Goes on as a run of another model would from here, where that differs in numbers only: costs little, while a new solver takes long.
   * Returns false, and changes nothing, where it differs in more.
   */
  take(model: Model): boolean {
    if (!sameForm(this.#model, model)) return false;
    const longest = Math.max(
      0,
      ...model.cloths.map((cloth) => longestPossible(cloth, cloth.fabricAt?.(0) ?? cloth.fabric)),
    );
    // What is sharp of colliders depends on how wide the cloth is meshed.
    if (longest !== this.#spacing) return false;
    if (model.cloths.some((cloth, i) => !sameFaces(this.#cloths[i]!, cloth))) return false;
    this.#model = model;
    this.#cloths.forEach((cloth, i) =>
      takeCloth(this.#memory, cloth, model.cloths[i]!, this.#placeOf(cloth.firstPoint)),
    );
    this.#holds.take(this.#heldCloths());
    this.#forces.take(model.air);
    this.#takeColliders();
    this.#layers?.take(this.#layeredCloths(), this.#meetingCloths(), model.pairs);
    // Stiffness is set with the next substep.
    this.#h = 0;
    return true;
  }

  #takeColliders(): void {
    this.#cloths.forEach(({ model }, i) => {
      this.#feelers[i]!.longestEdge = longestPossible(model, model.fabricAt?.(0) ?? model.fabric);
    });
    this.#setSurfaces();
    const taken = this.#model.colliders.map((collider) => {
      const cloths = this.#touchedBy(collider).map(({ cloth, surface, target }) => {
        const write = (record: number) => writeCollider(this.#memory, record, collider, surface);
        return { target, surface, longestEdge: this.#feelers[cloth]!.longestEdge, write };
      });
      return { placed: placedAs(collider), cloths };
    });
    this.#search.take(taken);
    this.#search.placeAt(this.#time);
  }

  /** Bytes of the kernel's memory that this run takes. */
  get bytes(): number {
    return this.#memory.taken;
  }

  /** Seconds since the start of the run. */
  get time(): number {
    return this.#time;
  }

  /**
   * Goes on by `seconds` in `substeps` equal substeps. `heed` is asked after each with how many are done; where it says no, the
   * solver goes back to where it was and returns false.
   * @throws UnstableError when a velocity is no longer a number
   */
  advance(seconds: number, substeps: number, heed?: (done: number) => boolean): boolean {
    const before = this.state();
    const whole = this.#withHelpers(before, () => this.#advance(seconds, substeps, heed));
    if (whole && !this.#layers?.overflowed) return true;
    this.restore(before);
    // As a run would compute it that goes on from here: with room for all from the start.
    return whole && this.advance(seconds, substeps, heed);
  }

  /** Does a frame's work, with helpers where there are any; where one is lost, alone and from the beginning. */
  #withHelpers(before: SolverState, work: () => boolean): boolean {
    try {
      return this.#memory.inThreads(work);
    } catch (error) {
      if (!(error instanceof HelperLostError)) throw error;
      this.#layers?.setLists();
      this.restore(before);
      return work();
    }
  }

  #advance(seconds: number, substeps: number, heed?: (done: number) => boolean): boolean {
    const from = this.#time;
    const to = wholeFrames(from + seconds, seconds);
    const h = seconds / substeps;
    this.#before = this.#memory.floats(this.#points, this.#count * 4).slice();
    this.#advanced = seconds;
    this.#setFabrics(to);
    if (this.#holds.any) this.#setHolds(to, h);
    if (h !== this.#h) this.#setSubstep(h);
    this.#search.beginFrame(from, to);
    // Air, damping, selection and all searches begin anew here, so that a run can go on from any saved state.
    this.#substep = 0;
    this.#layers?.beginFrame();
    this.#forces.beginFrame();
    for (let n = 1; n <= substeps; n++) {
      const share = n / substeps;
      if (n % INTERVAL === 1) this.#memory.beginStretch();
      this.#step(h, share, n === substeps ? to : from + (to - from) * share);
      if (!Number.isFinite(this.#speed)) throw new UnstableError(this.#firstUnstableCloth(), this.#time);
      if (heed && n < substeps && !heed(n)) return false;
    }
    // What is left of the last interval.
    const rest = (substeps % INTERVAL) / INTERVAL;
    if (rest > 0) this.#damp(rest);
    return true;
  }

  /** Lets cloths be of the fabric that keys, masks and cues make of it at a time in s. */
  #setFabrics(time: number): void {
    const set = (cloth: ClothState) => setFabric(this.#memory, cloth, this.#points, time, this.#h);
    if (this.#cloths.filter(set).length === 0) return;
    this.#setSurfaces();
    this.#layers?.setDistances(this.#layeredCloths());
  }

  /** How rough and thick points are, to colliders. */
  #setSurfaces(): void {
    this.#cloths.forEach(({ model: { rest, fabric }, scales }, i) => {
      const { surface } = this.#feelers[i]!;
      if (surface !== 0) setSurface(this.#memory, surface, rest, fabric.thickness, scales);
    });
  }

  #damp(share: number): void {
    for (const constraint of this.#constraints) constraint.damp?.(share);
  }

  /** Sets where points are held in the frame up to a time in s; points that become carried, or free, change their inverse mass. */
  #setHolds(time: number, h: number): void {
    this.#holds.beginFrame(this.#time, time, h, this.#points);
    this.#cloths.forEach((cloth, i) => {
      const { model, firstPoint, points, inverseMasses, freeMasses } = cloth;
      if (!model.holds?.some(({ points: all, carried: always }) => always.length < all.length)) return;
      const carried = this.#holds.carriedAt(i, time);
      const held = new Set(model.held);
      const values = this.#memory.points(this.#points, firstPoint, points);
      let changed = false;
      for (let point = 0; point < points; point++) {
        const wanted = held.has(point) || carried.has(point) ? 0 : freeMasses[point]!;
        if (inverseMasses[point] === wanted) continue;
        inverseMasses[point] = values[point * 4 + 3] = wanted;
        changed = true;
      }
      if (changed && this.#h !== 0) setBend(this.#memory, cloth, this.#h);
    });
  }

  /**
   * Grips the points of a cloth around a place softly: within the radius they follow `moveGrip`, the less the farther from its middle.
   * Returns how many points are gripped.
   */
  grip(cloth: number, place: readonly number[], radius: number): number {
    const held = gripped(cloth, this.#ownPositions(cloth), place, radius);
    this.#holds.grip({ ...held, places: held.places.map((value, i) => value - this.#origin[i % 3]!) });
    return held.points.length;
  }

  /** Takes what is gripped so far from where it was gripped, x y z in m; it goes there over the next `advance`. */
  moveGrip(by: readonly number[]): void {
    this.#holds.moveGrip(by);
  }

  letGo(): void {
    this.#holds.grip(null);
  }

  #setSubstep(h: number): void {
    this.#h = h;
    for (const constraint of this.#constraints) constraint.setStep?.(h);
  }

  /** A substep of h seconds that ends at a share of the frame, at a time in s. */
  #step(h: number, share: number, time: number): void {
    const { run } = this.#memory;
    const [p, d, e, start] = [this.#points, this.#displacement, this.#residual, this.#start];
    const [v, a] = [this.#velocity, this.#acceleration];
    const meet = () => this.#search.solve(p, d, e, start, PUSH_SPEED * h);
    if (this.#substep % INTERVAL === 0) {
      this.#search.setTouch(this.#time);
      this.#forces.set(this.#substep, Math.round(this.#advanced / h), h, this.#time);
    }
    run.predict(p, d, e, start, v, a, this.#count, h);
    if (this.#holds.any) this.#holds.carry(p, d, e, v, h, share);
    for (const constraint of this.#constraints) constraint.solve(this.#substep);
    // Twice the motion of the last substep: constraints may have added to what the speed alone would do.
    const fall = this.#forces.gravityAt(this.#time) * h * INTERVAL;
    const carried = this.#search.moveTo(time);
    const held = this.#holds.fastest * h;
    // And what leashes, ties and attachments have drawn farther than that.
    const drawn = 1.5 * Math.sqrt(run.farthest(d, this.#count));
    this.#search.update(p, d, Math.max(2 * (this.#speed + fall) * h + held, drawn) + carried);
    this.#contacts = meet();
    for (const backward of AGAIN_BACKWARD) {
      for (const constraint of this.#constraints) constraint.again?.(backward);
      meet();
    }
    const layers = this.#layers?.solve(PUSH_SPEED * h, meet);
    this.#contacts += layers?.touching ?? 0;
    // Taken back, points stay where they are and keep their velocities.
    if (layers?.takeBack) run.stay(e, start, this.#count);
    else {
      const speed = Math.sqrt(run.finish(p, d, e, start, v, this.#count, h));
      this.#speed = speed + this.#search.throwBack(p, v, 1 / h);
    }
    this.#substep++;
    this.#time = time;
    if (this.#substep % INTERVAL === 0) this.#damp(1);
  }

  #firstUnstableCloth(): string {
    const unstable = this.#cloths.find(({ firstPoint, points }) =>
      this.#memory.points(this.#velocity, firstPoint, points).some((value) => !Number.isFinite(value)),
    );
    return (unstable ?? this.#cloths[0]!).model.id;
  }

  /** Exact count of edges that pass through triangles, with the places of the first; nothing where layers are off. */
  crossings(): { count: number; places: Float32Array } {
    const { count, places } = this.#layers?.crossings() ?? { count: 0, places: new Float32Array() };
    return { count, places: places.map((value, i) => value + this.#origin[i % 3]!) };
  }

  /** How cloth lies to the colliders, which are in the model's order. */
  contact(): ContactMeasure {
    const { depths, pierced, squeezed } = this.#search.measure(this.#points, this.#residual);
    return {
      depths: depths.map((found) => this.#inWorld(found)),
      pierced: pierced.map((found) => this.#inWorld(found)),
      squeezed: squeezed && this.#inWorld(squeezed),
    };
  }

  #inWorld<T extends { place: [number, number, number] }>(found: T): T {
    return { ...found, place: this.#worldPlace(found.place) };
  }

  #worldPlace<P extends [number, number, number] | null>(place: P): P {
    return place && ([0, 1, 2].map((axis) => place[axis]! + this.#origin[axis]!) as P);
  }

  /** What layer contact did since the last call; with a clock in ms, also how long it took. */
  layerCounts(clock?: () => number): LayerCounts | null {
    if (!this.#layers) return null;
    if (clock) this.#layers.clock = clock;
    return this.#layers.counts();
  }

  /** A copy of one cloth's positions, x y z in m. */
  positions(cloth: number): Float32Array<ArrayBuffer> {
    const own = this.#ownPositions(cloth);
    return told(this.#cloths[cloth]!.model, own);
  }

  #ownPositions(cloth: number): Float32Array<ArrayBuffer> {
    const { firstPoint, points } = this.#cloths[cloth]!;
    const source = this.#memory.points(this.#points, firstPoint, points);
    const out = new Float32Array(points * 3);
    for (let i = 0; i < points; i++) {
      out[i * 3] = source[i * 4]! + this.#origin[0];
      out[i * 3 + 1] = source[i * 4 + 1]! + this.#origin[1];
      out[i * 3 + 2] = source[i * 4 + 2]! + this.#origin[2];
    }
    return out;
  }

  /** A copy of one cloth's velocities, x y z in m/s. */
  velocities(cloth: number): Float32Array<ArrayBuffer> {
    const { firstPoint, points, model } = this.#cloths[cloth]!;
    const source = this.#memory.points(this.#velocity, firstPoint, points);
    return told(
      model,
      Float32Array.from({ length: points * 3 }, (_, i) => source[Math.floor(i / 3) * 4 + (i % 3)]!),
    );
  }

  /** Mass of all points that can move, in kg. */
  mass(): number {
    return this.#cloths.reduce(
      (sum, { inverseMasses }) => sum + inverseMasses.reduce((total, w) => total + (w > 0 ? 1 / w : 0), 0),
      0,
    );
  }

  /** What is squeezed between colliders is as `contact` found it last. */
  measure(): FrameMeasures {
    const addresses = { points: this.#points, velocity: this.#velocity };
    const since = { before: this.#before, seconds: this.#advanced };
    const isSqueezed = (point: number) => this.#search.isSqueezed(point);
    const measures = measureCloths(this.#memory, this.#cloths, addresses, since, this.#h, isSqueezed);
    const { place, falsePlace } = measures.stretch;
    const stretch = { ...measures.stretch, place: this.#worldPlace(place), falsePlace: this.#worldPlace(falsePlace) };
    return { ...measures, stretch, contacts: this.#contacts };
  }

  state(): SolverState {
    const size = this.#count * 4;
    const arrays = new Float32Array(size * 3);
    [this.#points, this.#residual, this.#velocity].forEach((address, i) => {
      arrays.set(this.#memory.floats(address, size), i * size);
    });
    const again = this.#savers.map(({ save }) => save());
    return { time: this.#time, speed: this.#speed, arrays, again, origin: this.#origin };
  }

  /**
   * Goes back to a state of the same cloths. Inverse masses stay those of this model, so that a state may be
   * taken over after pins or weights have changed.
   * @throws RangeError when the state is of other cloths
   */
  restore(state: SolverState): void {
    const size = this.#count * 4;
    const savers = this.#savers;
    if (state.arrays.length !== size * 3) throw new RangeError('The saved state belongs to other cloth.');
    const points = this.#memory.floats(this.#points, size);
    const masses = points.filter((_, i) => i % 4 === 3);
    [this.#points, this.#residual, this.#velocity].forEach((address, i) => {
      this.#memory.floats(address, size).set(state.arrays.subarray(i * size, (i + 1) * size));
    });
    savers.forEach(({ restore }, i) => restore(state.again[i] ?? new Uint8Array()));
    const from = state.origin ?? [0, 0, 0];
    const away = [0, 1, 2].map((axis) => from[axis]! - this.#origin[axis]!);
    if (away.some((value) => value !== 0)) {
      for (let i = 0; i < points.length; i++) if (i % 4 < 3) points[i]! += away[i % 4]!;
    }
    masses.forEach((mass, i) => (points[i * 4 + 3] = mass));
    this.#time = state.time;
    this.#before = null;
    this.#speed = state.speed;
    this.#search.placeAt(state.time);
    this.#layers?.invalidate();
  }

  /**
   * Constraints that have more to keep than points tell: kind by kind, those of all cloths. States that were saved before there was a kind
   * have nothing of it at their end.
   */
  get #savers(): { save: () => Uint8Array; restore: (saved: Uint8Array) => void }[] {
    const kinds = [...new Set(this.#constraints.map((constraint) => constraint.constructor))];
    const byKind = kinds.flatMap((kind) => this.#constraints.filter((constraint) => constraint.constructor === kind));
    return byKind.flatMap((constraint) => {
      const { save, restore } = constraint;
      return save && restore ? { save: save.bind(constraint), restore: restore.bind(constraint) } : [];
    });
  }

  /** Sets how many times as far as cloth is long its attachments reach. */
  setReach(times: number): void {
    for (const { attachments } of this.#cloths) attachments.reach = times;
  }

  /** How far the attachments of all cloths are used. */
  usedReach(): UsedReach {
    const all = this.#cloths.map((cloth) => usedReach(this.#memory, cloth, this.#points));
    return {
      reach: Math.max(0, ...all.map(({ reach }) => reach)),
      share: Math.max(0, ...all.map(({ share }) => share)),
    };
  }

  /** Keeps this share of all velocities: 1 changes nothing, 0 stops all motion. */
  calm(share: number): void {
    const velocity = this.#memory.floats(this.#velocity, this.#count * 4);
    for (let i = 0; i < velocity.length; i++) velocity[i]! *= share;
  }
}

/** x y z of all points that are told of a cloth, from those that are computed. */
function told({ pointOf }: ClothModel, own: Float32Array<ArrayBuffer>): Float32Array<ArrayBuffer> {
  if (!pointOf) return own;
  const all = new Float32Array(pointOf.length * 3);
  for (let i = 0; i < pointOf.length; i++) {
    const from = pointOf[i]! * 3;
    all[i * 3] = own[from]!;
    all[i * 3 + 1] = own[from + 1]!;
    all[i * 3 + 2] = own[from + 2]!;
  }
  return all;
}

/** Whether the same faces of a cloth have an area with the numbers of another model: only those are laid out. */
function sameFaces({ flat }: ClothState, model: ClothModel): boolean {
  const { fabric, fabricAt, scales, scalesAt } = model;
  const { areas } = flatTriangles(insideOf(model), fabricAt?.(0) ?? fabric, scalesAt?.(0) ?? scales);
  return areas.every((area, face) => area > 0 === flat.areas[face]! > 0);
}

/** Where a collider is, how it moves and how it touches. */
function placedAs(collider: ColliderModel): Omit<PlacedCollider, 'mesh' | 'box'> {
  const { center, rotation, poseAt, touchAt, bounce = 0 } = collider;
  return { pose: { center, rotation }, poseAt, touchAt, bounces: touchAt !== undefined || bounce > 0 };
}
