import { describe, expect, it } from 'vitest';
import { ThreadPace } from './threadPace';

/** How many of so many stretches are computed together, where they take so many ms each way, some more and some less. */
function stretches(pace: ThreadPace, count: number, together: number, alone: number): number {
  let shared = 0;
  for (let n = 0; n < count; n++) {
    const now = pace.together;
    pace.tell(now, (now ? together : alone) * (1 + 0.3 * Math.sin(n * 2.4)));
    if (now) shared++;
  }
  return shared;
}

describe('the pace of threads', () => {
  it('tries both ways, then takes the quicker one, and looks at the other now and then', () => {
    const [quicker, slower] = [stretches(new ThreadPace(), 240, 5, 8), stretches(new ThreadPace(), 240, 8, 5)];
    expect(quicker).toBeGreaterThan(210);
    expect(quicker).toBeLessThan(240);
    expect(slower).toBeLessThan(30);
    expect(slower).toBeGreaterThan(0);
  });

  it('goes over to the other way when the machine gets busy, and back', () => {
    const pace = new ThreadPace();
    stretches(pace, 60, 5, 8);
    expect(stretches(pace, 240, 16, 8)).toBeLessThan(60);
    expect(stretches(pace, 480, 5, 8)).toBeGreaterThan(300);
  });

  it('has no choice where it is to be together', () => {
    expect(stretches(new ThreadPace(true), 50, 9, 3)).toBe(50);
  });
});
