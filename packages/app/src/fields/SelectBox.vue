<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus';
import 'element-plus/es/components/select/style/css';
import { computed } from 'vue';

// A list to choose one from. Long lists can be searched.

/** Longer lists have a field to search in. */
const SEARCHED = 8;

const props = defineProps<{
  /** What the list is called for those who do not see it. */
  label: string;
  modelValue: string;
  options: readonly { id: string; name: string }[];
  /** What none, the empty id, is called; without it one must be chosen. */
  none?: string;
  disabled?: boolean;
}>();
const emit = defineEmits<{ pick: [id: string] }>();
const all = computed(() => [...(props.none === undefined ? [] : [{ id: '', name: props.none }]), ...props.options]);
</script>

<template>
  <!-- The value stays what it is until whoever is told of a pick changes it: one that is refused leaves what was. -->
  <ElSelect
    :model-value="modelValue"
    :aria-label="label"
    :filterable="all.length > SEARCHED"
    :disabled="disabled"
    :empty-values="[null, undefined]"
    size="small"
    no-match-text="none is called so"
    popper-class="select-list"
    append-to="#overlays"
    :show-arrow="false"
    :offset="4"
    @update:model-value="emit('pick', $event as string)"
  >
    <ElOption v-for="option in all" :key="option.id" :value="option.id" :label="option.name" />
  </ElSelect>
</template>
