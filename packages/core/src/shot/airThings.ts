import type { AirNumbers } from '../air/airKind';
import { AIR_KINDS } from '../air/kinds';
import { setConstant, trackValue } from './keys';
import type { AirThing, Shot } from './schema';

/** The numbers of air as they stand in the document, beside their keys. */
export function airOf(thing: AirThing): AirNumbers {
  return Object.fromEntries(Object.entries(thing.air).filter(([name]) => name !== 'kind')) as AirNumbers;
}

/** The numbers of air at a frame, keyed or not. */
export function airNumbersAt(thing: AirThing, frame: number): AirNumbers {
  return withKeys(thing, (track) => trackValue(track, frame));
}

/** The numbers of air where each that is keyed has the largest size that it has in the shot. */
export function strongestAir(thing: AirThing): AirNumbers {
  return withKeys(thing, ({ knots }) =>
    knots.map(({ value }) => value).reduce((most, value) => (Math.abs(value) > Math.abs(most) ? value : most)),
  );
}

function withKeys(thing: AirThing, valueOf: (track: AirThing['keys'][number]) => number): AirNumbers {
  const owner = { air: { ...airOf(thing) } };
  for (const track of thing.keys) if (track.number.startsWith('air.')) setConstant(owner, track.number, valueOf(track));
  return owner.air;
}

/** Air that takes part in the run. */
export function activeAir(shot: Pick<Shot, 'things'>): AirThing[] {
  return shot.things.filter((thing): thing is AirThing => thing.role === 'air' && thing.enabled);
}

/** The fastest that air of a thing moves in the shot, in m/s, with gusts and eddies. */
export function fastestAir(thing: AirThing): number {
  const { speed = 0, gustDepth = 0, turbulence = 0, strength = 0 } = strongestAir(thing);
  // Eddies as they are on the mean: what is faster is over in a moment, and frames that need more get it.
  return speed * (1 + gustDepth) * (1 + turbulence) + strength;
}

/** The largest acceleration in m/s² that what pulls in the air gives cloth of so many kg/m². */
export function strongestPull(shot: Pick<Shot, 'things'>, weight: number): number {
  return activeAir(shot).reduce(
    (sum, thing) => sum + (AIR_KINDS[thing.air.kind].strongest?.(strongestAir(thing), weight) ?? 0),
    0,
  );
}

/** The air of a thing in a draft of its shot, to be written to. */
export function findAir(draft: Shot, id: string): AirThing['air'] | undefined {
  const found = draft.things.find((thing) => thing.id === id);
  return found?.role === 'air' ? found.air : undefined;
}
