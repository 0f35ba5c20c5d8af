import { expose } from 'comlink';
import { expect, it, vi } from 'vitest';
import { WorkerEndedError, WorkerHost } from './workerHost';

/** A worker that runs in this thread, over a message channel, and can be made to die. */
class NearWorker extends EventTarget {
  readonly #channel = new MessageChannel();
  terminated = false;

  constructor(api: object) {
    super();
    expose(api, this.#channel.port1 as never);
    this.#channel.port2.onmessage = ({ data }) => {
      if (!this.terminated) this.dispatchEvent(new MessageEvent('message', { data: data as unknown }));
    };
  }

  postMessage(message: unknown, transfer: Transferable[] = []): void {
    this.#channel.port2.postMessage(message, transfer as never);
  }

  terminate(): void {
    this.terminated = true;
    this.#channel.port1.close();
    this.#channel.port2.close();
  }

  die(message: string): void {
    this.dispatchEvent(Object.assign(new Event('error'), { message }));
  }
}

interface Api {
  add: (a: number, b: number) => number;
  never: () => Promise<void>;
}

function host() {
  const workers: NearWorker[] = [];
  const make = () => {
    workers.push(new NearWorker({ add: (a: number, b: number) => a + b, never: () => new Promise(() => undefined) }));
    return workers.at(-1) as unknown as Worker;
  };
  return { host: new WorkerHost<Api>('the test', make), workers };
}

it('starts its worker once, when it is first needed', async () => {
  const { host: one, workers } = host();
  expect(workers).toHaveLength(0);
  expect(await one.call((api) => api.add(1, 2))).toBe(3);
  expect(await one.call((api) => api.add(3, 4))).toBe(7);
  expect(workers).toHaveLength(1);
  one.kill('over');
});

it('tells all who wait when the worker dies, and starts another for the next', async () => {
  const { host: one, workers } = host();
  const waiting = [one.call((api) => api.never()), one.call((api) => api.never())];
  const told = Promise.allSettled(waiting);
  workers[0]!.die('out of memory');
  for (const result of await told) {
    expect(result).toMatchObject({ status: 'rejected', reason: expect.any(WorkerEndedError) as Error });
    expect(String((result as PromiseRejectedResult).reason)).toContain('out of memory');
  }
  expect(workers[0]!.terminated).toBe(true);
  expect(await one.call((api) => api.add(1, 1))).toBe(2);
  expect(workers).toHaveLength(2);
  // What an old worker still says concerns nobody.
  workers[0]!.die('again');
  expect(await one.call((api) => api.add(2, 1))).toBe(3);
  one.kill('over');
});

it('can be killed in the middle of a call, and knows that its worker is another one', async () => {
  const { host: one } = host();
  const before = one.generation;
  const failed = vi.fn();
  const call = one.call((api) => api.never()).catch(failed);
  one.kill('Stopped.');
  await call;
  expect(failed).toHaveBeenCalledWith(expect.objectContaining({ message: 'Stopped.' }));
  expect(one.generation).toBe(before + 1);
});
