<script setup lang="ts">
import { Brush } from '@lucide/vue';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import QuantityField from '../../fields/QuantityField.vue';
import TickLine from '../../fields/TickLine.vue';
import { useSelectionStore, type Brush as BrushSetting } from '../../stores/selection';
import { BRUSH } from '../../stores/brush';

// The brush that paints masks: what it does, how large it is on the cloth or on the screen, how much it does.

const MODES = (['add', 'take away', 'set', 'blur'] as const).map((id) => ({ id, label: id }));
/** As large on the cloth, near or far; or as large on the screen, whatever is seen. */
const UNITS = [
  { id: 'mm', label: 'Sized on the cloth' },
  { id: 'px', label: 'On the screen' },
] as const;

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
    <ChoiceRow
      label="What the brush does"
      :model-value="selection.brush.mode"
      :options="MODES"
      @pick="set({ mode: $event })"
    />
  </div>
  <ChoiceRow
    class="unit"
    label="Size of the brush"
    :model-value="selection.brush.unit"
    :options="UNITS"
    @pick="set({ unit: $event })"
  />
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
.unit {
  margin-top: 4px;
}
.with-icon {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
