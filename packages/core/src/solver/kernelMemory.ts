import { kernelBytes } from '@lumbra/kernel';

/** The kernel's functions; see packages/kernel/assembly. Addresses are bytes in its memory. */
export interface KernelFunctions {
  memory: WebAssembly.Memory;
  heapBase(): number;
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
  solveMembrane(p: number, d: number, constraints: number, groups: number): void;
  solveMembraneAgain(p: number, d: number, list: number, count: number, sweeps: number, backward: boolean): void;
  listStretched(
    p: number,
    constraints: number,
    groups: number,
    join: number,
    leave: number,
    flags: number,
    list: number,
  ): number;
  solveBendFlat(p: number, d: number, hinges: number, count: number): void;
  dampBendFlat(p: number, v: number, hinges: number, count: number, share: number): void;
  pointNormals(
    p: number,
    d: number,
    normals: number,
    firstPoint: number,
    count: number,
    triangles: number,
    triangleCount: number,
  ): void;
  solveBendCurled(p: number, d: number, hinges: number, count: number, wanted: number, normals: number): void;
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
  solveBendAngle(p: number, d: number, hinges: number, count: number): void;
  dampBendAngle(p: number, d: number, v: number, hinges: number, count: number, share: number): void;
  addEddies(p: number, speeds: number, velocity: number, count: number, waves: number, waveCount: number): void;
  addPressure(p: number, a: number, triangles: number, count: number, pressure: number): void;
  addPull(p: number, v: number, a: number, pulls: number, count: number, interval: number): void;
  solveAttachments(p: number, d: number, attachments: number, count: number): void;
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
  piercedCoordinate(axis: number): number;
  solveContacts(p: number, d: number, e: number, start: number, search: number, push: number): number;
  deepestContact(p: number, e: number, search: number): number;
  deepestCoordinate(axis: number): number;
  setLayerData(block: number): void;
  makePlan(least: number, most: number): number;
  queryLayers(horizon: number): number;
  pairsBesides(): number;
  listEscaped(step: number): number;
  extendLayers(count: number, step: number, horizon: number): void;
  keepLayersApart(step: number, push: number): number;
  forbidCrossing(step: number): number;
  throwBack(p: number, v: number, search: number, rate: number): number;
  deformMesh(mesh: number, share: number): void;
  takeSplitCount(): number;
  takeZoneCount(): number;
  countCrossings(most: number): number;
}

let compiled: WebAssembly.Module | undefined;

const PAGE = 65536;

/** One instance of the kernel with its own memory, laid out from the bottom up and never freed in part. */
export class KernelMemory {
  readonly run: KernelFunctions;
  #top: number;

  constructor() {
    compiled ??= new WebAssembly.Module(kernelBytes);
    const abort = () => {
      throw new Error('The kernel stopped: its data are not as it expects.');
    };
    this.run = new WebAssembly.Instance(compiled, { env: { abort } }).exports as unknown as KernelFunctions;
    this.#top = this.run.heapBase();
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
    const missing = this.#top - this.run.memory.buffer.byteLength;
    if (missing > 0) {
      try {
        this.run.memory.grow(Math.ceil(missing / PAGE));
      } catch {
        throw new Error(
          `This shot needs more memory than the browser gives (${Math.round(this.#top / 1e6)} MB). Use a wider spacing.`,
        );
      }
    }
    return address;
  }

  bytes(address: number, count: number): Uint8Array<ArrayBuffer> {
    return new Uint8Array(this.run.memory.buffer as ArrayBuffer, address, count);
  }

  floats(address: number, count: number): Float32Array<ArrayBuffer> {
    return new Float32Array(this.run.memory.buffer as ArrayBuffer, address, count);
  }

  integers(address: number, count: number): Uint32Array<ArrayBuffer> {
    return new Uint32Array(this.run.memory.buffer as ArrayBuffer, address, count);
  }
}
