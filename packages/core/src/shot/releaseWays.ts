import { newId } from './create';
import { setKnot } from './editKeys';
import { holdsOf } from './holds';
import { holdNumber } from './keyable';
import { rampSchema, type Ramp } from './masks';
import type { Shot } from './schema';

/** A way in which a hold can let go of one point after the other. */
interface ReleaseWay {
  id: string;
  name: string;
  ramp: Ramp;
}

const ramp = (given: Pick<Ramp, 'kind' | 'from' | 'to'> & Partial<Ramp>) => rampSchema.parse(given);

/** Ways over a whole cloth, in the order in which they are offered. */
export const RELEASE_WAYS: readonly ReleaseWay[] = [
  { id: 'corner', name: 'from a corner', ramp: ramp({ kind: 'round', from: [0, 1], to: [1, 0] }) },
  { id: 'side', name: 'from the right side', ramp: ramp({ kind: 'straight', from: [0, 0], to: [1, 0] }) },
  { id: 'far', name: 'from the far side', ramp: ramp({ kind: 'straight', from: [0, 1], to: [0, 0] }) },
  {
    id: 'middle',
    name: 'from the middle',
    ramp: ramp({ kind: 'round', from: [0.5, 0.5], to: [1, 1], inverted: true }),
  },
];

/** Takes so long, in s, from the first point to the last. */
const SECONDS = 2;

/**
 * Lets a hold let go in a way, over two seconds from a frame on, by a new mask of the given name and two keys. Returns the id of the mask.
 * @throws ShotError where there is no such frame
 */
export function releaseBy(
  draft: Shot,
  { cloth: clothId, hold: holdId }: { cloth: string; hold: string },
  way: string,
  name: string,
  frame: number,
): string | null {
  const cloth = draft.things.find(({ id }) => id === clothId);
  const found = RELEASE_WAYS.find(({ id }) => id === way);
  const hold = cloth?.role === 'cloth' ? holdsOf(cloth).find(({ id }) => id === holdId) : undefined;
  if (cloth?.role !== 'cloth' || !hold || !found) return null;
  const mask = { id: newId(), name, values: '', ramp: structuredClone(found.ramp) };
  cloth.masks.push(mask);
  hold.release = mask.id;
  const number = holdNumber(holdId, 'released');
  cloth.keys = cloth.keys.filter((track) => track.number !== number);
  const first = Math.min(frame, draft.lastFrame - 1);
  const last = Math.min(draft.lastFrame, first + Math.round(SECONDS * draft.frameRate));
  setKnot(draft, { thing: clothId, number, frame: first }, 0);
  setKnot(draft, { thing: clothId, number, frame: last }, 1);
  return mask.id;
}
