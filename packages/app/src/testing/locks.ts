/** Who has a lock: it ends when it is let go, or when a thief takes it. */
class Holder {
  steal: () => void = () => undefined;
  readonly stolen = new Promise<never>((_, reject) => {
    this.steal = () => reject(new DOMException('stolen', 'AbortError'));
  });

  constructor() {
    // A holder that is stolen from before it looks is told when it looks.
    this.stolen.catch(() => undefined);
  }
}

/** The browser's locks, as all tabs see them: one holder a name, others wait in a row, and a thief gets it at once. */
export class Locks {
  readonly #held = new Map<string, Holder>();
  readonly #waiting: { name: string; holder: Holder; go: () => void }[] = [];

  async request(name: string, options: LockOptions, use: (lock: Lock | null) => Promise<void> | void): Promise<void> {
    const own = new Holder();
    const held = this.#held.get(name);
    if (held && options.ifAvailable) return use(null);
    if (held && !options.steal) await this.#turn(name, own, options.signal);
    else {
      held?.steal();
      this.#held.set(name, own);
    }
    try {
      await Promise.race([own.stolen, use({ name, mode: 'exclusive' } as Lock)]);
    } finally {
      if (this.#held.get(name) === own) this.#pass(name);
    }
  }

  /** Lets go of a lock, straight into the hands of the first who waits for it. */
  #pass(name: string): void {
    const next = this.#waiting.find((one) => one.name === name);
    if (!next) return void this.#held.delete(name);
    this.#waiting.splice(this.#waiting.indexOf(next), 1);
    this.#held.set(name, next.holder);
    next.go();
  }

  #turn(name: string, holder: Holder, signal?: AbortSignal): Promise<void> {
    return new Promise((resolve, reject) => {
      const waiting = { name, holder, go: resolve };
      this.#waiting.push(waiting);
      signal?.addEventListener('abort', () => {
        const at = this.#waiting.indexOf(waiting);
        if (at >= 0) this.#waiting.splice(at, 1);
        reject(new DOMException('given up', 'AbortError'));
      });
    });
  }
}
