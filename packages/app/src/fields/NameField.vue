<script setup lang="ts">
import { ref } from 'vue';

// A name that is typed. What is being typed stays, whatever changes around it, until it is taken with enter, by leaving the field,
// or dropped with escape.

const props = defineProps<{
  modelValue: string;
  label: string;
  /** Whether it may be empty; else an empty one leaves the name as it was. */
  mayBeEmpty?: boolean;
}>();
const emit = defineEmits<{ change: [name: string] }>();
const typed = ref<string | null>(null);
const input = ref<HTMLInputElement | null>(null);

function take(): void {
  if (typed.value === null) return;
  const name = typed.value.trim();
  typed.value = null;
  if (name === props.modelValue || (name === '' && !props.mayBeEmpty)) return;
  emit('change', name);
}

function drop(): void {
  typed.value = null;
  input.value!.blur();
}

defineExpose({ select: () => input.value?.select() });
</script>

<template>
  <input
    ref="input"
    type="text"
    maxlength="120"
    :aria-label="label"
    :value="typed ?? modelValue"
    @input="typed = ($event.target as HTMLInputElement).value"
    @change="take"
    @blur="take"
    @keydown.enter="input!.blur()"
    @keydown.escape="drop"
    @keydown.stop
  />
</template>
