import { liveQuery } from 'dexie';
import { onScopeDispose, shallowRef, type ShallowRef } from 'vue';

/**
 * What a query gives, and gives again whenever something that it read has changed, here or in another tab. Undefined until it has answered
 * first; what it fails with is told, and the last answer stays.
 */
export function live<T>(
  query: () => Promise<T>,
  failed: (error: unknown) => void,
): Readonly<ShallowRef<T | undefined>> {
  const answer = shallowRef<T>();
  const reading = liveQuery(query).subscribe({ next: (value) => (answer.value = value), error: failed });
  onScopeDispose(() => reading.unsubscribe());
  return answer;
}
