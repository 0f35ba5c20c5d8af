<script setup lang="ts">
import { ChevronDown, ChevronRight } from '@lucide/vue';
import { ref } from 'vue';

// Less used numbers under one fold.

const props = defineProps<{ title: string; note?: string; open?: boolean }>();
const open = ref(props.open ?? false);
</script>

<template>
  <button type="button" class="fold" :aria-expanded="open" @click="open = !open">
    <component :is="open ? ChevronDown : ChevronRight" :size="16" :stroke-width="1.5" />
    <span>{{ title }}</span>
    <span v-if="note" class="small note">{{ note }}</span>
  </button>
  <template v-if="open"><slot /></template>
</template>

<style scoped>
.fold {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 28px;
  margin-top: 8px;
  flex: none;
  text-align: left;
}
.fold svg {
  color: var(--ink-6);
  margin-left: -2px;
}
.note {
  margin-left: auto;
}
</style>
