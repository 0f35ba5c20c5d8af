<script setup lang="ts">
import { nextTick, ref } from 'vue';

// A line with a box to tick.

const props = defineProps<{ ticked: boolean }>();
const emit = defineEmits<{ toggle: [] }>();
const box = ref<HTMLInputElement | null>(null);

async function toggle(): Promise<void> {
  emit('toggle');
  // What is refused leaves what was.
  await nextTick();
  if (box.value) box.value.checked = props.ticked;
}
</script>

<template>
  <label class="line">
    <input ref="box" type="checkbox" :checked="ticked" @change="toggle" />
    <slot />
  </label>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  gap: 8px;
  padding-left: 16px;
  min-height: 28px;
  margin-top: 4px;
}
input {
  accent-color: var(--indigo);
}
</style>
