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
      <!-- Drawn over the foot of what scrolls, so that it takes no room from the work. -->
      <p class="hint small" :class="{ problem: notice.hint?.problem, said: notice.hint }" role="status">
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
  position: relative;
  height: 100%;
  display: flex;
  flex-direction: column;
  border-right: 1px solid var(--rule);
  min-height: 0;
}
header {
  padding: 12px 16px 4px;
}
header p {
  margin-top: 2px;
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
  position: relative;
  border-top: 1px solid var(--rule);
  flex: none;
}
.hint {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 100%;
  max-height: 64px;
  overflow: hidden;
  pointer-events: none;
}
.hint.said {
  padding: 8px 16px;
  background: var(--linen-1);
  border-top: 1px solid var(--rule);
}
.hint.problem {
  color: var(--madder);
}
.action {
  padding: 8px 16px 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
}
</style>
