import { describe, expect, it } from 'vitest';
import { ThreadPace } from './threadPace';

/** How many of so many stretches are computed together, where they take so many ms each way. */
function stretches(pace: ThreadPace, count: number, together: number, alone: number): number {
  let shared = 0;
  for (let n = 0; n < count; n++) {
    const now = pace.together;
    pace.tell(now, (now ? together : alone) * 7, 7);
    if (now) shared++;
  }
  return shared;
}

describe('the pace of threads', () => {
  it('tries both ways, then takes the quicker one, and looks at the other now and then', () => {
    expect(stretches(new ThreadPace(), 100, 5, 8)).toBeGreaterThanOrEqual(92);
    expect(stretches(new ThreadPace(), 100, 8, 5)).toBeLessThanOrEqual(8);
  });

  it('goes over to the other way when the machine gets busy, and back', () => {
    const pace = new ThreadPace();
    stretches(pace, 20, 5, 8);
    expect(stretches(pace, 60, 12, 8)).toBeLessThan(25);
    expect(stretches(pace, 60, 5, 8)).toBeGreaterThan(35);
  });

  it('stays together where it is much the same', () => {
    expect(stretches(new ThreadPace(), 50, 8.2, 8)).toBeGreaterThanOrEqual(45);
  });
});
