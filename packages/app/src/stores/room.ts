import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import type { TakeRow } from '../storage/database';
import { useRunStore } from './run';
import { useTakesStore } from './takes';

/** The browser's room is short when less than this is left, in bytes, or less than this share of it. */
const SHORT = { bytes: 200e6, share: 0.03 };

/** How much room the browser gives, and which takes could make some. Nothing is ever removed by itself. */
export const useRoomStore = defineStore('room', () => {
  const run = useRunStore();
  const takes = useTakesStore();
  const used = ref(0);
  const quota = ref<number | null>(null);

  async function measure(): Promise<void> {
    const estimate = await navigator.storage?.estimate?.().catch(() => undefined);
    used.value = estimate?.usage ?? 0;
    quota.value = estimate?.quota ?? null;
  }

  const left = computed(() => (quota.value === null ? null : Math.max(0, quota.value - used.value)));
  const short = computed(
    () =>
      run.refused ||
      (left.value !== null && (left.value < SHORT.bytes || left.value < SHORT.share * (quota.value ?? 0))),
  );
  /** The oldest takes that nobody said to keep, and those that are deleted already: what could be erased first. */
  const offered = computed((): TakeRow[] => {
    const idle = takes.list.filter(({ id, keep }) => !keep && id !== takes.take?.id);
    return [...takes.deleted, ...[...idle].reverse()].filter(({ sum }) => sum.bytes > 0);
  });

  watch(
    () => [takes.list, takes.deleted, run.refused, run.status],
    () => void measure(),
    { immediate: true },
  );

  /** Erases takes, and keeps what had no room before. */
  async function make(rows: readonly TakeRow[]): Promise<void> {
    await takes.erase(rows);
    if (!run.busy) run.refused = !(await takes.keepAgain());
    await measure();
  }

  return { used, quota, left, short, offered, make, measure };
});
