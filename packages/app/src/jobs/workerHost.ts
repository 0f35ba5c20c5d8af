import * as Comlink from 'comlink';

/** A worker ended before it had answered. The message says why. */
export class WorkerEndedError extends Error {}

/** Starts a worker when it is first needed, and another one when it has ended: nothing that was asked waits for ever. */
export class WorkerHost<Api extends object> {
  readonly #make: () => Worker;
  readonly #name: string;
  #worker: Worker | null = null;
  #remote: Comlink.Remote<Api> | null = null;
  readonly #waiting = new Set<(error: Error) => void>();
  #generation = 0;

  /** `name` is for messages: “the run”. */
  constructor(name: string, make: () => Worker) {
    this.#name = name;
    this.#make = make;
  }

  /** Rises when the worker is another one, which knows nothing of what the last was told. */
  get generation(): number {
    return this.#generation;
  }

  /**
   * Asks the worker for something.
   * @throws WorkerEndedError when it ended meanwhile, and what the worker itself throws
   */
  call<T>(ask: (api: Comlink.Remote<Api>) => Promise<T>): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      this.#waiting.add(reject);
      ask(this.#started())
        .then(resolve, reject)
        .finally(() => this.#waiting.delete(reject));
    });
  }

  /** Ends the worker at once; what waits for it is told why. The next call starts another one. */
  kill(why: string): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#remote = null;
    this.#generation++;
    const waiting = [...this.#waiting];
    this.#waiting.clear();
    for (const reject of waiting) reject(new WorkerEndedError(why));
  }

  #started(): Comlink.Remote<Api> {
    if (this.#remote) return this.#remote;
    const worker = this.#make();
    const died = (event: Event) => {
      if (this.#worker !== worker) return;
      const reason = 'message' in event && event.message ? ` (${String(event.message)})` : '';
      this.kill(`What computes ${this.#name} stopped working${reason}. It is started anew when it is next needed.`);
    };
    worker.addEventListener('error', died);
    worker.addEventListener('messageerror', died);
    this.#worker = worker;
    this.#remote = Comlink.wrap<Api>(worker);
    return this.#remote;
  }
}
