/** Stretches of work between two looks at whether the other way is quicker by now. */
const LOOK_EVERY = 16;
/** Together, unless alone is quicker by this: what else the machine does is noise. */
const IN_FAVOUR = 1.05;

/**
 * Whether the next stretch of a run is computed with helpers or alone: what was quicker when last tried. On a machine whose other processors are
 * busy, helpers are waited for longer than they save. Nothing of what is computed depends on it.
 */
export class ThreadPace {
  /** ms for a unit of work, together and alone; unknown before it was tried. */
  #together: number | null = null;
  #alone: number | null = null;
  #since = 0;
  readonly #always: boolean;

  /** With `always` there is no choice. */
  constructor(always = false) {
    this.#always = always;
  }

  /** Whether the next stretch is computed together. */
  get together(): boolean {
    if (this.#always || this.#together === null) return true;
    if (this.#alone === null) return false;
    const better = this.#together <= this.#alone * IN_FAVOUR;
    return this.#since >= LOOK_EVERY ? !better : better;
  }

  /** Tells how long a stretch of so much work took, computed as `together` said. */
  tell(together: boolean, milliseconds: number, work: number): void {
    this.#since = this.#since >= LOOK_EVERY ? 0 : this.#since + 1;
    if (together) this.#together = milliseconds / work;
    else this.#alone = milliseconds / work;
  }
}
