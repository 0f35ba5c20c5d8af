import { cueTarget, isFabricCue, type CueTarget } from '../shot/cueTargets';
import type { Cue } from '../shot/cueSchemas';
import { valueAt, type Knot, type KeyOwner, type Track } from '../shot/keys';
import type { Cloth, Shot, Thing } from '../shot/schema';
import { activeCloths, startFrame } from './compile';

/** A cue that changes a number of something else than its fabric. */
interface Change {
  cloth: Cloth;
  cue: Cue;
  target: CueTarget;
}

/**
 * The keys of a number that cues change: what it is over the next frame, from one whole frame to the other. A run reads it as it reads any
 * keyed number; `RunCues` writes it before each frame, so that it follows from what cues have done alone.
 */
export class LiveTrack implements Track {
  readonly number: string;
  readonly knots: [Knot, Knot];
  readonly #own: KeyOwner;
  readonly #changes: readonly Change[];

  constructor(own: KeyOwner, changes: readonly Change[], frame: number) {
    this.number = changes[0]!.target.number;
    this.#own = own;
    this.#changes = changes;
    const knot = (at: number): Knot => ({ frame: at, value: valueAt(own, this.number, at), ease: 'linear' });
    this.knots = [knot(frame - 1), knot(frame)];
  }

  /** Goes to the frame that comes next; `shareOf` tells how far a cue has taken it before and by that frame, 0 to 1. */
  goTo(frame: number, shareOf: (cue: string) => { before: number; after: number }): void {
    const at = (when: number, which: 'before' | 'after') =>
      this.#changes.reduce(
        (value, { cue, target: { quantity } }) => {
          const to = Math.min(quantity.max, Math.max(quantity.min, cue.to));
          return value + (to - value) * shareOf(cue.id)[which];
        },
        valueAt(this.#own, this.number, when),
      );
    const [from, to] = this.knots;
    Object.assign(from, { frame: frame - 1, value: at(frame - 1, 'before') });
    Object.assign(to, { frame, value: at(frame, 'after') });
  }
}

/** A shot whose numbers that cues change are read from live tracks; the shot itself where there are none. */
export function withLiveTracks(shot: Shot): Shot {
  const changes = activeCloths(shot).flatMap((cloth) =>
    cloth.cues.flatMap((cue): Change[] => {
      if (!cue.enabled || isFabricCue(cue)) return [];
      const target = cueTarget(shot, cloth, cue);
      return target ? [{ cloth, cue, target }] : [];
    }),
  );
  if (changes.length === 0) return shot;
  const frame = startFrame(shot);
  return {
    ...shot,
    things: shot.things.map((thing): Thing => {
      const own = changes.filter(({ cue }) => cue.of === thing.id);
      const numbers = [...new Set(own.map(({ cue }) => cue.number))];
      if (numbers.length === 0) return thing;
      const live = numbers.map(
        (number) =>
          new LiveTrack(
            thing,
            own.filter(({ cue }) => cue.number === number),
            frame,
          ),
      );
      return { ...thing, keys: [...thing.keys.filter(({ number }) => !numbers.includes(number)), ...live] };
    }),
  };
}

/** The live tracks of a shot. */
export function liveTracks(shot: Shot): LiveTrack[] {
  return shot.things.flatMap(({ keys }) => keys.filter((track): track is LiveTrack => track instanceof LiveTrack));
}
