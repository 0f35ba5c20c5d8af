/** In ms. A thread that is not woken looks by itself after this. */
const SLEEP = 1;

/** What the kernel asks of whoever runs it. */
export function kernelImports(memory) {
  const words = () => new Int32Array(memory.buffer);
  return {
    env: {
      memory,
      abort: () => {
        throw new Error('The kernel stopped: its data are not as it expects.');
      },
      sleep: (address, value) => Atomics.wait(words(), address >>> 2, value, SLEEP) === 'timed-out',
      wake: (address) => void Atomics.notify(words(), address >>> 2),
    },
  };
}
