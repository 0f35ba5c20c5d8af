<script setup lang="ts">
import { fabricSchema, findCard, keyableNumbers, type Cloth, type FabricNumber, type Shot } from '@lumbra/core';
import { computed } from 'vue';
import KeyedField from '../../fields/KeyedField.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';

// Some of a fabric's numbers; a double click on a label gives the card's value.

const props = defineProps<{ cloth: Cloth; names: readonly FabricNumber[] }>();
const card = computed(() => (props.cloth.card ? findCard(props.cloth.card) : undefined));
const keyable = computed(() => keyableNumbers(props.cloth));

function findFabric(draft: Shot): object | undefined {
  const found = draft.things.find(({ id }) => id === props.cloth.id);
  return found?.role === 'cloth' ? found.fabric : undefined;
}
</script>

<template>
  <template v-for="name in names" :key="`${cloth.id}.${name}`">
    <KeyedField
      v-if="keyable[`fabric.${name}`]"
      :thing="cloth.id"
      :number="`fabric.${name}`"
      :reset="card?.fabric[name]"
      :subject="cloth.name"
    />
    <ThingQuantity
      v-else
      :schema="fabricSchema"
      :name="name"
      :model-value="cloth.fabric[name]"
      :find="findFabric"
      :reset="card?.fabric[name]"
      :subject="cloth.name"
    />
  </template>
</template>
