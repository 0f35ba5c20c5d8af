import type { Check } from './check';

/** Gravity is off: cloth floats. */
export const gravityOff: Check = {
  id: 'gravity-off',
  look: ({ shot }) =>
    shot.gravity.enabled && (shot.gravity.strength > 0 || shot.keys.some(({ number }) => number === 'gravity.strength'))
      ? []
      : [
          {
            check: 'gravity-off',
            thing: null,
            station: 'air',
            grave: false,
            text: 'Gravity is off: nothing falls.',
            remedy: 'Switch it on',
          },
        ],
  mend: () => ({
    apply: (draft) => {
      draft.gravity.enabled = true;
      if (draft.gravity.strength === 0) draft.gravity.strength = 9.81;
    },
  }),
};
