<script setup lang="ts">
import type { Component } from 'vue';
import { vTip } from '../fields/tip';
import { useSelectionStore, type Tool } from '../stores/selection';

// Tools that take the pointer in the viewport; pressed once more, one is put away.

defineProps<{ tools: readonly { id: Tool; label: string; icon: Component; help: string }[] }>();
const selection = useSelectionStore();
</script>

<template>
  <div class="choices" role="group" aria-label="Tools">
    <button
      v-for="tool in tools"
      :key="tool.id"
      v-tip="tool.help"
      type="button"
      class="choice tool"
      :aria-pressed="selection.tool === tool.id"
      @click="selection.tool = selection.tool === tool.id ? 'look' : tool.id"
    >
      <component :is="tool.icon" :size="14" :stroke-width="1.5" />{{ tool.label }}
    </button>
  </div>
</template>

<style scoped>
.tool {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
