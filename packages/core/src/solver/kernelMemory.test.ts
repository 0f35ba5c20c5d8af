import { afterEach, describe, expect, it } from 'vitest';
import { KernelMemory } from './kernelMemory';
import { useThreads } from './threads/threads';

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

describe('the loops of the kernel on several threads', () => {
  afterEach(() => {
    useThreads(1, idle);
  });

  /** A helper that never comes. */
  const idle = () => ({ call: () => undefined, end: () => undefined });

  it('tell nothing beyond their room, however many points there are', () => {
    useThreads(2, idle, { always: true });
    const memory = new KernelMemory();
    const points = 2_600_000;
    const displacement = memory.allocate(points * 16);
    // The pool comes first in the memory, and ends with the rooms of 16 threads, which a loop over points does not use.
    const rooms = 16 * 8192;
    const poolEnd = Math.ceil(memory.run.heapBase() / 16) * 16 + memory.run.poolBytes();
    memory.floats(displacement, points * 4)[(points - 1) * 4 + 1] = 3;
    expect(memory.inThreads(() => memory.run.farthest(displacement, points))).toBe(9);
    expect(memory.bytes(poolEnd - rooms, rooms).every((byte) => byte === 0)).toBe(true);
  });
});
