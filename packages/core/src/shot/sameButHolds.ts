import type { Shot } from './schema';

/** Whether two versions of a shot differ in the numbers of their holds only: strengths, moves, gathers and their keys. */
export function sameButHolds(a: Shot, b: Shot): boolean {
  return JSON.stringify(withoutHoldNumbers(a)) === JSON.stringify(withoutHoldNumbers(b));
}

function withoutHoldNumbers(shot: Shot): object {
  const things = shot.things.map((thing) => {
    if (thing.role !== 'cloth') return thing;
    return {
      ...thing,
      pinSets: thing.pinSets.map(({ id, points, rides, mask, release }) => ({ id, points, rides, mask, release })),
      leashes: thing.leashes.map(({ id, points, mask, release, neverBehind }) => ({
        id,
        points,
        mask,
        release,
        neverBehind,
      })),
      keys: thing.keys.filter(({ number }) => !number.startsWith('hold:')),
    };
  });
  return { ...shot, name: '', camera: null, things };
}
