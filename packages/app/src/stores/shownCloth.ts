import {
  activeCloths,
  givenPositions,
  isGivenWell,
  shapeMesh,
  startPositions,
  type Cloth,
  type Shot,
} from '@lumbra/core';
import { ref, type Ref } from 'vue';
import { useDocumentStore } from '../session/document';
import { useTakesStore } from './takes';

/** A pose outside the timeline: of a settle, a live run, or a still that was kept of one. */
export interface Pose {
  source: 'settle' | 'live' | 'still';
  positions: Float32Array[];
  /** Ids of the cloths, in the order of `positions`. */
  cloths: string[];
  maxStretch: number;
  /** The frame, not always whole, at which keyed things are shown with it. */
  frame: number;
  /** The take that it is. */
  still?: string;
  /** How many points each cue has reached, where cues are looked at. */
  cues?: Record<string, number>;
}

/**
 * Where all cloth is shown: as a pose has it, else as the take that is looked at has it at a frame, else where it starts. `arrived` is the
 * frame of the take whose points are shown: while one is read, the last one stays.
 */
export function useShownCloth(frame: Ref<number>, pose: Ref<Pose | null>) {
  const document = useDocumentStore();
  const takes = useTakesStore();

  /** Where a cloth starts as cut; where even its mesh is missing there is nothing to show. */
  function unsettled(cloth: Cloth): Float32Array {
    try {
      return startPositions(document.shot!, { ...cloth, start: null }, document.assets);
    } catch {
      return new Float32Array();
    }
  }

  /** Where cloth starts, as long as nothing of the shot changes: every frame that is shown of other cloth asks again. */
  let starts: { shot: Shot; known: Map<Cloth, Float32Array> } | null = null;

  function startOf(shot: Shot, cloth: Cloth): Float32Array {
    if (starts?.shot !== shot) starts = { shot, known: new Map() };
    const known = starts.known.get(cloth) ?? startPositions(shot, cloth, document.assets);
    starts.known.set(cloth, known);
    return known;
  }

  /** Where cloth that is given its motion is at the frame that is looked at. */
  let given: { shot: Shot; frame: number; known: Map<Cloth, Float32Array> } | null = null;

  function givenOf(shot: Shot, cloth: Cloth): Float32Array {
    if (given?.shot !== shot || given.frame !== frame.value) given = { shot, frame: frame.value, known: new Map() };
    const known = given.known.get(cloth) ?? givenPositions(shot, cloth, document.assets, frame.value);
    given.known.set(cloth, known);
    return known;
  }

  /** What was shown last of the timeline: it stays while a frame is being read. */
  let lastShown: { take: string; frame: number; positions: readonly Float32Array[] } | null = null;
  /** The frame of the take whose points are shown. */
  const arrived = ref<number | null>(null);

  function bakedPositions(): readonly Float32Array[] | undefined {
    const { take } = takes;
    if (!take || !takes.byFrame.has(frame.value) || takes.holes.has(frame.value)) return undefined;
    // The first frame of what is stale is where the cloth starts now.
    if (takes.stale && frame.value === document.shot?.firstFrame) return undefined;
    const positions = takes.positionsAt(frame.value);
    if (positions) lastShown = { take: take.id, frame: frame.value, positions };
    arrived.value = lastShown?.take === take.id ? lastShown.frame : null;
    return positions ?? (lastShown?.take === take.id ? lastShown.positions : undefined);
  }

  function shownPositions(): Map<string, Float32Array> {
    const shot = document.shot;
    const shown = new Map<string, Float32Array>();
    if (!shot) return shown;
    const baked = bakedPositions();
    for (const [i, cloth] of activeCloths(shot).entries()) {
      const posed = pose.value?.positions[pose.value.cloths.indexOf(cloth.id)];
      const kept = posed ?? baked?.[i];
      if (kept && kept.length === shapeMesh(cloth.shape, document.assets).positions.length) shown.set(cloth.id, kept);
    }
    for (const thing of shot.things) {
      if (thing.role !== 'cloth' || shown.has(thing.id)) continue;
      try {
        shown.set(thing.id, isGivenWell(thing, document.assets) ? givenOf(shot, thing) : startOf(shot, thing));
      } catch {
        shown.set(thing.id, unsettled(thing));
      }
    }
    return shown;
  }

  /** Forgets what was shown last. */
  function forget(): void {
    lastShown = null;
  }

  return { arrived, shownPositions, forget };
}
