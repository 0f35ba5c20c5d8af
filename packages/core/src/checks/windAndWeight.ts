import { formatQuantity } from '../quantity/units';
import { activeCloths, AIR_DENSITY, loadAcceleration } from '../run/compile';
import type { Check } from './check';

/** Wind that pulls with more than this many times the weight tears cloth about; with less than the least it does nothing. */
const MOST = 40;
const LEAST = 0.02;
/** What the remedies aim at. */
const STRONG = 12;
const FELT = 0.4;
const G = 9.81;

/** A light cloth in a strong wind, or a heavy one in a weak wind. */
export const windAndWeight: Check = {
  id: 'wind-and-weight',
  look: ({ shot }) => {
    if (!shot.wind.enabled) return [];
    const still = { ...shot, gravity: { ...shot.gravity, enabled: false } };
    return activeCloths(shot).flatMap((cloth) => {
      const pull = loadAcceleration(still, cloth) / G;
      const keyed = shot.keys.some(({ number }) => number === 'wind.speed');
      const speedFor = (wanted: number) =>
        Number(
          Math.sqrt(
            (2 * wanted * G * cloth.fabric.weight) / (AIR_DENSITY * Math.max(0.01, cloth.fabric.airAcross)),
          ).toPrecision(2),
        );
      const base = { check: 'wind-and-weight', thing: cloth.id, station: 'air' as const, grave: false };
      if (pull > MOST) {
        const speed = speedFor(STRONG);
        return [
          {
            ...base,
            text: `The wind pulls ${cloth.name} with ${Math.round(pull)} times its weight.`,
            remedy: keyed ? null : `Wind ${formatQuantity(speed, 'm/s', 2)} m/s`,
            numbers: { speed },
          },
        ];
      }
      if (pull >= LEAST) return [];
      const speed = speedFor(FELT);
      return [
        {
          ...base,
          text: `${cloth.name} is too heavy for this wind: it will not be seen to move.`,
          remedy: keyed || speed > 60 ? null : `Wind ${formatQuantity(speed, 'm/s', 2)} m/s`,
          numbers: { speed },
        },
      ];
    });
  },
  mend: (finding) => ({
    apply: (draft) => {
      draft.wind.speed = finding.numbers!['speed']!;
    },
  }),
};
