import { expect, it } from 'vitest';
import { FrameClock } from './frameClock';

it('tells how long frames take by the last of them, whatever came before the first', () => {
  const clock = new FrameClock();
  expect(clock.perFrame).toBeNull();
  // After a long pre-roll, of which the first frame would have told 80 s a frame.
  clock.tell(80_000);
  expect(clock.perFrame).toBeNull();
  clock.tell(81_000);
  clock.tell(84_000);
  expect(clock.perFrame).toBe(2000);
  for (let n = 1; n <= 12; n++) clock.tell(84_000 + n * 500);
  expect(clock.perFrame).toBe(500);
});
