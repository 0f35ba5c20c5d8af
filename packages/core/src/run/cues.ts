import { CUE_WHENS } from '../cues/when';
import type { CueMoment } from '../cues/cueWhen';
import type { Fabric, FabricNumber } from '../fabric/fabric';
import { scaleOf, type FaceScales } from '../fabric/faceScales';
import { pointCount } from '../mesh/mesh';
import { holdsOf } from '../shot/holds';
import { maskValues } from '../shot/maskValues';
import { releaseOf } from '../shot/release';
import { shapeMesh, type Assets } from '../shot/shapes';
import type { Cloth, Shot } from '../shot/schema';
import type { Cue } from '../shot/cueSchemas';
import { isFabricCue, type FabricCue } from '../shot/cueTargets';
import type { ClothModel, LooseNumbers, Model } from '../solver/model';
import { distanceTo } from './cueDistance';
import { insideOf } from './cueInside';
import { grown } from './cueSpread';
import { pointStretch } from './cueStretch';
import type { CueShares, LiveTrack } from './liveTrack';
import { liveTracks } from './liveTracks';
import { thingSurface } from './thingSurface';

/** What a cue has done, point by point. */
export interface CueProgress {
  /** How far it has taken its number, 0 to 1. */
  progress: Float32Array;
  /** The frame at which it first happened there; Infinity where it has not. */
  since: Float32Array;
}

/** That of each cue by its id: what a run needs to go on from here. */
export type CueState = Record<string, CueProgress>;

/** A cloth of the run with its cues. */
interface CuedCloth {
  cloth: Cloth;
  model: ClothModel;
  index: number;
  cues: ({ cue: Cue } & CueProgress)[];
}

/** A cue that has happened nowhere. */
const notYet = (points: number): CueProgress => {
  return { progress: new Float32Array(points), since: new Float32Array(points).fill(Infinity) };
};

/** Rest sizes are changed as what they are above 100 %. */
const neutral = (name: FabricNumber): number => (name === 'restWarp' || name === 'restWeft' ? 1 : 0);

/**
 * Cues in a run: looked at once a frame, from how the cloth is when it begins. What they change reaches the solver as what masks scale does,
 * face by face, and other numbers through live tracks of the shot (see `withLiveTracks`). Null where there are none, and then they cost nothing.
 */
export class RunCues {
  readonly #shot: Shot;
  readonly #assets: Assets;
  readonly #cloths: CuedCloth[];
  /** Numbers of other things that cues change. */
  readonly #tracks: LiveTrack[];
  /** The cloths of the model as cues let them be. */
  readonly cloths: ClothModel[];

  static of(shot: Shot, assets: Assets, model: Model): RunCues | null {
    const cues = new RunCues(shot, assets, model);
    return cues.#cloths.length > 0 ? cues : null;
  }

  private constructor(shot: Shot, assets: Assets, model: Model) {
    this.#shot = shot;
    this.#assets = assets;
    this.#tracks = liveTracks(shot);
    this.#cloths = model.cloths.flatMap((one, index) => {
      const cloth = shot.things.find(({ id }) => id === one.id);
      if (cloth?.role !== 'cloth') return [];
      const cues = cloth.cues.filter(({ enabled }) => enabled).map((cue) => ({ cue, ...notYet(pointCount(one.rest)) }));
      return cues.length > 0 ? { cloth, model: one, index, cues } : [];
    });
    this.cloths = model.cloths.map((one, index) => {
      const cued = this.#cloths.find((candidate) => candidate.index === index);
      return cued && cued.cues.some(({ cue }) => isFabricCue(cue)) ? cuedModel(cued) : one;
    });
  }

  /** Looks which cues happen, from how the cloths are before a frame, and lets their numbers go on by that frame. */
  look(
    frame: number,
    at: { positions: (cloth: number) => Float32Array; velocities: (cloth: number) => Float32Array },
  ): void {
    const shares = new Map<string, CueShares>();
    for (const { cloth, model, index, cues } of this.#cloths) {
      const moment = this.#moment(frame, cloth, model, at.positions(index), at.velocities(index));
      for (const { cue, progress, since } of cues) {
        const before = progress.slice();
        const happens = CUE_WHENS[cue.when.kind].happens(cue.when as never, moment);
        const reached = Uint8Array.from(progress, (_, point) => (happens(point) ? 1 : 0));
        if (cue.onAll && reached.includes(1)) reached.fill(1);
        else if (cue.spread > 0) grown(model.rest, reached, cue.spread);
        const step = 1 / cue.over;
        for (let point = 0; point < progress.length; point++) {
          if (reached[point] === 1 && since[point] === Infinity) since[point] = frame;
          const on = reached[point] === 1 || (!cue.lasts && progress[point]! > 0);
          progress[point] = Math.min(1, Math.max(0, progress[point]! + (on ? step : -step)));
        }
        shares.set(cue.id, { before, after: progress });
      }
    }
    for (const track of this.#tracks) track.goTo(frame, (cue) => shares.get(cue));
  }

  #moment(
    frame: number,
    cloth: Cloth,
    model: ClothModel,
    positions: Float32Array,
    velocities: Float32Array,
  ): CueMoment {
    const [shot, assets] = [this.#shot, this.#assets];
    const mesh = shapeMesh(cloth.shape, assets);
    return {
      ...{ frame, positions, velocities },
      stretch: () => pointStretch(mesh, positions),
      mask: (id) => {
        const mask = cloth.masks.find((one) => one.id === id);
        return mask ? maskValues(cloth, mask, mesh, frame) : null;
      },
      // Things are where they were when the frame before ended.
      distanceTo: (id, most) => {
        const surface = thingSurface({ shot, assets, frame: frame - 1 }, id);
        return surface && distanceTo(surface, frame - 1, { positions, thickness: model.fabric.thickness, most });
      },
      isInside: (id) => {
        const surface = thingSurface({ shot, assets, frame: frame - 1 }, id);
        return surface && insideOf(surface, positions);
      },
      isReleased: (id) => {
        const hold = holdsOf(cloth).find((one) => one.id === id);
        const release = hold && releaseOf(cloth, hold, mesh);
        if (!release) return null;
        const gone = release(frame);
        const free = new Set(hold.points.filter((_, i) => gone[i]));
        return (point) => free.has(point);
      },
    };
  }

  /** How many points each cue has reached. */
  counts(): Record<string, number> {
    const entries = this.#cloths.flatMap(({ cues }) =>
      cues.map(({ cue, progress }) => [cue.id, progress.reduce((sum, share) => sum + (share > 0 ? 1 : 0), 0)] as const),
    );
    return Object.fromEntries(entries);
  }

  state(): CueState {
    return Object.fromEntries(
      this.#cloths.flatMap(({ cues }) =>
        cues.map(({ cue, progress, since }) => [cue.id, { progress: progress.slice(), since: since.slice() }]),
      ),
    );
  }

  /** Goes back to a state; cues that it does not know, or of another mesh, have not happened. */
  restore(state: CueState | undefined): void {
    for (const { cues } of this.#cloths) {
      for (const { cue, progress, since } of cues) {
        const saved = state?.[cue.id];
        const known = saved?.progress?.length === progress.length ? saved : notYet(progress.length);
        progress.set(known.progress);
        since.set(known.since);
      }
    }
  }
}

