import { activeCloths, simulatedCloths } from '../run/compile';
import { givenProblem } from '../run/given';
import type { Check, CheckFinding } from './check';

/** Cloth that is to follow a motion that it cannot follow; or all cloth follows one, and nothing is to be computed. */
export const givenMotion: Check = {
  id: 'given-motion',
  look: ({ shot, assets }) => {
    const base = { check: 'given-motion', station: 'hold' as const, grave: true, hinders: true };
    const found = activeCloths(shot).flatMap((cloth): CheckFinding[] => {
      const problem = givenProblem(cloth, assets);
      return problem ? [{ ...base, thing: cloth.id, text: problem, remedy: 'Simulate it' }] : [];
    });
    const given = activeCloths(shot).at(-1);
    if (found.length > 0 || !given || simulatedCloths(shot).length > 0) return found;
    const text = 'All cloth in the run follows a take or an animation: add another, or nothing is to be computed.';
    return [{ ...base, thing: given.id, text, remedy: `Simulate ${given.name}` }];
  },
  mend: (finding) => ({
    apply: (draft) => {
      const cloth = draft.things.find(({ id }) => id === finding.thing);
      if (cloth?.role === 'cloth') cloth.given = null;
    },
  }),
};
