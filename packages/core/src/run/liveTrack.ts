import type { Cue } from '../shot/cueSchemas';
import type { CueTarget } from '../shot/cueTargets';
import { trackOf, valueAt, type Knot, type KeyOwner, type Track } from '../shot/keys';

/** A cue that changes a number of something else than its fabric. */
export interface Change {
  cue: Cue;
  target: CueTarget;
}

/** How far a cue has come at each point of its cloth before a frame and by it, 0 to 1. */
export interface CueShares {
  before: Float32Array;
  after: Float32Array;
}

/**
 * The keys of a number that cues change: what it is over the next frame, from one whole frame to the other. A run reads it as it reads any
 * keyed number; `RunCues` writes it before each frame, so that it follows from what cues have done alone. As a whole it goes where it has come
 * farthest at any point; what knows points asks for theirs.
 */
export class LiveTrack implements Track {
  readonly number: string;
  readonly knots: [Knot, Knot];
  readonly #own: KeyOwner;
  readonly #changes: readonly Change[];
  #shares: (CueShares | undefined)[] = [];

  constructor(own: KeyOwner, changes: readonly Change[], frame: number) {
    this.number = changes[0]!.target.number;
    this.#own = own;
    this.#changes = changes;
    const knot = (at: number): Knot => ({ frame: at, value: valueAt(own, this.number, at), ease: 'linear' });
    this.knots = [knot(frame - 1), knot(frame)];
  }

  /** Goes to the frame that comes next. */
  goTo(frame: number, sharesOf: (cue: string) => CueShares | undefined): void {
    this.#shares = this.#changes.map(({ cue }) => sharesOf(cue.id));
    const at = (when: number, which: keyof CueShares) =>
      this.#changed(when, (change) => this.#shares[change]?.[which].reduce((most, one) => Math.max(most, one), 0) ?? 0);
    const [from, to] = this.knots;
    Object.assign(from, { frame: frame - 1, value: at(frame - 1, 'before') });
    Object.assign(to, { frame, value: at(frame, 'after') });
  }

  /** What the number is at a point of the cloth whose cues change it, at any time of the frame that comes next. */
  valueOf(point: number, frame: number): number {
    const along = Math.min(1, Math.max(0, frame - this.knots[0].frame));
    return this.#changed(frame, (change) => {
      const shares = this.#shares[change];
      if (!shares) return 0;
      const [before, after] = [shares.before[point] ?? 0, shares.after[point] ?? 0];
      return before + (after - before) * along;
    });
  }

  /** The number at a frame without cues, changed by each as far as it has come. */
  #changed(frame: number, shareOf: (change: number) => number): number {
    return this.#changes.reduce(
      (value, { cue, target: { quantity } }, change) => {
        const to = Math.min(quantity.max, Math.max(quantity.min, cue.to));
        return value + (to - value) * shareOf(change);
      },
      valueAt(this.#own, this.number, frame),
    );
  }
}

/** The live track of a number; undefined where no cue changes it. */
export function liveTrackOf(owner: KeyOwner, number: string): LiveTrack | undefined {
  const track = trackOf(owner, number);
  return track instanceof LiveTrack ? track : undefined;
}
