import { activeCloths, PROBLEM_KINDS, type FrameStats, type Shot, type Unit } from '@lumbra/core';
import type { SignalId } from '../stores/selection';

/** A number of the bake that can be drawn along the timeline. Values are in SI. */
export interface Signal {
  id: SignalId;
  label: string;
  unit: Unit;
  /** What the track's full height stands for at least. */
  top: number;
  /** Above this it is a problem. */
  limit: number;
  value: (stats: FrameStats) => number;
}

const BY_MEASURE: readonly Signal[] = [
  { id: 'maxStretch', label: 'worst stretch', unit: '%', top: 0.06, ...PROBLEM_KINDS.overStretch },
  { id: 'crossings', label: 'crossings', unit: '', top: 4, ...PROBLEM_KINDS.crossing },
  { id: 'pierced', label: 'pierced faces', unit: '', top: 4, ...PROBLEM_KINDS.pierced },
  { id: 'deepest', label: 'deepest', unit: 'mm', top: 0.002, ...PROBLEM_KINDS.pokeThrough },
  { id: 'squeezed', label: 'no room', unit: 'mm', top: 0.002, ...PROBLEM_KINDS.squeezed },
  { id: 'fastest', label: 'fastest point', unit: 'm/s', top: 6, ...PROBLEM_KINDS.speed },
];

/** What can be drawn of a shot's takes: what is measured of every frame, and how many points each cue has reached. */
export function signalsOf(shot: Shot | null): readonly Signal[] {
  const cues = (shot ? activeCloths(shot) : []).flatMap((cloth) =>
    cloth.cues
      .filter(({ enabled }) => enabled)
      .map(({ id, name }): Signal => ({
        ...{ id: `cue:${id}`, label: `points of ${name}`, unit: '', top: 4, limit: 0 },
        value: (stats) => stats.cues?.[id] ?? 0,
      })),
  );
  return [...BY_MEASURE, ...cues];
}
