import * as Point from '@lumbra/kernel/layouts/point';
import { kernelBytes, sharedKernelBytes } from '@lumbra/kernel';
import { kernelImports } from '@lumbra/kernel/imports';
import { Records } from './records';
import { ThreadPace } from './threads/threadPace';
import { areAlwaysUsed, currentHelpers, giveHelpersUp, type Helper } from './threads/threads';

/** The kernel's functions; see packages/kernel/assembly. Addresses are bytes in its memory. */
export interface KernelFunctions {
  heapBase(): number;
  poolBytes(): number;
  openPool(address: number, threads: number): void;
  shareWith(threads: number): void;
  closePool(): void;
  isHelperLost(): boolean;
  farthest(d: number, count: number): number;
  predict(p: number, d: number, e: number, start: number, v: number, a: number, count: number, h: number): void;
  finish(p: number, d: number, e: number, start: number, v: number, count: number, h: number): number;
  stay(e: number, start: number, count: number): void;
  setGravity(p: number, a: number, count: number, x: number, y: number, z: number): void;
  addYarnFriction(
    p: number,
    v: number,
    a: number,
    count: number,
    slowing: number,
    mostSlowing: number,
    slowSpeed: number,
    shares: number,
  ): void;
  solveMembrane(p: number, d: number, constraints: number, colours: number, colourCount: number): void;
  solveMembraneAgain(
    p: number,
    d: number,
    list: number,
    listed: number,
    colourCount: number,
    sweeps: number,
    backward: boolean,
  ): void;
  listStretched(
    p: number,
    constraints: number,
    colours: number,
    colourCount: number,
    join: number,
    leave: number,
    flags: number,
    list: number,
    listed: number,
  ): number;
  solveBendFlat(p: number, d: number, hinges: number, colours: number, colourCount: number): void;
  dampBendFlat(p: number, v: number, hinges: number, colours: number, colourCount: number, share: number): void;
  pointNormals(
    p: number,
    d: number,
    normals: number,
    firstPoint: number,
    count: number,
    triangles: number,
    triangleCount: number,
  ): void;
  solveBendCurled(
    p: number,
    d: number,
    hinges: number,
    colours: number,
    colourCount: number,
    wanted: number,
    normals: number,
  ): void;
  keepCreases(
    p: number,
    e: number,
    hinges: number,
    count: number,
    wanted: number,
    normals: number,
    limit: number,
    rate: number,
  ): void;
  solveBendAngle(p: number, d: number, hinges: number, colours: number, colourCount: number): void;
  dampBendAngle(
    p: number,
    d: number,
    v: number,
    hinges: number,
    colours: number,
    colourCount: number,
    share: number,
  ): void;
  addEddies(p: number, speeds: number, velocity: number, count: number, waves: number, waveCount: number): void;
  addPressure(p: number, a: number, triangles: number, count: number, pressure: number): void;
  addPull(p: number, v: number, a: number, pulls: number, count: number, interval: number): void;
  solveAttachments(p: number, d: number, attachments: number, detour: number, rounds: number, roundCount: number): void;
  carryPoints(
    p: number,
    d: number,
    e: number,
    v: number,
    holds: number,
    count: number,
    share: number,
    rate: number,
  ): void;
  solveHolds(p: number, d: number, holds: number, count: number, share: number): void;
  solveTies(p: number, d: number, ties: number, count: number, firmOnly: boolean): void;
  addAir(
    p: number,
    v: number,
    a: number,
    triangles: number,
    count: number,
    windX: number,
    windY: number,
    windZ: number,
    field: number,
    density: number,
    across: number,
    along: number,
    interval: number,
  ): void;
  gatherContacts(p: number, d: number, search: number, reach: number, travel: number): void;
  nearContacts(p: number, d: number, search: number, reach: number, travel: number): void;
  gatherSharp(p: number, d: number, search: number, near: number, travel: number): number;
  isSharpOutdated(p: number, d: number, search: number, near: number, travel: number): boolean;
  nearSharp(p: number, d: number, search: number, reach: number): void;
  countPierced(p: number, e: number, search: number): number;
  solveContacts(p: number, d: number, e: number, start: number, search: number, push: number): number;
  clearRoom(search: number): boolean;
  widenSqueezed(search: number): void;
  isSqueezed(search: number, point: number): boolean;
  shareRoom(p: number, d: number, search: number, other: number): number;
  listToMeasure(p: number, e: number, search: number): void;
  deepestContact(p: number, e: number, search: number): number;
  setLayerData(block: number): void;
  taskBytes(clothCount: number): number;
  blocksFor(pairCount: number): number;
  blockBytes(): number;
  makePlan(least: number, most: number): number;
  queryLayers(horizon: number): number;
  listEscaped(step: number): number;
  extendLayers(count: number, step: number, horizon: number): void;
  keepLayersApart(step: number, push: number): number;
  forbidCrossing(step: number): number;
  throwBack(p: number, v: number, search: number, rate: number): number;
  deformMesh(mesh: number, share: number): void;
  countCrossings(most: number): number;
  listTangled(most: number): number;
  refitLayers(horizon: number): void;
}

/** A thread that took part in a loop has ended, or did not end its part of it in time. */
export class HelperLostError extends Error {}

/** Compiled once a thread: the kernel as it is, and the one for memory that threads share. */
let alone: WebAssembly.Module | undefined;
let shared: WebAssembly.Module | undefined;

