import { activeCloths } from '../run/compile';
import { holdsOf } from '../shot/holds';
import type { Cue } from '../shot/cueSchemas';
import type { Cloth, Shot } from '../shot/schema';
import { cueTarget } from '../shot/cueTargets';
import type { Check } from './check';

/** A cue that cannot happen: what it waits for is missing, or comes after the shot. */
export const cuesNever: Check = {
  id: 'cues-never',
  look: ({ shot }) =>
    activeCloths(shot).flatMap((cloth) =>
      cloth.cues.flatMap((cue, at) => {
        if (!cue.enabled) return [];
        const [never, nothing] = [whyNever(cue, cloth, shot), whyNothing(cue, cloth, shot)];
        if (!never && !nothing) return [];
        return [
          {
            check: 'cues-never',
            thing: cloth.id,
            station: 'fabric' as const,
            grave: false,
            text: `${cue.name} of ${cloth.name} ${never ? `never happens: ${never}` : `changes nothing: ${nothing}`}.`,
            remedy: 'Switch it off',
            numbers: { cue: at },
          },
        ];
      }),
    ),
  mend: ({ thing, numbers }) => ({
    apply: (draft) => {
      const cloth = draft.things.find(({ id }) => id === thing);
      const cue = cloth?.role === 'cloth' ? cloth.cues[numbers!['cue']!] : undefined;
      if (cue) cue.enabled = false;
    },
  }),
};

/** Why nothing comes of it. */
function whyNothing(cue: Cue, cloth: Cloth, shot: Shot): string | null {
  if (cueTarget(shot, cloth, cue)) return null;
  return shot.things.some(({ id }) => id === cue.of)
    ? 'what it changes is there no more'
    : 'the thing that it changes was deleted';
}

function whyNever({ when }: Cue, cloth: Cloth, shot: Shot): string | null {
  switch (when.kind) {
    case 'frame':
      return when.frame > shot.lastFrame ? `frame ${when.frame} comes after the last one` : null;
    case 'touch':
    case 'inside': {
      const thing = shot.things.find(({ id }) => id === when.thing);
      if (!thing) return when.thing === null ? 'no thing is chosen' : 'the thing was deleted';
      if (!('shape' in thing)) return `${thing.name} has no surface`;
      return thing.enabled ? null : `${thing.name} is left out of the run`;
    }
    case 'masked':
      if (cloth.masks.some(({ id }) => id === when.mask)) return null;
      return when.mask === null ? 'no mask is chosen' : 'its mask was deleted';
    case 'released': {
      const hold = holdsOf(cloth).find(({ id }) => id === when.hold);
      if (!hold) return when.hold === null ? 'no hold is chosen' : 'its hold was deleted';
      return hold.release === null ? `${hold.name} never lets go` : null;
    }
    default:
      return null;
  }
}
