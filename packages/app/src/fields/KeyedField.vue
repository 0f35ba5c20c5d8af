<script setup lang="ts">
import { keyOwner, numberQuantity } from '@lumbra/core';
import { computed } from 'vue';
import { useDocumentStore } from '../session/document';
import { useKeyingStore } from '../stores/keying';
import KeyQuestion from './KeyQuestion.vue';
import QuantityField from './QuantityField.vue';

// A number that can be keyed, with its knot and, where it is needed, the question what a change is to do.

const props = defineProps<{
  /** Owner of the number: a thing, or null for the air. */
  thing: string | null;
  /** “position.x”, “fabric.restWarp”, “wind.speed”. */
  number: string;
  /** What the change concerns, for the undo list: “Cover”. */
  subject: string;
  label?: string;
  reset?: number;
  takesSeveral?: boolean;
  mask?: string;
}>();
const emit = defineEmits<{ several: [values: number[]]; mask: [] }>();

const document = useDocumentStore();
const keying = useKeyingStore();
const owner = computed(() => (document.shot ? keyOwner(document.shot, props.thing) : undefined));
const quantity = computed(() => (owner.value ? numberQuantity(owner.value, props.number) : undefined));
const what = computed(() => props.label ?? quantity.value?.label ?? props.number);
const waiting = computed(() => keying.question?.thing === props.thing && props.number in keying.question.values);
/** The question stands under the last field that it concerns. */
const asks = computed(() => waiting.value && Object.keys(keying.question!.values).at(-1) === props.number);

function change(value: number, live: boolean): void {
  keying.change(
    props.thing,
    { [props.number]: value },
    { label: `${props.subject}, ${what.value.toLowerCase()}`, live, merge: `${props.thing}.${props.number}` },
  );
}
</script>

<template>
  <template v-if="quantity">
    <QuantityField
      :quantity="quantity"
      :model-value="keying.shown(thing, number)"
      :label="label"
      :reset="reset"
      :key-state="keying.keyState(thing, number)"
      :waiting="waiting"
      :takes-several="takesSeveral"
      :mask="mask"
      @change="change"
      @settled="document.endMerge()"
      @key="keying.toggle(thing, number, `${subject}, ${what.toLowerCase()}`)"
      @several="emit('several', $event)"
      @mask="emit('mask')"
    />
    <KeyQuestion v-if="asks" />
  </template>
</template>
