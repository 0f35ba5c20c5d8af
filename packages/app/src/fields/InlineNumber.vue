<script setup lang="ts">
import { ref } from 'vue';
import { useNoticeStore } from '../stores/notice';

// A small number in running text, such as the first frame of the range.

const props = defineProps<{ label: string; modelValue: number; min: number; max: number; whole?: boolean }>();
const emit = defineEmits<{ change: [value: number] }>();
const notice = useNoticeStore();
const wrong = ref(false);
/** What was typed last could not be used. */
let refused = false;

function commit(event: Event): void {
  const input = event.target as HTMLInputElement;
  const value = Number(input.value.replace(',', '.').replace('−', '-'));
  wrong.value =
    input.value.trim() === '' ||
    !Number.isFinite(value) ||
    value < props.min ||
    value > props.max ||
    (props.whole === true && !Number.isInteger(value));
  refused = wrong.value;
  if (wrong.value) {
    notice.showHint(
      props.label,
      `“${input.value}” cannot be used: type a ${props.whole ? 'whole ' : ''}number from ${props.min} to ${props.max}.`,
      true,
    );
    input.value = String(props.modelValue);
    wrong.value = false;
    return;
  }
  if (value !== props.modelValue) emit('change', value);
  input.value = String(props.modelValue);
}

/** The keys belong to the bench again; where the number is part of an act, it is done. */
function enter(event: Event): void {
  const input = event.target as HTMLInputElement;
  refused = false;
  input.blur();
  if (!refused) input.form?.requestSubmit();
}
</script>

<template>
  <input
    class="inline"
    type="text"
    inputmode="numeric"
    :aria-label="label"
    :aria-invalid="wrong"
    :value="modelValue"
    @change="commit"
    @keydown.stop
    @keydown.enter.prevent="enter"
  />
</template>

<style scoped>
.inline {
  width: 36px;
  height: 20px;
  text-align: center;
  font-weight: 600;
  border-radius: 3px;
  box-shadow: inset 0 -1px 0 var(--edge);
}
.inline:hover {
  background: var(--linen-0);
}
</style>
