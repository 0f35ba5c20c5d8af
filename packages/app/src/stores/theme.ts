import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, watchEffect } from 'vue';

/** Day or evening. */
export const useThemeStore = defineStore('theme', () => {
  // What another version left there may be anything.
  const stored = useLocalStorage<'day' | 'evening'>('lumbra.theme', 'day', {
    serializer: { read: (text) => (text === 'evening' ? 'evening' : 'day'), write: (value) => value },
  });
  watchEffect(() => {
    document.documentElement.dataset['theme'] = stored.value;
  });
  const evening = computed(() => stored.value === 'evening');
  function toggle(): void {
    stored.value = evening.value ? 'day' : 'evening';
  }
  return { evening, toggle };
});
