<script setup lang="ts">
import { Moon, Sun } from '@lucide/vue';
import { useThemeStore } from '../stores/theme';
import { vTip } from '../fields/tip';

const theme = useThemeStore();
</script>

<template>
  <button
    v-tip="theme.evening ? 'Day' : 'Evening'"
    type="button"
    class="icon-button"
    aria-label="Evening theme"
    :aria-pressed="theme.evening"
    @click="theme.toggle()"
  >
    <component :is="theme.evening ? Sun : Moon" :size="16" :stroke-width="1.5" />
  </button>
</template>