/** A cloth whose numbers are as cues let them be, whenever it is asked. */
function cuedModel({ model, cues: all }: CuedCloth): ClothModel {
  const cues = all.flatMap(({ cue, progress }) => (isFabricCue(cue) ? [{ cue, progress }] : []));
  const names = [...new Set(cues.map(({ cue }) => cue.number))];
  const ownAt = (time: number): Fabric => model.fabricAt?.(time) ?? model.fabric;
  /** What scales are shares of: the fabric's own number, or where that is nothing, what a cue makes of it. */
  const baseAt = (time: number): Fabric => {
    const own = ownAt(time);
    const base = { ...own };
    for (const name of names) {
      // What bounds how far is looked for contact must not be exceeded anywhere.
      if (name === 'thickness') {
        base[name] = Math.max(own[name], ...cues.map(({ cue }) => (cue.number === name ? cue.to : 0)));
        continue;
      }
      if (own[name] !== neutral(name)) continue;
      base[name] = cues.find(({ cue }) => cue.number === name && cue.to !== neutral(name))?.cue.to ?? own[name];
    }
    return base;
  };
  const { triangles } = model.rest;
  const scalesAt = (time: number): FaceScales => {
    const [own, base, masked] = [ownAt(time), baseAt(time), model.scalesAt?.(time) ?? model.scales];
    const scales: FaceScales = { ...masked };
    for (const name of names) {
      const zero = neutral(name);
      const whole = base[name] - zero;
      const of = cues.filter(({ cue }) => cue.number === name);
      scales[name] = Float32Array.from({ length: triangles.length / 3 }, (_, face) => {
        let value = (own[name] - zero) * scaleOf(masked, name, face);
        for (const { cue, progress } of of) {
          const [a, b, c] = [triangles[face * 3]!, triangles[face * 3 + 1]!, triangles[face * 3 + 2]!];
          const share = (progress[a]! + progress[b]! + progress[c]!) / 3;
          value += (cue.to - zero - value) * share;
        }
        return whole === 0 ? 1 : value / whole;
      });
    }
    return scales;
  };
  return {
    ...model,
    fabric: { ...model.fabric, ...baseAt(0) },
    fabricAt: baseAt,
    scales: scalesAt(0),
    scalesAt,
    loosest: loosestOf(
      model,
      cues.map(({ cue }) => cue),
    ),
  };
}

/** The most weight, the largest rest sizes and the least stretch that cues may give. */
function loosestOf({ loosest, fabric }: ClothModel, cues: readonly FabricCue[]): LooseNumbers {
  const { weight, restWarp, restWeft, stretchWarp, stretchWeft } = loosest ?? fabric;
  const extreme = (name: FabricNumber, own: number, of: (...values: number[]) => number) =>
    of(own, ...cues.filter(({ number }) => number === name).map(({ to }) => to));
  return {
    weight: extreme('weight', weight, Math.max),
    restWarp: extreme('restWarp', restWarp, Math.max),
    restWeft: extreme('restWeft', restWeft, Math.max),
    stretchWarp: extreme('stretchWarp', stretchWarp, Math.min),
    stretchWeft: extreme('stretchWeft', stretchWeft, Math.min),
  };
}
