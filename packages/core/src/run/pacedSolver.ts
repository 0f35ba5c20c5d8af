import type { Assets } from '../shot/shapes';
import type { Shot } from '../shot/schema';
import type { ContactMeasure } from '../solver/contact/contactSearch';
import type { Model } from '../solver/model';
import { Solver, UnstableError, type FrameMeasures, type SolverState } from '../solver/solver';
import { fewestSubsteps, QUALITIES } from '../solver/substeps';
import { clothScale, simulatedCloths, startFrame, substepsOf } from './compile';
import { RunCues, type CueState } from './cues';
import type { Heed } from './frame';
import {
  closedState,
  closingFrames,
  drawingTogether,
  hasOpenSeams,
  hasSeams,
  isClosed,
  withSeamsClosed,
} from './sewing';
import {
  afterFailure,
  breachOf,
  mendable,
  MOST_RETAKES,
  paceLimits,
  reachAfter,
  reachFarther,
  retakeWith,
  substepsAfter,
  whole,
  type Breach,
  type PaceLimits,
  type Shown,
} from './pace';

/** How a frame was computed. */
export interface FramePace {
  substeps: number;
  /** How often it was taken again, since it broke what the quality promises. */
  retakes: number;
  /** Whether what is promised was kept; null where nothing is promised. */
  kept: boolean | null;
  /** By what it was broken. */
  broke: Breach | null;
}

/** What is measured of the cloth in a frame. */
export interface Measured extends ContactMeasure {
  measures: FrameMeasures;
  crossings: { count: number; places: Float32Array };
  deepest: number;
}

/** From where a run goes on. */
export interface RunState extends SolverState {
  /** How many substeps the next frame begins with. */
  substeps?: number;
  /** How many times as far as the cloth is long its attachments reach in it; 1 where it is left out. */
  reach?: number;
  /** What cues have done. */
  cues?: CueState;
}

/**
 * A solver whose frames keep what the quality of a shot promises: each is computed with as many substeps as the one before asked for,
 * and taken again with more where that was too few. Where substeps are set by hand, and in a draft, nothing is promised.
 */
export class PacedSolver {
  #solver: Solver;
  /** As the document has it: with its seams open. */
  #model: Model;
  /** The time in s at which seams become one with what they join; null where nothing is sewn. */
  #closesAt: number | null;
  #closed = false;
  #limits: PaceLimits | null = null;
  #cues: RunCues | null;
  /** The frame at which the run starts. */
  #first: number;
  readonly #seconds: number;
  /** What it is told to keep up with is not promised. */
  readonly #live: boolean;
  #substeps: number;
  #reach = 1;
  #last: FramePace;
  #measured: Measured | null = null;

  /** Without `cued` nothing happens but what is pulled and blown. With `live` no frame is taken again, and none gets more than twice the substeps of the rule: then it is to keep up, and promises nothing. */
  constructor(shot: Shot, assets: Assets, model: Model, { live = false, cued = true } = {}) {
    this.#first = startFrame(shot);
    this.#cues = cued ? RunCues.of(shot, assets, model) : null;
    this.#seconds = 1 / shot.frameRate;
    this.#model = model;
    this.#closesAt = closingTime(shot, model, this.#seconds);
    this.#closed = this.#closesAt === 0;
    this.#solver = new Solver(this.#form());
    this.#live = live;
    const rule = this.#pace(shot, assets);
    this.#substeps = this.#limits ? whole(rule) : rule;
    this.#last = { substeps: this.#substeps, retakes: 0, kept: this.#limits && !live ? true : null, broke: null };
  }

  get solver(): Solver {
    return this.#solver;
  }

  /** Whether the last frame drew seams together that are not closed yet. */
  get drawsTogether(): boolean {
    return this.#closesAt !== null && !this.#closed;
  }

