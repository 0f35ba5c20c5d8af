import { holdNumber } from '../shot/keyable';
import { setKnot } from '../shot/editKeys';
import { holdsOf } from '../shot/holds';
import { releaseFrames } from '../shot/release';
import { simulatedCloths } from '../run/compile';
import { shapeMesh } from '../shot/shapes';
import type { Check } from './check';

/** A release that frees no point in the shot, or all of them in one frame. */
export const releases: Check = {
  id: 'releases',
  look: ({ shot, assets }) =>
    simulatedCloths(shot).flatMap((cloth) =>
      holdsOf(cloth).flatMap((hold, at) => {
        if (hold.points.length < 2 || hold.release === null) return [];
        const frames = releaseFrames(cloth, hold, shapeMesh(cloth.shape, assets), shot);
        if (!frames) return [];
        const none = frames.every((frame) => frame === Infinity);
        const once = frames.every((frame) => frame === frames[0]);
        if (!none && !once) return [];
        return [
          {
            check: 'releases',
            thing: cloth.id,
            station: 'hold' as const,
            grave: false,
            text: none
              ? `${hold.name} of ${cloth.name} lets go of nothing in this shot.`
              : `${hold.name} of ${cloth.name} lets go of all its points at frame ${frames[0]!}.`,
            remedy: 'Let go over the shot',
            numbers: { hold: at },
          },
        ];
      }),
    ),
  mend: (finding) => ({
    apply: (draft) => {
      const cloth = draft.things.find(({ id }) => id === finding.thing);
      if (cloth?.role !== 'cloth') return;
      const hold = holdsOf(cloth)[finding.numbers!['hold']!];
      if (!hold) return;
      const number = holdNumber(hold.id, 'released');
      cloth.keys = cloth.keys.filter((track) => track.number !== number);
      setKnot(draft, { thing: cloth.id, number, frame: draft.firstFrame }, 0, 'linear');
      setKnot(draft, { thing: cloth.id, number, frame: draft.lastFrame }, 1, 'linear');
    },
  }),
};
