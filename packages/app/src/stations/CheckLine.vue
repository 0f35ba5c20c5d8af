<script setup lang="ts">
import { computed } from 'vue';
import { useChecksStore } from '../stores/checks';
import { useRunStore } from '../stores/run';

// Above what starts a run: that it is started with failing checks, or cannot be.

const checks = useChecksStore();
const run = useRunStore();
const text = computed(() => {
  const hindered = checks.findings.find(({ hinders }) => hinders);
  if (hindered) return `${hindered.text} Nothing can be run.`;
  const [all, grave] = [checks.findings.length, checks.grave.length];
  if (grave > 0) return `${grave === 1 ? '1 check fails' : `${grave} checks fail`}; it can be run as it is.`;
  return all > 0 ? `${all === 1 ? '1 check is' : `${all} checks are`} worth a look first.` : null;
});
</script>

<template>
  <p v-if="text && !run.busy" class="line small" :class="{ grave: checks.grave.length > 0 }" data-testid="check-line">
    {{ text }} <button type="button" @click="checks.open = true">Look</button>
  </p>
</template>

<style scoped>
.line {
  padding-left: 8px;
  flex: 1 0 100%;
  margin-bottom: 8px;
  border-left: 2px solid var(--weld);
}
.line.grave {
  border-left-color: var(--madder);
}
button {
  color: var(--indigo);
}
button:hover {
  text-decoration: underline;
}
</style>
