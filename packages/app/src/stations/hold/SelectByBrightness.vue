<script setup lang="ts">
import { maskValues, shapeMesh, type Quantity } from '@lumbra/core';
import { computed, ref, shallowRef } from 'vue';
import FoldSection from '../../fields/FoldSection.vue';
import PickLine from '../../fields/PickLine.vue';
import QuantityField from '../../fields/QuantityField.vue';
import { useDocumentStore } from '../../session/document';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';
import PictureButton from './PictureButton.vue';

// Points by how much a mask is there, or by how bright a picture is that is laid on the cloth.

const LIMIT: Quantity = {
  label: 'From',
  help: 'Points where the mask is so much, or the picture so bright, and more.',
  unit: '%',
  min: 0,
  max: 1,
  default: 0.5,
  step: 0.01,
};
const PICTURE = 'picture';

const document = useDocumentStore();
const selection = useSelectionStore();
const run = useRunStore();
const limit = ref(LIMIT.default);
const chosen = ref('');
const picture = shallowRef<{ name: string; values: Float32Array } | null>(null);

const cloth = computed(() => selection.cloth!);
const options = computed(() => [
  ...(picture.value ? [{ id: PICTURE, name: picture.value.name }] : []),
  ...cloth.value.masks,
]);
const source = computed(() => options.value.find(({ id }) => id === chosen.value) ?? options.value[0]);

function values(): Float32Array | null {
  if (source.value?.id === PICTURE) return picture.value!.values;
  const mask = cloth.value.masks.find(({ id }) => id === source.value?.id);
  return mask ? maskValues(cloth.value, mask, shapeMesh(cloth.value.shape, document.assets), run.shownFrame) : null;
}

function select(test: (value: number) => boolean): void {
  const found: number[] = [];
  values()?.forEach((value, point) => test(value) && found.push(point));
  selection.setPoints(found);
}

function take(read: { name: string; values: Float32Array }): void {
  picture.value = read;
  chosen.value = PICTURE;
  select((value) => value >= limit.value);
}
</script>

<template>
  <FoldSection title="By a mask or a picture">
    <PickLine
      v-if="source"
      label="Of"
      name="Select by brightness of"
      :model-value="source.id"
      :options="options"
      @pick="chosen = $event"
    />
    <QuantityField :quantity="LIMIT" :model-value="limit" @change="limit = $event" />
    <div class="choices indented">
      <template v-if="source">
        <button type="button" class="choice" @click="select((value) => value >= limit)">From there up</button>
        <button type="button" class="choice" @click="select((value) => value < limit)">Below</button>
      </template>
      <PictureButton
        label="By a picture"
        title="Lay a picture on the cloth and select where it is bright"
        @read="take"
      />
    </div>
  </FoldSection>
</template>

<style scoped>
.indented {
  margin-left: 16px;
}
</style>
