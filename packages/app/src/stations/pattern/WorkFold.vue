<script setup lang="ts">
import { ChevronDown, ChevronRight } from '@lucide/vue';

// The heading of a piece of work that is begun and left: what it needs is shown while it is open.

defineProps<{ title: string; open: boolean }>();
const emit = defineEmits<{ toggle: [] }>();
</script>

<template>
  <button type="button" class="begin" :aria-expanded="open" @click="emit('toggle')">
    <component :is="open ? ChevronDown : ChevronRight" :size="16" :stroke-width="1.5" />
    <span class="cut">{{ title }}</span>
  </button>
</template>

<style scoped>
.begin {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 28px;
  flex: none;
  text-align: left;
}
</style>
