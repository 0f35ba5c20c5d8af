import { trackValue, type Ease, type Knot, type Track } from './keys';
import { constantOf, setConstant } from './keys';
import { keyableNumbers, type KeyedOwner } from './keyable';
import { ShotError } from './readShot';
import type { Shot } from './schema';

// Acts on keys, for recipes of `edit`. Each refuses what cannot be, with the reason, and is then as if never begun.

/** A knot, by its owner (null for the air), its number and its frame. */
export interface KnotPlace {
  thing: string | null;
  number: string;
  frame: number;
}

/** The owner of keys with an id: a thing, or the shot for null. */
export function keyOwner(shot: Shot, thing: string | null): KeyedOwner | undefined {
  return thing === null ? shot : shot.things.find(({ id }) => id === thing);
}

/** First and last frame that can be keyed: the pre-roll belongs to the run. */
export function keyRange(shot: Shot): { first: number; last: number } {
  return { first: shot.firstFrame - shot.preRoll, last: shot.lastFrame };
}

/** Sets a knot, or changes the one that is there. A new one takes over the ease of the knot before it. */
export function setKnot(draft: Shot, place: KnotPlace, value: number, ease?: Ease): void {
  requireInRange(draft, place.frame);
  const owner = requireOwner(draft, place);
  let track = owner.keys.find(({ number }) => number === place.number);
  if (!track) {
    track = { number: place.number, knots: [] };
    owner.keys.push(track);
  }
  const known = track.knots.find(({ frame }) => frame === place.frame);
  if (known) {
    known.value = value;
    if (ease) known.ease = ease;
    return;
  }
  const before = track.knots.filter(({ frame }) => frame < place.frame).at(-1);
  insert(track, { frame: place.frame, value, ease: ease ?? before?.ease ?? 'smooth' });
}

/** Adds to all knots of a number: the whole curve is shifted. */
export function shiftCurve(draft: Shot, { thing, number }: Omit<KnotPlace, 'frame'>, by: number): void {
  const track = requireOwner(draft, { thing, number }).keys.find((candidate) => candidate.number === number);
  for (const knot of track?.knots ?? []) knot.value += by;
}

/** Takes knots away. A number that loses its last knot keeps that knot's value. */
export function deleteKnots(draft: Shot, places: readonly KnotPlace[]): void {
  for (const { thing, number, frame } of places) {
    const owner = requireOwner(draft, { thing, number });
    const track = owner.keys.find((candidate) => candidate.number === number);
    if (!track) continue;
    const last = track.knots.length === 1 ? track.knots[0] : undefined;
    track.knots = track.knots.filter((knot) => knot.frame !== frame);
    if (track.knots.length > 0) continue;
    if (last) setConstant(owner, number, last.value);
    owner.keys.splice(owner.keys.indexOf(track), 1);
  }
}

export function setEase(draft: Shot, places: readonly KnotPlace[], ease: Ease): void {
  for (const place of places) {
    const knot = knotAt(draft, place);
    if (knot) knot.ease = ease;
  }
}

/**
 * Moves knots by so many frames, or copies them there.
 * @throws ShotError when a knot would leave the range or land on another one
 */
export function moveKnots(draft: Shot, places: readonly KnotPlace[], by: number, copy = false): void {
  if (by === 0) return;
  for (const place of places) requireInRange(draft, place.frame + by);
  const moved = places.map((place) => ({ place, knot: { ...requireKnot(draft, place) } }));
  if (!copy) {
    for (const { place } of moved) {
      const track = trackAt(draft, place)!;
      track.knots = track.knots.filter(({ frame }) => frame !== place.frame);
    }
  }
  for (const { place, knot } of moved) {
    const track = trackAt(draft, place)!;
    const frame = place.frame + by;
    if (track.knots.some((other) => other.frame === frame)) {
      const label = keyableNumbers(requireOwner(draft, place))[place.number]!.label.toLowerCase();
      throw new ShotError(`Nothing was changed: there is a key for ${label} at frame ${frame} already.`);
    }
    insert(track, { ...knot, frame });
  }
}

/** Keys numbers of an owner as they are at a frame. */
export function keyNow(draft: Shot, thing: string | null, numbers: readonly string[], frame: number): void {
  const owner = requireOwner(draft, { thing, number: numbers[0] ?? '' });
  for (const number of numbers) {
    const track = owner.keys.find((candidate) => candidate.number === number);
    const value = track ? trackValue(track, frame) : constantOf(owner, number);
    setKnot(draft, { thing, number, frame }, value);
  }
}

function insert(track: Track, knot: Knot): void {
  const after = track.knots.findIndex(({ frame }) => frame > knot.frame);
  track.knots.splice(after < 0 ? track.knots.length : after, 0, knot);
}

function trackAt(shot: Shot, { thing, number }: Omit<KnotPlace, 'frame'>): Track | undefined {
  return (keyOwner(shot, thing)?.keys as Track[] | undefined)?.find((track) => track.number === number);
}

function knotAt(shot: Shot, place: KnotPlace): Knot | undefined {
  return trackAt(shot, place)?.knots.find(({ frame }) => frame === place.frame);
}

function requireKnot(shot: Shot, place: KnotPlace): Knot {
  const knot = knotAt(shot, place);
  if (!knot) throw new ShotError(`There is no key for ${place.number} at frame ${place.frame} any more.`);
  return knot;
}

function requireOwner(draft: Shot, { thing, number }: Omit<KnotPlace, 'frame'>): KeyedOwner & { keys: Track[] } {
  const owner = keyOwner(draft, thing);
  if (!owner) throw new ShotError('The thing that is keyed is no longer in the shot.');
  if (number !== '' && !keyableNumbers(owner)[number]) throw new ShotError(`“${number}” cannot be keyed.`);
  return owner as KeyedOwner & { keys: Track[] };
}

function requireInRange(shot: Shot, frame: number): void {
  const { first, last } = keyRange(shot);
  if (frame >= first && frame <= last) return;
  throw new ShotError(
    `Nothing was changed: frame ${frame} lies outside the shot, which runs from ${first} to ${last}. Change the range first.`,
  );
}
