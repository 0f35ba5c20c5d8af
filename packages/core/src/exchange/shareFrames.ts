/**
 * Gives the same items, as they come, to so many who go through them at the same time: the next is asked for when all have come for it, so that only one is held.
 * What goes wrong is thrown to all. One who stops before the end is not waited for any more.
 */
export function shareFrames<Item>(items: AsyncIterable<Item>, count: number): AsyncIterable<Item>[] {
  const source = items[Symbol.asyncIterator]();
  const waiting = new Map<
    number,
    { resolve: (next: IteratorResult<Item>) => void; reject: (error: unknown) => void }
  >();
  const present = new Set(Array.from({ length: count }, (_, i) => i));

  function goOn(): void {
    if (waiting.size === 0 || waiting.size < present.size) return;
    const those = [...waiting.values()];
    waiting.clear();
    source.next().then(
      (next) => those.forEach(({ resolve }) => resolve(next)),
      (error: unknown) => those.forEach(({ reject }) => reject(error)),
    );
  }

  return [...present].map((who) => ({
    [Symbol.asyncIterator]: () => ({
      next: () =>
        new Promise((resolve, reject) => {
          waiting.set(who, { resolve, reject });
          goOn();
        }),
      return: async () => {
        present.delete(who);
        if (present.size === 0) await source.return?.();
        else goOn();
        return { done: true, value: undefined };
      },
    }),
  }));
}
