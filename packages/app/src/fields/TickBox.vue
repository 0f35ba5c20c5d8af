<script setup lang="ts">
import { ElCheckbox } from 'element-plus';
import 'element-plus/es/components/checkbox/style/css';

import { nextTick, ref } from 'vue';

// A box to tick, with what it stands for.

const props = defineProps<{ ticked: boolean; label?: string; disabled?: boolean }>();
const emit = defineEmits<{ toggle: [] }>();
const box = ref<HTMLElement | null>(null);

async function toggle(): Promise<void> {
  emit('toggle');
  // What is refused leaves what was, also in the box itself.
  await nextTick();
  const input = box.value?.querySelector('input');
  if (input) input.checked = props.ticked;
}
</script>

<template>
  <span ref="box" class="tick">
    <ElCheckbox :model-value="ticked" :aria-label="label" :disabled="disabled" @update:model-value="toggle">
      <slot /> </ElCheckbox
  ></span>
</template>

<style scoped>
.tick {
  display: inline-flex;
}
</style>
