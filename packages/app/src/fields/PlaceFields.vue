<script setup lang="ts">
import { POSITION_NUMBERS, ROTATION_NUMBERS, type Thing } from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { useKeyingStore } from '../stores/keying';
import KeyedField from './KeyedField.vue';

// Where a thing is and how it is turned, at this frame. “0, 1.2, 0” in one field sets all three.

const props = defineProps<{ thing: Thing }>();
const document = useDocumentStore();
const keying = useKeyingStore();

function several(numbers: readonly string[], from: number, values: number[]): void {
  const changed = Object.fromEntries(values.slice(0, 3).map((value, i) => [numbers[(from + i) % 3]!, value]));
  const verb = numbers === POSITION_NUMBERS ? 'Move' : 'Turn';
  keying.change(props.thing.id, changed, { label: `${verb} ${props.thing.name}`, live: false, merge: '' });
  document.endMerge();
}
</script>

<template>
  <KeyedField
    v-for="(number, i) in POSITION_NUMBERS"
    :key="number"
    :thing="thing.id"
    :number="number"
    :subject="thing.name"
    takes-several
    @several="several(POSITION_NUMBERS, i, $event)"
  />
  <KeyedField
    v-for="(number, i) in ROTATION_NUMBERS"
    :key="number"
    :thing="thing.id"
    :number="number"
    :subject="thing.name"
    takes-several
    @several="several(ROTATION_NUMBERS, i, $event)"
  />
</template>
