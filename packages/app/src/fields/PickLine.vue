<script setup lang="ts">
import { nextTick, ref } from 'vue';

// A line with a list of things, masks and the like to pick one from, or none.

const props = defineProps<{
  label: string;
  /** What the list is called for those who do not see it, where the label alone does not say. */
  name?: string;
  /** The id that is picked; empty for none. */
  modelValue: string;
  options: readonly { id: string; name: string }[];
  /** What none is called; without it one must be picked. */
  none?: string;
}>();
const emit = defineEmits<{ pick: [id: string] }>();
const list = ref<HTMLSelectElement | null>(null);

async function pick(): Promise<void> {
  emit('pick', list.value!.value);
  // A pick that is refused leaves what was.
  await nextTick();
  if (list.value) list.value.value = props.modelValue;
}
</script>

<template>
  <label class="field-line">
    <span>{{ label }}</span>
    <select ref="list" class="select" :aria-label="name ?? label" :value="modelValue" @change="pick" @keydown.stop>
      <option v-if="none !== undefined" value="">{{ none }}</option>
      <option v-for="option in options" :key="option.id" :value="option.id">{{ option.name }}</option>
    </select>
  </label>
</template>

<style scoped>
.field-line {
  justify-content: space-between;
}
.select {
  max-width: 160px;
  min-width: 0;
}
</style>
