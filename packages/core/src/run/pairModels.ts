import { activeContacts } from '../shot/contacts';
import type { Shot } from '../shot/schema';
import type { PairModel } from '../solver/model';

/** Two cloths keep some distance, in m, or nothing could tell on which side of the other each is. */
const LEAST_APART = 0.0002;

/** What the contact table says of what is in the run. */
export function pairModels(shot: Shot): PairModel[] {
  const cloths = new Set(shot.things.filter(({ role }) => role === 'cloth').map(({ id }) => id));
  return activeContacts(shot).map(({ between, touches, clearance, friction, side }) => {
    const least = between.every((id) => cloths.has(id)) ? LEAST_APART : 0;
    return {
      ...{ between, touches },
      ...(clearance !== null && { clearance: Math.max(least, clearance) }),
      ...(friction !== null && { friction }),
      ...(side !== null && { side }),
    };
  });
}
