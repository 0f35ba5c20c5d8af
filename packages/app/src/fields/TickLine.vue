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
  <label class="field-line">
    <input ref="box" type="checkbox" :checked="ticked" @change="toggle" />
    <slot />
  </label>
</template>

<style scoped>
input {
  accent-color: var(--indigo);
}
</style>
