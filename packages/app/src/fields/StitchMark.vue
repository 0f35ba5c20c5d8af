<script setup lang="ts">
import type { KeyState } from '../stores/keying';

// How a number stands, as a stitch before its label: one shape each, so that colour is not needed.

defineProps<{ state: KeyState }>();
const PATHS: Record<KeyState, string> = {
  none: '',
  // A short tick, a dashed stitch, a cross-stitch.
  constant: 'M6 3V9',
  elsewhere: 'M6 0V3.2M6 4.6V7.4M6 8.8V12',
  here: 'M1.5 1.5L10.5 10.5M10.5 1.5L1.5 10.5',
};
</script>

<template>
  <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true" :class="state"><path :d="PATHS[state]" /></svg>
</template>

<style scoped>
path {
  fill: none;
  stroke: var(--mark);
  stroke-width: 1.75;
}
.elsewhere path,
.here path {
  stroke: var(--weld);
  stroke-width: 2;
}
button:hover path {
  stroke: var(--weld);
}
</style>
