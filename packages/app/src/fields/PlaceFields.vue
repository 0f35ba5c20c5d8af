<script setup lang="ts">
import type { Quantity, Thing } from '@lumbra/core';
import { useDocumentStore } from '../stores/document';
import QuantityField from './QuantityField.vue';

// Where a thing is and how it is turned.

const props = defineProps<{ thing: Thing }>();
const document = useDocumentStore();

const AXES = ['x', 'y', 'z'] as const;
const position = (axis: string): Quantity => ({
  label: `Place ${axis}`,
  help: axis === 'y' ? 'Height above the ground.' : `Along the stage’s ${axis}.`,
  unit: 'm',
  min: -1000,
  max: 1000,
  default: 0,
  step: 0.005,
});
const turn = (axis: string): Quantity => ({
  label: `Turn ${axis}`,
  help: `About ${axis}; turned about x first, then y, then z.`,
  unit: '°',
  min: -20 * Math.PI,
  max: 20 * Math.PI,
  default: 0,
  step: Math.PI / 180,
});

function change(part: 'position' | 'rotation', axis: number, value: number, live: boolean): void {
  document.edit(
    `${part === 'position' ? 'Move' : 'Turn'} ${props.thing.name}`,
    (draft) => {
      const target = draft.things.find(({ id }) => id === props.thing.id);
      if (target) target[part][axis] = value;
    },
    live ? `${props.thing.id}.${part}.${axis}` : null,
  );
}
</script>

<template>
  <QuantityField
    v-for="(axis, i) in AXES"
    :key="`p${axis}`"
    :quantity="position(axis)"
    :model-value="thing.position[i]!"
    @change="(value, live) => change('position', i, value, live)"
    @settled="document.endMerge()"
  />
  <QuantityField
    v-for="(axis, i) in AXES"
    :key="`r${axis}`"
    :quantity="turn(axis)"
    :model-value="thing.rotation[i]!"
    @change="(value, live) => change('rotation', i, value, live)"
    @settled="document.endMerge()"
  />
</template>
