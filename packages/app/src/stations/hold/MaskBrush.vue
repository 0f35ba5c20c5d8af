<script setup lang="ts">
import { Brush } from '@lucide/vue';
import QuantityField from '../../fields/QuantityField.vue';
import TickLine from '../../fields/TickLine.vue';
import { useSelectionStore, type Brush as BrushSetting } from '../../stores/selection';
import { BRUSH } from './brush';

// The brush that paints masks: what it does, how large it is on the cloth or on the screen, how much it does.

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
    :quantity="BRUSH.radius"
    :model-value="selection.brush.radius"
    @change="set({ radius: $event })"
  />
  <QuantityField
    v-else
    :quantity="BRUSH.pixels"
    :model-value="selection.brush.pixels"
    @change="set({ pixels: $event })"
  />
  <QuantityField
    :quantity="BRUSH.strength"
    :model-value="selection.brush.strength"
    @change="set({ strength: $event })"
  />
  <QuantityField :quantity="BRUSH.falloff" :model-value="selection.brush.falloff" @change="set({ falloff: $event })" />
  <QuantityField :quantity="BRUSH.value" :model-value="selection.brush.value" @change="set({ value: $event })" />
  <TickLine class="small" :ticked="selection.brush.heedsPen" @toggle="set({ heedsPen: !selection.brush.heedsPen })">
    a pen does more when pressed harder
  </TickLine>
</template>

<style scoped>
.with-icon {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
