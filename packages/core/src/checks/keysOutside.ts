import { keyRange } from '../shot/editKeys';
import type { Check } from './check';

/** Keys lie outside the range: their part of the motion is not run. */
export const keysOutside: Check = {
  id: 'keys-outside',
  look: ({ shot }) => {
    const { last } = keyRange(shot);
    const owners = [{ id: null, name: 'The air', keys: shot.keys }, ...shot.things];
    return owners.flatMap(({ id, name, keys }) => {
      const frames = keys.flatMap(({ knots }) => knots.map(({ frame }) => frame)).filter((frame) => frame > last);
      if (frames.length === 0) return [];
      const end = Math.ceil(Math.max(...frames));
      return [
        {
          check: 'keys-outside',
          thing: id,
          station: 'run' as const,
          grave: false,
          text: `${name} has keys up to frame ${end}, after the last frame ${last}.`,
          remedy: `Last frame ${end}`,
          numbers: { end },
        },
      ];
    });
  },
  mend: (finding) => ({
    apply: (draft) => {
      draft.lastFrame = finding.numbers!['end']!;
    },
  }),
};
