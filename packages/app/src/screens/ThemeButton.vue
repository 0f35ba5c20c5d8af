<script setup lang="ts">
import { Moon, Sun } from '@lucide/vue';
import { useThemeStore } from '../stores/theme';

const theme = useThemeStore();
</script>

<template>
  <button
    type="button"
    class="icon-button"
    :title="theme.evening ? 'Day' : 'Evening'"
    aria-label="Evening theme"
    :aria-pressed="theme.evening"
    @click="theme.toggle()"
  >
    <component :is="theme.evening ? Sun : Moon" :size="16" :stroke-width="1.5" />
  </button>
</template>
