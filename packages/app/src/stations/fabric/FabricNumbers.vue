<script setup lang="ts">
import {
  fabricSchema,
  findCard,
  keyableNumbers,
  quantityOf,
  type Cloth,
  type FabricNumber,
  type Shot,
} from '@lumbra/core';
import { computed, ref } from 'vue';
import KeyedField from '../../fields/KeyedField.vue';
import MaskChoice from '../../fields/MaskChoice.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import { useDocumentStore } from '../../session/document';

// Some of a fabric's numbers; a double click on a label gives the card's value, the chip beside it a mask that scales it.

const props = defineProps<{ cloth: Cloth; names: readonly FabricNumber[] }>();
const card = computed(() => (props.cloth.card ? findCard(props.cloth.card) : undefined));
const keyable = computed(() => keyableNumbers(props.cloth));

const document = useDocumentStore();
/** The number whose mask is being chosen. */
const choosing = ref<FabricNumber | null>(null);

/** The name of the mask on a number; empty without one. */
function maskOf(name: FabricNumber): string {
  const id = props.cloth.fabricMasks[name];
  return id === undefined ? '' : (props.cloth.masks.find((mask) => mask.id === id)?.name ?? 'deleted');
}

function setMask(name: FabricNumber, mask: string | null): void {
  document.edit(`${props.cloth.name}, mask of ${fabricLabel(name)}`, (draft) => {
    const found = draft.things.find(({ id }) => id === props.cloth.id);
    if (found?.role !== 'cloth') return;
    if (mask === null) delete found.fabricMasks[name];
    else found.fabricMasks[name] = mask;
  });
  choosing.value = null;
}

function fabricLabel(name: FabricNumber): string {
  return quantityOf(fabricSchema.shape[name])!.label.toLowerCase();
}

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
      :mask="maskOf(name)"
      @mask="choosing = choosing === name ? null : name"
    />
    <ThingQuantity
      v-else
      :schema="fabricSchema"
      :name="name"
      :model-value="cloth.fabric[name]"
      :find="findFabric"
      :reset="card?.fabric[name]"
      :subject="cloth.name"
      :mask="maskOf(name)"
      @mask="choosing = choosing === name ? null : name"
    />
    <MaskChoice
      v-if="choosing === name"
      :number="fabricLabel(name)"
      :masks="cloth.masks"
      :model-value="cloth.fabricMasks[name] ?? null"
      @pick="setMask(name, $event)"
    />
  </template>
</template>
