/** Frames of one take in memory: those that were looked at last stay, up to so many bytes; those that are nowhere else always. */
export class FrameCache {
  readonly #limit: number;
  /** In the order in which they were last looked at. */
  readonly #frames = new Map<number, { positions: Float32Array[]; bytes: number; pinned: boolean }>();
  #bytes = 0;

  constructor(limit = 256e6) {
    this.#limit = limit;
  }

  get bytes(): number {
    return this.#bytes;
  }

  has(frame: number): boolean {
    return this.#frames.has(frame);
  }

  get(frame: number): Float32Array[] | undefined {
    const found = this.#frames.get(frame);
    if (!found) return undefined;
    this.#frames.delete(frame);
    this.#frames.set(frame, found);
    return found.positions;
  }

  /** `pinned`: it is stored nowhere yet, and stays until `unpin`. */
  put(frame: number, positions: Float32Array[], pinned = false): void {
    this.#drop(frame);
    const bytes = positions.reduce((sum, { byteLength }) => sum + byteLength, 0);
    this.#frames.set(frame, { positions, bytes, pinned });
    this.#bytes += bytes;
    this.#shrink();
  }

  unpin(frames: Iterable<number>): void {
    for (const frame of frames) {
      const found = this.#frames.get(frame);
      if (found) found.pinned = false;
    }
    this.#shrink();
  }

  clear(): void {
    this.#frames.clear();
    this.#bytes = 0;
  }

  #drop(frame: number): void {
    this.#bytes -= this.#frames.get(frame)?.bytes ?? 0;
    this.#frames.delete(frame);
  }

  #shrink(): void {
    for (const [frame, { pinned }] of this.#frames) {
      // The last one is looked at now.
      if (this.#bytes <= this.#limit || this.#frames.size === 1) return;
      if (!pinned) this.#drop(frame);
    }
  }
}