const PAGE = 65536;
/** 4 GiB: what 32 bits address. */
const MOST_PAGES = 65536;

/** Memory that threads can share; null where the browser has no room for so much of it: its greatest size is reserved at once. */
function sharedMemory(): WebAssembly.Memory | null {
  try {
    return new WebAssembly.Memory({ initial: 1, maximum: MOST_PAGES, shared: true });
  } catch {
    return null;
  }
}

/**
 * One instance of the kernel with its own memory, laid out from the bottom up and never freed in part. Where this thread uses helpers
 * (`useThreads`) the memory is shared with them.
 */
export class KernelMemory {
  #run: KernelFunctions;
  #memory: WebAssembly.Memory;
  readonly #module: WebAssembly.Module;
  readonly #pool: number;
  #helpers: readonly Helper[];
  readonly #pace = new ThreadPace(areAlwaysUsed());
  /** What is being done, and since when, in ms. */
  #stretch: { together: boolean; began: number } | null = null;
  #top: number;

  constructor() {
    const memory = currentHelpers().length > 0 ? sharedMemory() : null;
    this.#helpers = memory ? currentHelpers() : [];
    this.#memory = memory ?? new WebAssembly.Memory({ initial: 1 });
    this.#module = memory
      ? (shared ??= new WebAssembly.Module(sharedKernelBytes()))
      : (alone ??= new WebAssembly.Module(kernelBytes()));
    this.#run = this.#instance();
    this.#top = this.run.heapBase();
    this.#pool = this.allocate(this.run.poolBytes());
    this.run.openPool(this.#pool, 1);
  }

  /** The kernel's functions on this memory. */
  get run(): KernelFunctions {
    return this.#run;
  }

  #instance(): KernelFunctions {
    const { exports } = new WebAssembly.Instance(this.#module, kernelImports(this.#memory));
    return exports as unknown as KernelFunctions;
  }

  /**
   * Does work that calls the kernel, with the helpers where that is quicker; it calls `beginStretch` now and then.
   * @throws HelperLostError when a helper stopped in the middle. Then what the work has written is void; from here on there are no helpers.
   */
  inThreads<T>(work: () => T): T {
    if (this.#helpers.length === 0) return work();
    this.run.openPool(this.#pool, this.#helpers.length + 1);
    this.#helpers.forEach((helper, i) =>
      helper.call({ module: this.#module, memory: this.#memory, pool: this.#pool, self: i + 1 }),
    );
    this.#stretch = null;
    this.beginStretch();
    try {
      return work();
    } catch (error) {
      if (!this.run.isHelperLost()) throw error;
      this.#leaveHelpers();
      throw new HelperLostError('A thread that helped to compute stopped in the middle.');
    } finally {
      this.run.closePool();
    }
  }

  /** A stretch of work begins that is much like the last one: it is done with helpers or alone, whichever was quicker of late. */
  beginStretch(): void {
    if (this.#helpers.length === 0) return;
    const now = performance.now();
    if (this.#stretch) this.#pace.tell(this.#stretch.together, now - this.#stretch.began);
    const { together } = this.#pace;
    this.#stretch = { together, began: now };
    this.run.shareWith(together ? this.#helpers.length + 1 : 1);
  }

  /** Goes on in a memory of its own: a helper that was only slow may still write to the old one. */
  #leaveHelpers(): void {
    giveHelpersUp();
    this.#helpers = [];
    const old = new Uint8Array(this.#memory.buffer);
    this.#memory = new WebAssembly.Memory({ initial: old.length / PAGE, maximum: MOST_PAGES, shared: true });
    new Uint8Array(this.#memory.buffer).set(old);
    this.#run = this.#instance();
    this.run.openPool(this.#pool, 1);
  }

  /** Bytes that are taken so far. */
  get taken(): number {
    return this.#top;
  }

  /** Takes zeroed bytes, on a 16-byte boundary. Views made before are no longer valid afterwards. */
  allocate(bytes: number): number {
    // No bits: beyond 2 GiB they would turn it negative.
    const address = Math.ceil(this.#top / 16) * 16;
    this.#top = address + bytes;
    const missing = this.#top - this.#memory.buffer.byteLength;
    if (missing > 0) {
      try {
        this.#memory.grow(Math.ceil(missing / PAGE));
      } catch {
        throw new Error(
          `This shot needs more memory than the browser gives (${Math.round(this.#top / 1e6)} MB). Use a wider spacing.`,
        );
      }
    }
    return address;
  }

  /** So many records of `bytes` each that lie at an address; see `Records`. */
  records(address: number, bytes: number, count = 1): Records {
    return new Records(this.#memory.buffer, address, bytes, count);
  }

  /** So many of an array of points, from the one with a number on: x y z w of each. */
  points(array: number, first: number, count: number): Float32Array<ArrayBuffer> {
    return this.floats(array + first * Point.BYTES, (count * Point.BYTES) / 4);
  }

  bytes(address: number, count: number): Uint8Array<ArrayBuffer> {
    return new Uint8Array(this.#memory.buffer as ArrayBuffer, address, count);
  }

  floats(address: number, count: number): Float32Array<ArrayBuffer> {
    return new Float32Array(this.#memory.buffer as ArrayBuffer, address, count);
  }

  integers(address: number, count: number): Uint32Array<ArrayBuffer> {
    return new Uint32Array(this.#memory.buffer as ArrayBuffer, address, count);
  }
}
