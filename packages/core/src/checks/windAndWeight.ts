import { formatQuantity } from '../quantity/units';
import { AIR_DENSITY, loadAcceleration, simulatedCloths } from '../run/compile';
import { activeAir, airOf, fastestAir } from '../shot/airThings';
import type { AirThing, Shot } from '../shot/schema';
import type { Check } from './check';

/** Wind that pulls with more than this many times the weight tears cloth about; with less than the least it does nothing. */
const MOST = 40;
const LEAST = 0.02;
/** What the remedies aim at. */
const STRONG = 12;
const FELT = 0.4;
const G = 9.81;

/** The fastest of what blows: the one to turn down, or up. */
function fastestWind(shot: Shot): AirThing | undefined {
  return activeAir(shot)
    .filter((thing) => 'speed' in thing.air)
    .sort((a, b) => fastestAir(b) - fastestAir(a))[0];
}

/** A light cloth in a strong wind, or a heavy one in a weak wind. */
export const windAndWeight: Check = {
  id: 'wind-and-weight',
  look: ({ shot }) => {
    const wind = fastestWind(shot);
    if (!wind || fastestAir(wind) === 0) return [];
    const keyed = wind.keys.some(({ number }) => number === 'air.speed');
    const only = { ...shot, gravity: { ...shot.gravity, enabled: false }, things: [wind] };
    // Gusts and eddies make it faster than its own number says.
    const perSpeed = fastestAir(wind) / Math.max(1e-6, airOf(wind)['speed']!);
    return simulatedCloths(shot).flatMap((cloth) => {
      const pull = loadAcceleration(only, cloth) / G;
      const speedFor = (wanted: number) =>
        Number(
          (
            Math.sqrt((2 * wanted * G * cloth.fabric.weight) / (AIR_DENSITY * Math.max(0.01, cloth.fabric.airAcross))) /
            perSpeed
          ).toPrecision(2),
        );
      const base = { check: 'wind-and-weight', thing: cloth.id, station: 'air' as const, grave: false };
      const remedy = (speed: number) =>
        keyed || speed > 60 ? null : `${wind.name} ${formatQuantity(speed, 'm/s', 2)} m/s`;
      if (pull > MOST) {
        const speed = speedFor(STRONG);
        const text = `${wind.name} pulls ${cloth.name} with ${Math.round(pull)} times its weight.`;
        return [{ ...base, text, remedy: remedy(speed), numbers: { speed } }];
      }
      if (pull >= LEAST) return [];
      const speed = speedFor(FELT);
      const text = `${cloth.name} is too heavy for ${wind.name}: it will not be seen to move.`;
      return [{ ...base, text, remedy: remedy(speed), numbers: { speed } }];
    });
  },
  mend: (finding) => ({
    apply: (draft) => {
      const wind = fastestWind(draft);
      if (wind && 'speed' in wind.air) wind.air.speed = finding.numbers!['speed']!;
    },
  }),
};
