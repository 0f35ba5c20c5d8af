<script setup lang="ts">
import { maskNumber, type Mask, type Ramp } from '@lumbra/core';
import { MoveUpRight } from '@lucide/vue';
import { computed } from 'vue';
import KeyedField from '../../fields/KeyedField.vue';
import TickLine from '../../fields/TickLine.vue';
import { useSelectionStore, type Tool } from '../../stores/selection';
import { useHoldActs } from '../../acts/useHoldActs';
import { vTip } from '../../fields/tip';

// A mask that is a ramp: drawn in the viewport, once or in waves, and shifted by its phase.

const props = defineProps<{ mask: Mask; ramp: Ramp }>();
const selection = useSelectionStore();
const { setRamp } = useHoldActs();
const tool = computed<Tool>(() => (props.ramp.kind === 'round' ? 'round ramp' : 'straight ramp'));

function setKind(kind: Ramp['kind']): void {
  setRamp(props.mask.id, `${props.mask.name}, ${kind}`, (ramp) => (ramp.kind = kind));
  if (selection.tool !== 'look') selection.tool = kind === 'round' ? 'round ramp' : 'straight ramp';
}
</script>

<template>
  <div class="choices">
    <button
      v-for="kind in ['straight', 'round'] as const"
      :key="kind"
      type="button"
      class="choice"
      :aria-pressed="ramp.kind === kind"
      @click="setKind(kind)"
    >
      {{ kind }}
    </button>
    <button
      v-tip="'Drag on the cloth from where it is 100 % to where it is 0 %'"
      type="button"
      class="choice with-icon"
      :aria-pressed="selection.tool === tool"
      @click="selection.tool = selection.tool === tool ? 'look' : tool"
    >
      <MoveUpRight :size="14" :stroke-width="1.5" />Draw it anew
    </button>
  </div>
  <TickLine
    class="small"
    :ticked="ramp.waves"
    @toggle="setRamp(mask.id, `${mask.name}, waves`, (found) => (found.waves = !found.waves))"
  >
    rises and falls again and again
  </TickLine>
  <TickLine
    class="small"
    :ticked="ramp.inverted"
    @toggle="setRamp(mask.id, `${mask.name}, inverted`, (found) => (found.inverted = !found.inverted))"
  >
    inverted
  </TickLine>
  <KeyedField
    :key="`${mask.id}.phase`"
    :thing="selection.cloth!.id"
    :number="maskNumber(mask.id, 'phase')"
    label="Phase"
    :subject="mask.name"
  />
</template>

<style scoped>
.with-icon {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
