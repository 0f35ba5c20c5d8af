<script setup lang="ts">
import type { Quantity } from '@lumbra/core';
import { Brush } from '@lucide/vue';
import QuantityField from '../../fields/QuantityField.vue';
import { useSelectionStore, type Brush as BrushSetting } from '../../stores/selection';

// The brush that paints masks: what it does, how large it is on the cloth or on the screen, how much it does.

const RADIUS: Quantity = {
  label: 'Brush',
  help: 'Radius of the brush on the cloth. The keys [ and ] change it.',
  unit: 'mm',
  min: 0.001,
  max: 5,
  default: 0.08,
  step: 'ratio',
};
const STRENGTH: Quantity = {
  label: 'Strength',
  help: 'How much one pass of the brush does.',
  unit: '%',
  min: 0.01,
  max: 1,
  default: 0.5,
  step: 0.01,
};
const FALLOFF: Quantity = {
  label: 'Soft edge',
  help: 'How much of the brush falls off towards its edge.',
  unit: '%',
  min: 0,
  max: 1,
  default: 0.7,
  step: 0.01,
};
const VALUE: Quantity = {
  label: 'Value',
  help: 'What is filled in, and what the brush sets.',
  unit: '%',
  min: 0,
  max: 1,
  default: 1,
  step: 0.01,
};
const PIXELS: Quantity = {
  label: 'Brush',
  help: 'Radius of the brush on the screen: nearer to the cloth it paints finer. The keys [ and ] change it.',
  unit: 'px',
  min: 2,
  max: 500,
  default: 40,
  step: 'ratio',
};
const MODES: BrushSetting['mode'][] = ['add', 'take away', 'set', 'blur'];

const selection = useSelectionStore();

function set(change: Partial<BrushSetting>): void {
  selection.brush = { ...selection.brush, ...change };
}
</script>

<template>
  <div class="choices">
    <button
      type="button"
      class="choice with-icon"
      :aria-pressed="selection.tool === 'brush'"
      @click="selection.tool = selection.tool === 'brush' ? 'look' : 'brush'"
    >
      <Brush :size="14" :stroke-width="1.5" />Paint
    </button>
    <button
      v-for="mode in MODES"
      :key="mode"
      type="button"
      class="choice"
      :aria-pressed="selection.brush.mode === mode"
      @click="set({ mode })"
    >
      {{ mode }}
    </button>
  </div>
  <div class="choices" role="group" aria-label="Size of the brush">
    <button
      type="button"
      class="choice"
      title="The brush is as large on the cloth, near or far"
      :aria-pressed="selection.brush.unit === 'mm'"
      @click="set({ unit: 'mm' })"
    >
      Sized on the cloth
    </button>
    <button
      type="button"
      class="choice"
      title="The brush is as large on the screen, whatever is seen"
      :aria-pressed="selection.brush.unit === 'px'"
      @click="set({ unit: 'px' })"
    >
      On the screen
    </button>
  </div>
  <QuantityField
    v-if="selection.brush.unit === 'mm'"
    :quantity="RADIUS"
    :model-value="selection.brush.radius"
    @change="set({ radius: $event })"
  />
  <QuantityField v-else :quantity="PIXELS" :model-value="selection.brush.pixels" @change="set({ pixels: $event })" />
  <QuantityField :quantity="STRENGTH" :model-value="selection.brush.strength" @change="set({ strength: $event })" />
  <QuantityField :quantity="FALLOFF" :model-value="selection.brush.falloff" @change="set({ falloff: $event })" />
  <QuantityField :quantity="VALUE" :model-value="selection.brush.value" @change="set({ value: $event })" />
</template>

<style scoped>
.with-icon {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
