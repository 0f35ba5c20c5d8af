<script setup lang="ts">
import { Square } from '@lucide/vue';
import { computed } from 'vue';
import { useRunStore } from '../stores/run';
import { useTakesStore } from '../stores/takes';
import CheckLine from './CheckLine.vue';

// The primary action of the stations before Run: settle, or stop what is running.

defineProps<{ label: string }>();
const run = useRunStore();
const takes = useTakesStore();
const stopLabel = computed(() => {
  if (run.stopping) return 'Stopping';
  return run.status === 'baking'
    ? `Stop, keep ${takes.account.length} frames`
    : run.status === 'live'
      ? 'Stop the live run'
      : 'Stop settling';
});
</script>

<template>
  <CheckLine />
  <button v-if="run.busy" type="button" class="primary" :disabled="run.stopping" @click="run.stop()">
    <Square :size="16" :stroke-width="1.5" />{{ stopLabel }}<kbd>Esc</kbd>
  </button>
  <button v-else type="button" class="primary" @click="run.startSettle()">{{ label }}<kbd>J</kbd></button>
</template>
