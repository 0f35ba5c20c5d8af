import type { Fabric } from '../fabric/fabric';
import type { FaceScales } from '../fabric/faceScales';
import { length, type Vector3 } from '../math/vector';
import { pointCount } from '../mesh/mesh';
import { topology, type Topology } from '../mesh/topology';
import { buildAirTriangles, setAirScales, type AirTriangles } from './airTriangles';
import { buildAttachments } from './attachments';
import { buildBend, setBendStiffness, type BendConstraints } from './bendConstraints';
import { ColliderMesh } from './colliderMesh';
import { localBox, targetDistance, writeCollider } from './colliderRecords';
import { ContactSearch, type Feelers } from './contactSearch';
import { flatTriangles, type FlatTriangles } from './flatTriangles';
import { Holds } from './holds';
import { KernelMemory } from './kernelMemory';
import { loosestAnywhere } from './loosest';
import { LayerContact, type LayerCounts } from './layerContact';
import { measureStretch, type StretchMeasure } from './measures';
import { writeSurface } from './surface';
import { buildMembrane, setFlatTriangles, setMembraneStiffness, type MembraneConstraints } from './membraneConstraints';
import type { ClothModel, Model } from './model';

/** Substeps between evaluations of the air and between dampings; both act over that whole interval. */
const INTERVAL = 4;
/**
 * Faces stretched by more than JOIN are swept again, until all their stretch is below LEAVE. Each further sweep
 * lies between two passes of contact: where cloth is drawn over an edge the two pull against each other, and
 * the one that came last would win. They alternate in direction, since sweeps that all run one way overshoot together.
 * Measured on a waxed cover of 10,000 points over crates, 80 substeps, after 100 frames:
 *   no further sweeps                   worst stretch 12.7 %, 17 points faster than 10 mm/s
 *   three forward, one pass of contact  8.2 %, 2700 points (a limit cycle that is seen as jitter)
 *   backward, forward, backward         5.0 %, 300 points, for a third more time
 */
const AGAIN_BACKWARD = [true, false, true];
const SWEEPS = 1 + AGAIN_BACKWARD.length;
const JOIN = 0.01;
const LEAVE = JOIN / (4 * SWEEPS);
/** Substeps between looks at which faces those are. */
const SELECT_INTERVAL = 8;
/**
 * Friction between yarns: slow motion is slowed by this many m/s^2 for each second of the fabric's damping, but never by more than
 * the most; below the slow speed in m/s in proportion to speed. With 8 ms it ends a swing of the crate cover's hem in
 * about a second, and takes 1.6 % from a free fall.
 */
const SLOWING = 20;
const MOST_SLOWING = 0.4;
const SLOW_SPEED = 0.05;
/** Speed in m/s at which cloth that is already too near a collider is pushed out. */
const PUSH_SPEED = 0.5;

interface ClothState {
  model: ClothModel;
  /** As it is now; keyed numbers change it from frame to frame. */
  fabric: Fabric;
  scales: FaceScales | undefined;
  firstPoint: number;
  points: number;
  flat: FlatTriangles;
  topology: Topology;
  /** In 1/kg; 0 for points that are held now, which `freeMasses` has as they are when they are let go. */
  inverseMasses: Float64Array;
  freeMasses: Float64Array;
  membrane: MembraneConstraints;
  bend: BendConstraints;
  attachments: { address: number; count: number };
  airTriangles: AirTriangles;
}

function sameValues(a: Float32Array | undefined, b: Float32Array | undefined): boolean {
  return a === b || (a !== undefined && a.length === b?.length && a.every((value, i) => value === b[i]));
}

/** Strength in the middle of a soft grip: firm enough to lead cloth, soft enough not to tear it away. */
const GRIP_STRENGTH = 0.7;

/** Positions and velocities of all points, from which a run can go on bit for bit. */
export interface SolverState {
  time: number;
  /** Bound on the fastest point's speed in m/s, by which contact is searched. */
  speed: number;
  /** Positions, residuals and velocities, each 4 numbers a point (x y z w). */
  arrays: Float32Array;
  /** Per cloth, which groups of faces are swept again, a byte each. */
  again: Uint8Array[];
}

