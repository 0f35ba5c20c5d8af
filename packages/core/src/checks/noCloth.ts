import { activeCloths } from '../run/compile';
import { createCloth } from '../shot/create';
import { freeName } from '../shot/names';
import type { Check } from './check';

/** There is nothing to run. */
export const noCloth: Check = {
  id: 'no-cloth',
  look: ({ shot }) => {
    if (activeCloths(shot).length > 0) return [];
    const off = shot.things.find(({ role }) => role === 'cloth');
    return [
      {
        check: 'no-cloth',
        thing: off?.id ?? null,
        station: 'stage',
        grave: true,
        hinders: true,
        text: off ? `The only cloth, ${off.name}, is left out of the run.` : 'There is no cloth.',
        remedy: off ? 'Take it in' : 'Add a sheet',
      },
    ];
  },
  mend: (finding) => ({
    apply: (draft) => {
      const off = draft.things.find(({ id }) => id === finding.thing);
      if (off) off.enabled = true;
      else draft.things.push(createCloth({ name: freeName(draft, 'Sheet'), position: [0, 1, 0] }));
    },
  }),
};
