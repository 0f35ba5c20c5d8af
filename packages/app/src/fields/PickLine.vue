<script setup lang="ts">
import SelectBox from './SelectBox.vue';

// A line with a list of things, masks and the like to pick one from, or none.

defineProps<{
  label: string;
  /** What the list is called for those who do not see it, where the label alone does not say. */
  name?: string;
  /** The id that is picked; empty for none. */
  modelValue: string;
  options: readonly { id: string; name: string }[];
  /** What none is called; without it one must be picked. */
  none?: string;
  disabled?: boolean;
}>();
const emit = defineEmits<{ pick: [id: string] }>();
</script>

<template>
  <div class="field-line">
    <span>{{ label }}</span>
    <SelectBox
      class="list"
      :label="name ?? label"
      :model-value="modelValue"
      :options="options"
      :none="none"
      :disabled="disabled"
      @pick="emit('pick', $event)"
    />
  </div>
</template>

<style scoped>
.field-line {
  justify-content: space-between;
}
.list {
  width: 160px;
  flex: none;
}
</style>
