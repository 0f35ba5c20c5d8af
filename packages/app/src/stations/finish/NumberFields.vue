<script setup lang="ts">
import { FINISH_STEPS, finishNumber, quantitiesOf, type Cloth, type FinishEntry, type Shot } from '@lumbra/core';
import { computed } from 'vue';
import KeyedField from '../../fields/KeyedField.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';

// Numbers of a finishing step, keyed where they can be.

const props = defineProps<{ names: readonly string[]; cloth: Cloth; entry: FinishEntry }>();
const kind = computed(() => FINISH_STEPS[props.entry.step.kind]);
const subject = computed(() => `${props.cloth.name}, ${kind.value.label.toLowerCase()}`);
const values = computed(() => props.entry.step as unknown as Record<string, number>);
const quantities = computed(() => quantitiesOf(kind.value.schema));

function find(draft: Shot): object | undefined {
  const cloth = draft.things.find(({ id }) => id === props.cloth.id);
  return cloth?.role === 'cloth' ? cloth.finish.find(({ id }) => id === props.entry.id)?.step : undefined;
}
</script>

<template>
  <template v-for="name in names" :key="name">
    <KeyedField
      v-if="quantities[name]!.keyable"
      :thing="cloth.id"
      :number="finishNumber(entry.id, name)"
      :label="quantities[name]!.label"
      :subject="subject"
    />
    <ThingQuantity
      v-else
      :schema="kind.schema"
      :name="name"
      :model-value="values[name]!"
      :find="find"
      :subject="subject"
    />
  </template>
</template>
