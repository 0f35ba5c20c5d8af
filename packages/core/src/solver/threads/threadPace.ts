/** Stretches of work between two that are computed the other way, to see whether that is quicker by now. */
const LOOK_EVERY = 12;
/** How much the last stretch tells beside those before: single ones differ by what there is to do in them. */
const SHARE_OF_LAST = 0.15;
/** Together, unless alone is quicker by this: what else the machine does is noise. */
const IN_FAVOUR = 1.03;

/**
 * Whether the next stretch of a run, a few substeps, is computed with helpers or alone: the way that was quicker of late. On a machine whose other
 * processors are busy, helpers are waited for longer than they save. Nothing of what is computed depends on it.
 */
export class ThreadPace {
  readonly #always: boolean;
  /** ms a stretch, together and alone, of late; 0 before it was tried. */
  #together = 0;
  #alone = 0;
  #stretches = 0;

  /** With `always` there is no choice. */
  constructor(always = false) {
    this.#always = always;
  }

  /** Whether the next stretch is computed together. */
  get together(): boolean {
    if (this.#always) return true;
    const better = this.#together <= this.#alone * IN_FAVOUR;
    return this.#stretches % LOOK_EVERY === 0 ? !better : better;
  }

  /** Tells how long a stretch took, computed as `together` said. */
  tell(together: boolean, milliseconds: number): void {
    this.#stretches++;
    if (together) this.#together = withLast(this.#together, milliseconds);
    else this.#alone = withLast(this.#alone, milliseconds);
  }
}

function withLast(before: number, last: number): number {
  return before === 0 ? last : before + SHARE_OF_LAST * (last - before);
}
