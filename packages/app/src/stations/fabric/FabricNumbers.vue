<script setup lang="ts">
import {
  fabricSchema,
  findCard,
  keyableNumbers,
  quantityOf,
  SCALED_NUMBERS,
  type Cloth,
  type FabricNumber,
  type ScaledNumber,
  type Shot,
} from '@lumbra/core';
import { computed, ref } from 'vue';
import KeyedField from '../../fields/KeyedField.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import { useDocumentStore } from '../../stores/document';

// Some of a fabric's numbers; a double click on a label gives the card's value, the chip beside it a mask that scales it.

const props = defineProps<{ cloth: Cloth; names: readonly FabricNumber[] }>();
const card = computed(() => (props.cloth.card ? findCard(props.cloth.card) : undefined));
const keyable = computed(() => keyableNumbers(props.cloth));

const document = useDocumentStore();
/** The number whose mask is being chosen. */
const choosing = ref<FabricNumber | null>(null);

const canScale = (name: FabricNumber): name is ScaledNumber => (SCALED_NUMBERS as readonly string[]).includes(name);

/** The name of the mask on a number; empty without one, undefined where none can be. */
function maskOf(name: FabricNumber): string | undefined {
  if (!canScale(name)) return undefined;
  const id = props.cloth.fabricMasks[name];
  return id === undefined ? '' : (props.cloth.masks.find((mask) => mask.id === id)?.name ?? 'deleted');
}

function setMask(name: ScaledNumber, event: Event): void {
  const mask = (event.target as HTMLSelectElement).value;
  document.edit(`${props.cloth.name}, mask of ${fabricLabel(name)}`, (draft) => {
    const found = draft.things.find(({ id }) => id === props.cloth.id);
    if (found?.role !== 'cloth') return;
    if (mask === '') delete found.fabricMasks[name];
    else found.fabricMasks[name] = mask;
  });
  choosing.value = null;
}

function fabricLabel(name: ScaledNumber): string {
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
    <div v-if="choosing === name && canScale(name)" class="masks">
      <template v-if="cloth.masks.length">
        <label class="small" :for="`mask-${name}`">scaled by</label>
        <select
          :id="`mask-${name}`"
          class="select"
          :value="cloth.fabricMasks[name] ?? ''"
          @change="setMask(name, $event)"
          @keydown.stop
        >
          <option value="">no mask</option>
          <option v-for="mask in cloth.masks" :key="mask.id" :value="mask.id">{{ mask.name }}</option>
        </select>
      </template>
      <p v-else class="small">There is no mask yet. Make one at Hold.</p>
    </div>
  </template>
</template>

<style scoped>
.masks {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 4px;
}
</style>
