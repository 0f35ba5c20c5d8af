import { tidy } from '../math/tidy';
import { newId } from './create';
import { trackOf, valueAt, type Track } from './keys';
import { freeName } from './names';
import { ShotError } from './readShot';
import type { Shot, Thing } from './schema';

/** What is as in the first: what says which thing it is, what counts, and what a cloth is made of point by point. */
const AS_IN_FIRST =
  /^(id|name|keys|parent|segments|detail|masks|pinSets|ties|leashes|cues|finish|start|motion|.*seed)$/i;

/** Whether a row can be filled between two things: they are of one kind, and ride the same. */
export function canFillBetween(a: Thing, b: Thing): boolean {
  return a.id !== b.id && kindOf(a) === kindOf(b) && a.parent === b.parent;
}

/**
 * Copies of the first thing in even steps towards the second: their places, turns, sizes and other numbers, and the keys of either, lie
 * between those of the two. What cannot lie between (names of clips, points that are held) is as in the first.
 *
 * @param count how many stand between them, at least 1
 * @throws ShotError where the two are not of one kind, or ride different things
 */
export function copiesBetween(shot: Shot, firstId: string, lastId: string, count: number): Thing[] {
  const [first, last] = [firstId, lastId].map((id) => shot.things.find((thing) => thing.id === id));
  if (!first || !last) throw new ShotError('Nothing was added: one of the two is no longer in the shot.');
  if (!canFillBetween(first, last)) {
    throw new ShotError(
      `Nothing was added: “${first.name}” and “${last.name}” must be of one kind and ride the same thing.`,
    );
  }
  const named = { things: [...shot.things] };
  return Array.from({ length: count }, (_, i) => {
    const share = (i + 1) / (count + 1);
    const copy: Thing = {
      ...between(first, last, share),
      id: newId(),
      name: freeName(named, first.name),
      keys: tracksBetween(first, last, share),
      // A settled start is where the first one is.
      ...('start' in first && { start: null }),
    };
    named.things.push(copy);
    return copy;
  });
}

function kindOf(thing: Thing): string {
  if (thing.role === 'air') return `air ${thing.air.kind}`;
  if (!('shape' in thing)) return thing.role;
  // Meshes are alike when they are the same one, and cloth when its points are: holds name them.
  const same = thing.role === 'cloth' || thing.shape.kind === 'mesh';
  return `${thing.role} ${same ? JSON.stringify(thing.shape) : thing.shape.kind}`;
}

/** A copy of `a` whose numbers lie so far on the way to those of `b`, wherever both have one. */
function between<T>(a: T, b: unknown, share: number): T {
  if (typeof a === 'number' && typeof b === 'number') return tidy(a + (b - a) * share) as T;
  if (Array.isArray(a)) {
    const other = Array.isArray(b) && b.length === a.length ? b : [];
    return a.map((value, i) => between(value, other[i], share)) as T;
  }
  if (typeof a !== 'object' || a === null) return a;
  const other = (b ?? {}) as Record<string, unknown>;
  const entries = Object.entries(a).map(([name, value]) => [
    name,
    AS_IN_FIRST.test(name) ? structuredClone(value) : between(value, other[name], share),
  ]);
  return Object.fromEntries(entries) as T;
}

/** The keys of either, at the frames of both. A number that only one has keyed stands still in the other. */
function tracksBetween(a: Thing, b: Thing, share: number): Track[] {
  const numbers = [...new Set([...a.keys, ...b.keys].map(({ number }) => number))];
  return numbers.flatMap((number) => {
    const [own, other] = [trackOf(a, number), trackOf(b, number)];
    // What a thing is made of, its holds and masks, has names of its own in each.
    if (/^\w+:/.test(number)) return own ? structuredClone(own) : [];
    const knots = [own, other].flatMap((track) => track?.knots ?? []);
    const frames = [...new Set(knots.map(({ frame }) => frame))].sort((x, y) => x - y);
    return {
      number,
      knots: frames.map((frame) => {
        const [from, to] = [a, b].map((thing) => valueAt(thing, number, frame)) as [number, number];
        const { ease } = knots.find((knot) => knot.frame === frame)!;
        return { frame, value: tidy(from + (to - from) * share), ease };
      }),
    };
  });
}
