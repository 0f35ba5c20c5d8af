/** The browser's locks, as all tabs see them: one holder a name, others wait in a row, and a thief gets it at once. */
export class Locks {
  readonly #held = new Map<string, { steal: () => void }>();
  readonly #waiting: { name: string; go: () => void }[] = [];

  async request(name: string, options: LockOptions, use: (lock: Lock | null) => Promise<void> | void): Promise<void> {
    if (this.#held.has(name)) {
      if (options.ifAvailable) return use(null);
      if (options.steal) this.#held.get(name)!.steal();
      else await this.#turn(name, options.signal);
    }
    let steal: () => void = () => undefined;
    const stolen = new Promise<never>((_, reject) => (steal = () => reject(new DOMException('stolen', 'AbortError'))));
    const own = { steal };
    this.#held.set(name, own);
    try {
      await Promise.race([use({ name, mode: 'exclusive' } as Lock), stolen]);
    } finally {
      if (this.#held.get(name) === own) {
        this.#held.delete(name);
        this.#waiting.find((one) => one.name === name)?.go();
      }
    }
  }

  #turn(name: string, signal?: AbortSignal): Promise<void> {
    return new Promise((resolve, reject) => {
      const waiting = { name, go: () => (this.#leave(waiting), resolve()) };
      this.#waiting.push(waiting);
      signal?.addEventListener('abort', () => {
        this.#leave(waiting);
        reject(new DOMException('given up', 'AbortError'));
      });
    });
  }

  #leave(waiting: { name: string; go: () => void }): void {
    const at = this.#waiting.indexOf(waiting);
    if (at >= 0) this.#waiting.splice(at, 1);
  }
}
