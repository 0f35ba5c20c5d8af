<script setup lang="ts">
import { ElPopover } from 'element-plus';
import 'element-plus/es/components/popover/style/css';
import { History } from '@lucide/vue';
import { computed } from 'vue';
import { useDocumentStore } from '../../session/document';
import { vTip } from '../../fields/tip';

// Every edit of the shot, also from before it was last closed; a press goes back or on to it.

const SHOWN = 60;

const document = useDocumentStore();
const steps = computed(() => {
  const done = document.done.map(({ label }, i) => ({ label, count: i + 1, done: true }));
  const undone = [...document.undone]
    .reverse()
    .map(({ label }, i) => ({ label, count: done.length + i + 1, done: false }));
  return [...done, ...undone].reverse().slice(0, SHOWN);
});
const now = computed(() => document.done.length);
</script>

<template>
  <ElPopover
    append-to="#overlays"
    trigger="click"
    placement="bottom-end"
    :width="264"
    :show-arrow="false"
    :persistent="false"
  >
    <template #reference>
      <button v-tip="'History'" type="button" class="icon-button" aria-label="History">
        <History :size="16" :stroke-width="1.5" />
      </button>
    </template>
    <section class="list" aria-label="History">
      <h2>History</h2>
      <p v-if="steps.length === 0" class="small">Nothing has been changed yet. Every edit will be listed here.</p>
      <button
        v-for="step in steps"
        :key="step.count"
        type="button"
        :class="{ undone: !step.done }"
        :aria-current="step.count === now"
        :disabled="document.readOnly"
        @click="document.goToEdit(step.count)"
      >
        {{ step.label }}
      </button>
      <button v-if="steps.length > 0" type="button" :aria-current="now === 0" @click="document.goToEdit(0)">
        As it was at first
      </button>
    </section>
  </ElPopover>
</template>

<style scoped>
.list {
  display: flex;
  flex-direction: column;
  max-height: 400px;
  overflow-y: auto;
  scrollbar-width: thin;
  color: var(--ink-9);
  text-align: left;
}
h2 {
  margin-bottom: 8px;
}
.list button {
  flex: none;
  min-height: 24px;
  padding: 0 8px;
  text-align: left;
  border-left: 2px solid var(--woad);
}
.list button:hover {
  background: var(--linen-1);
}
.list button[aria-current='true'] {
  font-weight: 600;
}
.list .undone {
  color: var(--ink-6);
  border-left: 2px dashed var(--mark);
}
</style>