export interface FrameMeasures {
  /** J */
  kineticEnergy: number;
  /** How far the farthest point moved in the last `advance`, over its time, in m/s. */
  fastest: number;
  /** Largest over all cloths, mean over all faces. */
  stretch: StretchMeasure;
  /** Places of cloth that touched a collider in the last substep. */
  contacts: number;
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
  readonly #model: Model;
  readonly #cloths: ClothState[] = [];
  readonly #search: ContactSearch;
  readonly #layers: LayerContact | null;
  readonly #holds: Holds;
  readonly #count: number;
  readonly #points: number;
  readonly #displacement: number;
  readonly #residual: number;
  readonly #start: number;
  readonly #velocity: number;
  readonly #acceleration: number;
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
    const total = model.cloths.reduce((sum, cloth) => sum + pointCount(cloth.rest), 0);
    // One held point more, for the padding of the four-wide loops.
    this.#count = total + 1;
    const array = () => this.#memory.allocate(this.#count * 16);
    this.#points = array();
    this.#displacement = array();
    this.#residual = array();
    this.#start = array();
    this.#velocity = array();
    this.#acceleration = array();
    this.#search = new ContactSearch(this.#memory);
    let firstPoint = 0;
    for (const cloth of model.cloths) {
      this.#cloths.push(this.#addCloth(cloth, firstPoint, total));
      firstPoint += pointCount(cloth.rest);
    }
    const firstPointOf = new Map(this.#cloths.map(({ model: { id }, firstPoint: first }) => [id, first]));
    this.#holds = new Holds(
      this.#memory,
      this.#cloths.map(({ model: { holds = [], ties = [] }, firstPoint: first, points }) => ({
        ...{ firstPoint: first, points, holds, ties },
      })),
      firstPointOf,
    );
    this.#addColliders();
    this.#layers = this.#addLayers(total);
  }

  #addLayers(total: number): LayerContact | null {
    if (this.#model.layers === 'off') return null;
    const cloths = this.#cloths.map(({ model, topology: t, firstPoint, points }) => ({
      rest: model.rest,
      topology: t,
      firstPoint,
      points,
      thickness: model.layerDistance ?? model.fabric.thickness,
      touchesItself: model.touchesItself ?? true,
      friction: model.fabric.friction,
      scales: model.scales,
    }));
    const addresses = { points: this.#points, displacement: this.#displacement, residual: this.#residual };
    const layers = new LayerContact(this.#memory, cloths, total, addresses);
    layers.exact = this.#model.layers !== 'draft';
    return layers;
  }

  #addCloth(model: ClothModel, firstPoint: number, idlePoint: number): ClothState {
    const { rest } = model;
    const fabric = model.fabricAt?.(0) ?? model.fabric;
    const points = pointCount(rest);
    const scales = model.scalesAt?.(0) ?? model.scales;
    const flat = flatTriangles(rest, fabric, scales);
    const t = topology(rest);
    const inverseMasses = Float64Array.from(flat.pointMasses, (mass) => (mass > 0 ? 1 / mass : 0));
    const freeMasses = inverseMasses.slice();
    const carries = (model.holds ?? []).filter(({ carries: all }) => all).flatMap((hold) => hold.points);
    const held = [...new Set([...model.held, ...carries])].sort((a, b) => a - b);
    for (const point of held) inverseMasses[point] = 0;
    const values = this.#memory.floats(this.#points + firstPoint * 16, points * 4);
    for (let i = 0; i < points; i++) {
      values.set(model.positions.subarray(i * 3, i * 3 + 3), i * 4);
      values[i * 4 + 3] = inverseMasses[i]!;
    }
    const membrane = buildMembrane(this.#memory, rest, flat, firstPoint, idlePoint);
    const bend = buildBend(this.#memory, rest, t, firstPoint);
    const acceleration = model.load ?? length(this.#model.air.gravity);
    const pinned = { rest, held, fabric: { ...fabric, ...loosestAnywhere(model, fabric) }, acceleration };
    const attachments = buildAttachments(this.#memory, pinned, t, firstPoint);
    const airTriangles = buildAirTriangles(this.#memory, rest, flat, fabric, firstPoint, scales);
    return {
      model,
      fabric,
      scales,
      firstPoint,
      points,
      flat,
      topology: t,
      inverseMasses,
      freeMasses,
      membrane,
      bend,
      attachments,
      airTriangles,
    };
  }

  #addColliders(): void {
    const feelers = this.#cloths.map((cloth) => this.#writeFeelers(cloth));
    for (const collider of this.#model.colliders) {
      const isMesh = collider.kind === 'mesh';
      const mesh = isMesh ? new ColliderMesh(this.#memory, collider.mesh, collider.pointsAt) : null;
      const cloths = this.#cloths.map(({ model }, i) => {
        const record = writeCollider(this.#memory, collider, mesh?.address ?? 0, model.fabric);
        const target = targetDistance(collider, model.fabric.thickness);
        return { feelers: feelers[i]!, record, target, surface: model.fabric };
      });
      const { center, rotation, poseAt, touchAt } = collider;
      const bounces = touchAt !== undefined || (collider.bounce ?? 0) > 0;
      const box = mesh?.box ?? localBox(collider);
      this.#search.addCollider({ pose: { center, rotation }, poseAt, touchAt, mesh, box, bounces }, cloths);
    }
    this.#search.placeAt(0);
  }

  #writeFeelers({ model, firstPoint, points, topology: t }: ClothState): Feelers {
    const write = (features: Uint32Array) => {
      const address = this.#memory.allocate(features.length * 4);
      this.#memory.integers(address, features.length).set(features.map((point) => (firstPoint + point) * 16));
      return address;
    };
    const { positions, triangles } = model.rest;
    let longest = 0;
    for (let edge = 0; edge < t.edgeCount; edge++) {
      const [a, b] = [t.edgePoints[edge * 2]! * 3, t.edgePoints[edge * 2 + 1]! * 3];
      const [x, y, z] = [0, 1, 2].map((axis) => positions[a + axis]! - positions[b + axis]!) as [
        number,
        number,
        number,
      ];
      longest = Math.max(longest, length([x, y, z]));
    }
    return {
      firstPoint,
      points,
      edges: { address: write(t.edgePoints), count: t.edgeCount },
      faces: { address: write(triangles), count: triangles.length / 3 },
      longestEdge: longest,
      surface: writeSurface(this.#memory, model.rest, model.fabric.thickness, model.scales),
    };
  }

  /** Seconds since the start of the run. */
  get time(): number {
    return this.#time;
  }

  /**
   * Goes on by `seconds` in `substeps` equal substeps.
   * @throws UnstableError when a velocity is no longer a number
   */
  advance(seconds: number, substeps: number): void {
    const h = seconds / substeps;
    this.#before = this.#memory.floats(this.#points, this.#count * 4).slice();
    this.#advanced = seconds;
    this.#setFabrics(this.#time + seconds);
    if (this.#holds.any) this.#setHolds(this.#time + seconds, h);
    if (h !== this.#h) this.#setSubstep(h);
    this.#search.beginFrame(this.#time, this.#time + seconds);
    // Air, damping, selection and all searches begin anew here, so that a run can go on from any saved state.
    this.#substep = 0;
    this.#layers?.beginFrame();
    for (let n = 0; n < substeps; n++) {
      this.#step(h);
      if (!Number.isFinite(this.#speed)) throw new UnstableError(this.#firstUnstableCloth(), this.#time);
    }
  }

  /** Sets where points are held in the frame up to a time in s; points that become carried, or free, change their inverse mass. */
  #setHolds(time: number, h: number): void {
    this.#holds.beginFrame(this.#time, time, h);
    this.#cloths.forEach((cloth, i) => {
      const { model, firstPoint, points, inverseMasses, freeMasses } = cloth;
      if (!model.holds?.some(({ carries }) => !carries)) return;
      const carried = this.#holds.carriedAt(i, time);
      const held = new Set(model.held);
      const values = this.#memory.floats(this.#points + firstPoint * 16, points * 4);
      let changed = false;
      for (let point = 0; point < points; point++) {
        const wanted = held.has(point) || carried.has(point) ? 0 : freeMasses[point]!;
        if (inverseMasses[point] === wanted) continue;
        inverseMasses[point] = values[point * 4 + 3] = wanted;
        changed = true;
      }
      if (changed && this.#h !== 0) this.#setBend(cloth, this.#h);
    });
  }

  /**
   * Takes over the holds of a model that differs in nothing else, where they are of the same points; false when they are not. Costs next
   * to nothing, while a new solver takes a second per 10,000 points.
   */
  takeHolds(model: Model): boolean {
    const held = this.#cloths.map(({ firstPoint, points }, i) => {
      const { holds = [], ties = [] } = model.cloths[i]!;
      return { firstPoint, points, holds, ties };
    });
    if (!this.#holds.replace(held)) return false;
    this.#cloths.forEach((cloth, i) => (cloth.model = { ...cloth.model, holds: model.cloths[i]!.holds ?? [] }));
    return true;
  }

  /**
   * Grips the points of a cloth around a place softly: within the radius they follow `moveGrip`, the less the farther from its middle.
   * Returns how many points are gripped.
   */
  grip(cloth: number, place: readonly number[], radius: number): number {
    const positions = this.positions(cloth);
    const points: number[] = [];
    const strengths: number[] = [];
    for (let point = 0; point < positions.length / 3; point++) {
      const square = [0, 1, 2].reduce((sum, axis) => sum + (positions[point * 3 + axis]! - place[axis]!) ** 2, 0);
      if (square >= radius * radius) continue;
      const edge = 1 - Math.sqrt(square) / radius;
      points.push(point);
      strengths.push(GRIP_STRENGTH * edge * edge * (3 - 2 * edge));
    }
    const places = Float32Array.from(points.flatMap((point) => [...positions.subarray(point * 3, point * 3 + 3)]));
    this.#holds.grip({ cloth, points: Uint32Array.from(points), strengths: Float32Array.from(strengths), places });
    return points.length;
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
    for (const cloth of this.#cloths) {
      setMembraneStiffness(this.#memory, cloth.membrane, cloth.flat, cloth.fabric, h, cloth.scales);
      this.#setBend(cloth, h);
    }
  }

  #setBend({ model, fabric, scales, bend, topology: t, inverseMasses }: ClothState, h: number): void {
    setBendStiffness(this.#memory, bend, model.rest, t, fabric, inverseMasses, h, h * INTERVAL, scales);
  }

  /** Lets keyed numbers of fabrics, and masks that change, be as they are at a time in s. Bending is dear to set anew, so only when it has changed. */
  #setFabrics(time: number): void {
    for (const cloth of this.#cloths) {
      const { fabricAt, scalesAt } = cloth.model;
      if (!fabricAt && !scalesAt) continue;
      const [before, scalesBefore] = [cloth.fabric, cloth.scales];
      const now = (cloth.fabric = fabricAt?.(time) ?? before);
      const scales = (cloth.scales = scalesAt?.(time) ?? scalesBefore);
      cloth.flat = flatTriangles(cloth.model.rest, now, scales);
      setFlatTriangles(this.#memory, cloth.membrane, cloth.flat);
      if (scalesAt) setAirScales(this.#memory, cloth.airTriangles, scales);
      if (this.#h === 0) continue;
      setMembraneStiffness(this.#memory, cloth.membrane, cloth.flat, now, this.#h, scales);
      const bends = ['bendWarp', 'bendWeft', 'damping'] as const;
      const changed = bends.some(
        (name) => now[name] !== before[name] || !sameValues(scales?.[name], scalesBefore?.[name]),
      );
      if (changed) this.#setBend(cloth, this.#h);
    }
  }

  get #gravity(): Vector3 {
    return this.#model.air.gravityAt?.(this.#time) ?? this.#model.air.gravity;
  }

  #step(h: number): void {
    const { run } = this.#memory;
    const [p, d, e, v, a] = [this.#points, this.#displacement, this.#residual, this.#velocity, this.#acceleration];
    if (this.#substep % INTERVAL === 0) this.#setAcceleration(h * INTERVAL);
    run.predict(p, d, e, this.#start, v, a, this.#count, h);
    if (this.#holds.any) this.#holds.carry(p, d, e, v, h);
    for (const { membrane, bend, attachments } of this.#cloths) {
      run.solveMembrane(p, d, membrane.address, membrane.groups);
      if (this.#substep % SELECT_INTERVAL === 0) {
        const { address, groups, again } = membrane;
        again.count = run.listStretched(p, address, groups, JOIN, LEAVE, again.flags, again.list);
      }
      run.solveBendFlat(p, d, bend.flat.address, bend.flat.count);
      if (bend.angle.count > 0) run.solveBendAngle(p, d, bend.angle.address, bend.angle.count);
      if (attachments.count > 0) run.solveAttachments(p, d, attachments.address, attachments.count);
    }
    if (this.#holds.any) this.#holds.solve(p, d);
    // Twice the motion of the last substep: constraints may have added to what the speed alone would do.
    const fall = length(this.#gravity) * h * INTERVAL;
    const carried = this.#search.moveTo(this.#time + h);
    const held = this.#holds.fastest * h;
    this.#search.update(p, d, 2 * (this.#speed + fall) * h + held + carried);
    this.#contacts = this.#search.solve(p, d, e, PUSH_SPEED * h);
    for (const backward of AGAIN_BACKWARD) {
      for (const { membrane } of this.#cloths) this.#sweepAgain(membrane, backward);
      this.#holds.solveFirmTies(p, d);
      this.#search.solve(p, d, e, PUSH_SPEED * h);
    }
    const layers = this.#layers?.solve(PUSH_SPEED * h, () => this.#search.solve(p, d, e, PUSH_SPEED * h));
    this.#contacts += layers?.touching ?? 0;
    // Taken back, points stay where they are and keep their velocities.
    if (layers?.takeBack) run.stay(e, this.#start, this.#count);
    else {
      const speed = Math.sqrt(run.finish(p, d, e, this.#start, v, this.#count, h));
      this.#speed = speed + this.#search.throwBack(p, v, 1 / h);
    }
    this.#substep++;
    this.#time += h;
    if (this.#substep % INTERVAL === 0) {
      for (const { bend } of this.#cloths) run.dampBendFlat(p, v, bend.flat.address, bend.flat.count);
    }
  }

  #sweepAgain({ again }: MembraneConstraints, backward: boolean): void {
    if (again.count === 0) return;
    this.#memory.run.solveMembraneAgain(this.#points, this.#displacement, again.list, again.count, SWEEPS, backward);
  }

  #setAcceleration(interval: number): void {
    const { run } = this.#memory;
    const { density, windAt } = this.#model.air;
    const gravity = this.#gravity;
    this.#search.setTouch(this.#time);
    for (const { fabric, firstPoint, points } of this.#cloths) {
      const [p, v, a] = [this.#points, this.#velocity, this.#acceleration].map((at) => at + firstPoint * 16);
      const slowing = Math.min(MOST_SLOWING, SLOWING * fabric.damping);
      run.setGravity(p!, v!, a!, points, ...gravity, slowing, SLOW_SPEED);
    }
    for (const { fabric, airTriangles } of this.#cloths) {
      const { pressure } = fabric;
      const [p, a] = [this.#points, this.#acceleration];
      if (pressure !== 0) run.addPressure(p, a, airTriangles.address, airTriangles.count, pressure);
    }
    if (density === 0) return;
    const wind = windAt(this.#time);
    for (const { fabric, airTriangles } of this.#cloths) {
      if (fabric.airAcross === 0 && fabric.airAlong === 0) continue;
      run.addAir(
        this.#points,
        this.#velocity,
        this.#acceleration,
        airTriangles.address,
        airTriangles.count,
        ...wind,
        density,
        fabric.airAcross,
        fabric.airAlong,
        interval,
      );
    }
  }

  #firstUnstableCloth(): string {
    const unstable = this.#cloths.find(({ firstPoint, points }) =>
      this.#memory.floats(this.#velocity + firstPoint * 16, points * 4).some((value) => !Number.isFinite(value)),
    );
    return (unstable ?? this.#cloths[0]!).model.id;
  }

  /** Exact count of edges that pass through triangles, with the places of the first; nothing where layers are off. */
  crossings(): { count: number; places: Float32Array } {
    return this.#layers?.crossings() ?? { count: 0, places: new Float32Array() };
  }

  /** Per collider, in the model's order, how deep cloth is inside it, in m (negative where it keeps off), and where. */
  depths(): { depth: number; place: [number, number, number] }[] {
    return this.#search.deepest(this.#points, this.#residual);
  }

  /** What layer contact did since the last call; with a clock in ms, also how long it took. */
  layerCounts(clock?: () => number): LayerCounts | null {
    if (!this.#layers) return null;
    if (clock) this.#layers.clock = clock;
    return this.#layers.counts();
  }

  /** A copy of one cloth's positions, x y z in m. */
  positions(cloth: number): Float32Array<ArrayBuffer> {
    const { firstPoint, points } = this.#cloths[cloth]!;
    const source = this.#memory.floats(this.#points + firstPoint * 16, points * 4);
    const out = new Float32Array(points * 3);
    for (let i = 0; i < points; i++) {
      out[i * 3] = source[i * 4]!;
      out[i * 3 + 1] = source[i * 4 + 1]!;
      out[i * 3 + 2] = source[i * 4 + 2]!;
    }
    return out;
  }

  /** Mass of all points that can move, in kg. */
  mass(): number {
    return this.#cloths.reduce(
      (sum, { inverseMasses }) => sum + inverseMasses.reduce((total, w) => total + (w > 0 ? 1 / w : 0), 0),
      0,
    );
  }

  measure(): FrameMeasures {
    let kineticEnergy = 0;
    let fastest = 0;
    let largest = 0;
    let place: StretchMeasure['place'] = null;
    let meanSum = 0;
    let faces = 0;
    for (const { model, firstPoint, points, flat, inverseMasses } of this.#cloths) {
      const velocity = this.#memory.floats(this.#velocity + firstPoint * 16, points * 4);
      for (let i = 0; i < points; i++) {
        const square = velocity[i * 4]! ** 2 + velocity[i * 4 + 1]! ** 2 + velocity[i * 4 + 2]! ** 2;
        if (inverseMasses[i]! > 0) kineticEnergy += (0.5 * square) / inverseMasses[i]!;
      }
      const positions = this.#memory.floats(this.#points + firstPoint * 16, points * 4);
      const before = this.#before?.subarray(firstPoint * 4, (firstPoint + points) * 4);
      for (let i = 0; before && i < points * 4; i += 4) {
        const moved =
          (positions[i]! - before[i]!) ** 2 +
          (positions[i + 1]! - before[i + 1]!) ** 2 +
          (positions[i + 2]! - before[i + 2]!) ** 2;
        fastest = Math.max(fastest, moved);
      }
      const stretch = measureStretch(positions, 4, model.rest.triangles, flat);
      if (stretch.largest > largest) place = stretch.place;
      largest = Math.max(largest, stretch.largest);
      meanSum += stretch.mean * flat.areas.length;
      faces += flat.areas.length;
    }
    return {
      kineticEnergy,
      fastest: Math.sqrt(fastest) / this.#advanced,
      stretch: { largest, mean: faces > 0 ? meanSum / faces : 0, place },
      contacts: this.#contacts,
    };
  }

  state(): SolverState {
    const size = this.#count * 4;
    const arrays = new Float32Array(size * 3);
    [this.#points, this.#residual, this.#velocity].forEach((address, i) => {
      arrays.set(this.#memory.floats(address, size), i * size);
    });
    const again = this.#cloths.map(({ membrane }) => this.#againFlags(membrane).slice());
    return { time: this.#time, speed: this.#speed, arrays, again };
  }

  /**
   * Goes back to a state of the same cloths. Inverse masses stay those of this model, so that a state may be
   * taken over after pins or weights have changed.
   * @throws RangeError when the state is of other cloths
   */
  restore(state: SolverState): void {
    const size = this.#count * 4;
    if (state.arrays.length !== size * 3) throw new RangeError('The saved state belongs to other cloth.');
    const points = this.#memory.floats(this.#points, size);
    const masses = points.filter((_, i) => i % 4 === 3);
    [this.#points, this.#residual, this.#velocity].forEach((address, i) => {
      this.#memory.floats(address, size).set(state.arrays.subarray(i * size, (i + 1) * size));
    });
    this.#cloths.forEach(({ membrane }, i) => this.#againFlags(membrane).set(state.again[i]!));
    masses.forEach((mass, i) => (points[i * 4 + 3] = mass));
    this.#time = state.time;
    this.#before = null;
    this.#speed = state.speed;
    this.#search.placeAt(state.time);
    this.#layers?.pointsSet();
  }

  #againFlags({ again, groups }: MembraneConstraints): Uint8Array {
    return this.#memory.bytes(again.flags, groups);
  }

  /** Keeps this share of all velocities: 1 changes nothing, 0 stops all motion. */
  calm(share: number): void {
    const velocity = this.#memory.floats(this.#velocity, this.#count * 4);
    for (let i = 0; i < velocity.length; i++) velocity[i]! *= share;
  }
}
