/** So many of the last frames are reckoned with. */
const RECENT = 12;

/** How long frames of a run take, by those that came last. What comes before the first, pre-roll and all that is set up, is not counted. */
export class FrameClock {
  readonly #told: number[] = [];

  /** A frame has come, at a time in ms. */
  tell(now: number): void {
    this.#told.push(now);
    if (this.#told.length > RECENT + 1) this.#told.shift();
  }

  /** ms a frame; null until two have come. */
  get perFrame(): number | null {
    const count = this.#told.length - 1;
    return count > 0 ? (this.#told[count]! - this.#told[0]!) / count : null;
  }
}