  /** The model as it is run now: seams are drawn together, then closed. */
  #form(model = this.#model, cues = this.#cues): Model {
    const cued = withCues(model, cues);
    if (this.#closesAt === null) return cued;
    return this.#closed ? withSeamsClosed(cued) : drawingTogether(cued, this.#closesAt);
  }

  #begin(closed: boolean): void {
    this.#closed = closed;
    this.#solver = new Solver(this.#form());
  }

  /** From here on seams are part of the cloth. */
  #close(): void {
    const open = this.#solver.state();
    this.#closed = true;
    const closed = new Solver(this.#form());
    closed.restore(closedState(this.#model, open, closed.state()));
    this.#solver = closed;
    this.#measured = null;
  }

  /** Sets what a shot promises, and gives the substeps of its rule. */
  #pace(shot: Shot, assets: Assets): number {
    const { quality, substeps: byHand } = shot.run;
    const rule = substepsOf(shot, assets);
    const { promised } = QUALITIES[quality];
    const scales = simulatedCloths(shot).map((cloth) => clothScale(cloth, assets));
    const fewest = fewestSubsteps(scales, this.#seconds, quality);
    this.#limits = promised === null || byHand !== null ? null : paceLimits(promised, rule, fewest);
    if (this.#live && this.#limits) this.#limits.most = Math.min(this.#limits.most, whole(rule * 2));
    return rule;
  }

  /**
   * Goes on as a run of a changed shot, of which this is the model, would from here; see `Solver.take`. Returns false, and changes
   * nothing, where a new one is needed.
   */
  take(shot: Shot, assets: Assets, model: Model): boolean {
    if (1 / shot.frameRate !== this.#seconds) return false;
    const cues = RunCues.of(shot, assets, model);
    const kept = this.#cues?.state();
    cues?.restore(kept);
    if (closingTime(shot, model, this.#seconds) !== this.#closesAt) return false;
    if (!this.#solver.take(this.#form(model, cues))) return false;
    this.#cues = cues;
    this.#model = model;
    this.#first = startFrame(shot);
    const rule = this.#pace(shot, assets);
    if (!this.#limits) this.#substeps = rule;
    this.#measured = null;
    return true;
  }

  /** How the last frame was computed. */
  get last(): FramePace {
    return this.#last;
  }

  /**
   * Goes on by a frame; false where `heed` stopped it, and nothing has changed.
   * @throws UnstableError
   */
  advance(heed?: Heed): boolean {
    if (this.#closesAt !== null && !this.#closed && this.#solver.time > this.#closesAt - this.#seconds / 2)
      this.#close();
    if (!this.#cues) return this.#advance(heed);
    const before = this.#cues.state();
    this.#cues.look(this.#first + Math.round(this.#solver.time / this.#seconds) + 1, this.#solver);
    if (this.#advance(heed)) return true;
    this.#cues.restore(before);
    return false;
  }

  #advance(heed?: Heed): boolean {
    const before = this.#limits && this.#solver.state();
    const began = this.#limits && this.#shown();
    let substeps = this.#substeps;
    let reach = this.#reach;
    let fewer: number | null = null;
    for (let retakes = 0; ; retakes++) {
      this.#solver.setReach(reach);
      const whole = this.#try(substeps, retakes, heed);
      this.#measured = null;
      if (whole === null) {
        this.#solver.restore(before!);
        substeps = afterFailure(substeps, this.#limits!)!;
        continue;
      }
      if (!whole) {
        if (before) this.#solver.restore(before);
        return false;
      }
      if (!this.#limits) {
        this.#last = { substeps, retakes, kept: null, broke: null };
        return true;
      }
      const shown = this.#shown();
      const broke = this.#live ? null : breachOf(shown, began!, this.#limits);
      const again = retakes < MOST_RETAKES && !this.#live && mendable(shown, began!, this.#limits) !== null;
      const more = again ? retakeWith(shown, substeps, this.#limits, retakes) : null;
      const used = this.#solver.usedReach();
      const farther: number | null = again
        ? reachFarther(shown, { substeps, reach, used, before: fewer }, this.#limits)
        : null;
      if (more === null && farther === null) {
        this.#substeps = substepsAfter(shown, substeps, this.#limits);
        this.#reach = reachAfter(reach, used);
        const drawnOut = broke === 'stretched' && reach > 1;
        this.#last = {
          substeps,
          retakes,
          kept: this.#live ? null : broke === null,
          broke: drawnOut ? 'drawnOut' : broke,
        };
        return true;
      }
      this.#solver.restore(before!);
      fewer = farther === null ? shown.stretch : null;
      // The last time it gets both: it was broken by more than its attachments.
      if (farther === null || retakes === MOST_RETAKES - 1) substeps = more ?? substeps;
      reach = farther ?? reach;
    }
  }

  /**
   * Computes a frame; false where `heed` stopped it, null where it gave numbers that are not finite and more substeps are to be had.
   * @throws UnstableError where they are not
   */
  #try(substeps: number, retakes: number, heed?: Heed): boolean | null {
    try {
      return this.#solver.advance(this.#seconds, substeps, heed && ((done) => heed(done / substeps)));
    } catch (error) {
      if (!(error instanceof UnstableError) || !this.#limits || retakes >= MOST_RETAKES) throw error;
      if (afterFailure(substeps, this.#limits) === null) throw error;
      return null;
    }
  }

  #shown(): Shown {
    const { measures, crossings, deepest, pierced, squeezed } = this.measured();
    return {
      stretch: measures.stretch.largestFree,
      stretchWithHeld: measures.stretch.largestFalse,
      crossings: crossings.count,
      deepest,
      pierced: pierced.reduce((sum, { count }) => sum + count, 0),
      squeezed: squeezed?.missing ?? 0,
    };
  }

  /** How many points each cue has reached; nothing where there are no cues. */
  cueCounts(): Record<string, number> | undefined {
    return this.#cues?.counts();
  }

  /** The cloth as it is now, measured once a frame. */
  measured(): Measured {
    if (this.#measured) return this.#measured;
    const contact = this.#solver.contact();
    const deepest = Math.max(0, ...contact.depths.map(({ depth }) => depth));
    const [measures, crossings] = [this.#solver.measure(), this.#solver.crossings()];
    this.#measured = { measures, crossings, deepest, ...contact };
    return this.#measured;
  }

  /** Keeps this share of all velocities; see `Solver.calm`. */
  calm(share: number): void {
    this.#solver.calm(share);
    this.#measured = null;
  }

  state(): RunState {
    return {
      ...this.#solver.state(),
      substeps: this.#substeps,
      ...(this.#reach > 1 && { reach: this.#reach }),
      ...(this.#cues && { cues: this.#cues.state() }),
    };
  }

  /**
   * Goes back to a state; one of before runs paced themselves begins with the substeps of the rule.
   * @throws RangeError when the state is of other cloths; the run is then at its beginning
   */
  restore(state: RunState): void {
    const closed = this.#closesAt !== null && isClosed(this.#model, state);
    if (closed !== this.#closed) this.#begin(closed);
    try {
      this.#solver.restore(state);
    } catch (error) {
      // Closed from the start, pieces would be torn together.
      this.#begin(this.#closesAt === 0);
      throw error;
    }
    this.#cues?.restore(state.cues);
    if (state.substeps && this.#limits) this.#substeps = state.substeps;
    this.#reach = state.reach ?? 1;
    this.#measured = null;
  }
}

/** When the seams of a run are closed, in s after its beginning: at once where they are so already; null where there are none. */
function closingTime(shot: Shot, model: Model, seconds: number): number | null {
  if (!hasSeams(model)) return null;
  return hasOpenSeams(model) ? closingFrames(shot) * seconds : 0;
}

function withCues(model: Model, cues: RunCues | null): Model {
  return cues ? { ...model, cloths: cues.cloths } : model;
}
