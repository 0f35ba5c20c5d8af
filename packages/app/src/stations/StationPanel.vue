<script setup lang="ts">
import { useNoticeStore } from '../stores/notice';

// The frame of every station's panel: title, tools that scroll, and at the foot the help line and the one primary action.

defineProps<{ title: string; help: string }>();
const notice = useNoticeStore();
</script>

<template>
  <section class="panel" :aria-label="title">
    <header>
      <h1>{{ title }}</h1>
      <p class="small">{{ help }}</p>
    </header>
    <div class="body"><slot /></div>
    <footer>
      <p class="hint small" :class="{ problem: notice.hint?.problem }" role="status">
        <template v-if="notice.hint"
          ><b class="strong">{{ notice.hint.title }}.</b> {{ notice.hint.text }}</template
        >
      </p>
      <div class="action"><slot name="action" /></div>
    </footer>
  </section>
</template>

<style scoped>
.panel {
  grid-area: panel;
  display: flex;
  flex-direction: column;
  border-right: 1px solid var(--rule);
  min-height: 0;
}
header {
  padding: 16px 16px 4px;
}
header p {
  margin-top: 4px;
}
.body {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  overflow-x: hidden;
  padding: 4px 16px 16px;
  display: flex;
  flex-direction: column;
  scrollbar-width: thin;
}
footer {
  border-top: 1px solid var(--rule);
  flex: none;
}
.hint {
  height: 52px;
  padding: 8px 16px 0;
  overflow: hidden;
}
.hint.problem {
  color: var(--madder);
}
.action {
  padding: 8px 16px 16px;
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
}
</style>
