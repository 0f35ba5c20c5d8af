<script setup lang="ts">
import { useKeyingStore } from '../stores/keying';
import { vTip } from './tip';

// Asked where a keyed number was changed away from its keys. Until it is answered nothing has changed.

const keying = useKeyingStore();
</script>

<template>
  <div v-if="keying.question" class="question" role="group" aria-label="Keyed number">
    <span class="small">Keyed elsewhere.</span>
    <button type="button" class="choice" @click="keying.answer('key')">Key here</button>
    <button
      v-tip="'Every further change of this thing keys too, until you stop it'"
      type="button"
      class="choice"
      @click="keying.answer('go on')"
    >
      and go on
    </button>
    <button type="button" class="choice" @click="keying.answer('shift')">Shift the whole curve</button>
    <button type="button" class="choice" @click="keying.answer('leave')">Leave it</button>
  </div>
</template>

<style scoped>
.question {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  margin: 4px 0 4px 16px;
  padding-left: 8px;
  border-left: 2px dashed var(--weld);
}
</style>
