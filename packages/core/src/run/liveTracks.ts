import { cueTarget, isFabricCue } from '../shot/cueTargets';
import type { Shot, Thing } from '../shot/schema';
import { activeCloths, startFrame } from './compile';
import { LiveTrack, type Change } from './liveTrack';

/** A shot whose numbers that cues change are read from live tracks; the shot itself where there are none. */
export function withLiveTracks(shot: Shot): Shot {
  const changes = activeCloths(shot).flatMap((cloth) =>
    cloth.cues.flatMap((cue): Change[] => {
      if (!cue.enabled || isFabricCue(cue)) return [];
      const target = cueTarget(shot, cloth, cue);
      return target ? [{ cue, target }] : [];
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
