import { onScopeDispose, readonly, ref, watch, type Ref } from 'vue';

/**
 * Counts up to a number once something is there, each step in a turn of the page's thread by itself: what is put together piece by piece
 * leaves the page free in between.
 */
export function useTurns(ready: Ref<boolean>, last: number): Readonly<Ref<number>> {
  const turn = ref(0);
  let pending: ReturnType<typeof setTimeout> | undefined;
  const next = () => {
    turn.value++;
    if (turn.value < last) pending = setTimeout(next);
  };
  watch(ready, (is) => is && next(), { immediate: true });
  onScopeDispose(() => clearTimeout(pending));
  return readonly(turn);
}
