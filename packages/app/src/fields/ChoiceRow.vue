<script setup lang="ts" generic="Id extends string">
import { ElSegmented } from 'element-plus';
import 'element-plus/es/components/segmented/style/css';
import { computed } from 'vue';

// A few choices in a row, of which one holds; or none, while what holds is not among them.

const props = defineProps<{
  label: string;
  modelValue: Id | null;
  options: readonly { id: Id; label: string }[];
  disabled?: boolean;
  /** Takes the whole width. */
  wide?: boolean;
}>();
const emit = defineEmits<{ pick: [id: Id] }>();
const rows = computed(() => props.options.map(({ id, label }) => ({ value: id, label })));
</script>

<template>
  <ElSegmented
    :model-value="modelValue ?? ''"
    :options="rows"
    :aria-label="label"
    :disabled="disabled"
    :block="wide"
    size="small"
    @update:model-value="emit('pick', $event as Id)"
  />
</template>
