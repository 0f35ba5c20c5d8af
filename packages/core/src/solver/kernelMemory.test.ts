import { expect, it } from 'vitest';
import { KernelMemory } from './kernelMemory';

it('lays things out beyond 2 GiB as well as below', () => {
  const memory = new KernelMemory();
  memory.allocate(2 ** 31);
  const [first, second] = [memory.allocate(16), memory.allocate(16)];
  expect(first).toBeGreaterThan(2 ** 31);
  expect(second - first).toBe(16);
  memory.floats(first, 4).set([3, 4, 0, 0]);
  // The kernel finds it there too: the farthest motion of one point, squared.
  expect(memory.run.farthest(first, 1)).toBe(25);
});
