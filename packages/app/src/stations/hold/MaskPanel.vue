<script setup lang="ts">
import {
  blurMask,
  combineMasks,
  noiseMask,
  pointCount,
  rampMask,
  readMask,
  roundMask,
  shapeMesh,
  type MaskCombination,
  type Quantity,
} from '@lumbra/core';
import { Brush, Trash2 } from '@lucide/vue';
import { computed, ref } from 'vue';
import FoldSection from '../../fields/FoldSection.vue';
import QuantityField from '../../fields/QuantityField.vue';
import { useDocumentStore } from '../../stores/document';
import { useSelectionStore, type Brush as BrushSetting } from '../../stores/selection';
import { useHoldActs } from './useHoldActs';

// Masks: how much, point by point. Made by ramps, noise or the selection, painted with a brush, and combined.

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
const NOISE: Quantity = {
  label: 'Noise size',
  help: 'How large the patches of noise are.',
  unit: 'mm',
  min: 0.002,
  max: 10,
  default: 0.15,
  step: 'ratio',
};
const MODES: BrushSetting['mode'][] = ['add', 'take away', 'set', 'blur'];
const COMBINATIONS: { id: MaskCombination; label: string }[] = [
  { id: 'multiply', label: 'multiplied by' },
  { id: 'largest', label: 'or' },
  { id: 'smallest', label: 'and' },
  { id: 'take away', label: 'without' },
];

const document = useDocumentStore();
const selection = useSelectionStore();
const { addMask, setMask, removeMask, change, shownPlaces } = useHoldActs();
const noiseSize = ref(NOISE.default);
const seed = ref(1);
const how = ref<MaskCombination>('multiply');
const otherId = ref('');

const cloth = computed(() => selection.cloth!);
const mesh = computed(() => shapeMesh(cloth.value.shape, document.assets));
const count = computed(() => pointCount(mesh.value));
const mask = computed(() => cloth.value.masks.find(({ id }) => id === selection.maskId) ?? null);
const others = computed(() => cloth.value.masks.filter(({ id }) => id !== selection.maskId));
const other = computed(() => others.value.find(({ id }) => id === otherId.value) ?? others.value[0]);

const empty = () => new Uint8Array(count.value);

function fromSelection(): Uint8Array {
  const values = new Uint8Array(count.value);
  for (const point of selection.points) values[point] = 255;
  return values;
}

/** Around the middle of the selection, as far as it reaches. */
function round(): Uint8Array {
  const places = shownPlaces();
  const points = selection.points.length > 0 ? selection.points : [...Array(count.value).keys()];
  const middle = [0, 1, 2].map(
    (axis) => points.reduce((sum, point) => sum + places[point * 3 + axis]!, 0) / points.length,
  );
  const reach = Math.max(
    ...points.map((point) => Math.hypot(...[0, 1, 2].map((axis) => places[point * 3 + axis]! - middle[axis]!))),
  );
  return roundMask(places, middle, reach || 0.1);
}

function values(): Uint8Array<ArrayBuffer> {
  const read = readMask(mask.value!);
  const all = new Uint8Array(count.value);
  all.set(read.subarray(0, all.length));
  return all;
}

/** Sets what is selected, or everything, to the brush's value. */
function fill(): void {
  const all = values();
  const points = selection.points.length > 0 ? selection.points : [...all.keys()];
  for (const point of points) all[point] = Math.round(selection.brush.value * 255);
  setMask(mask.value!.id, `Fill ${mask.value!.name}`, all);
}

function rename(event: Event): void {
  const input = event.target as HTMLInputElement;
  const [name, id] = [input.value.trim(), mask.value!.id];
  if (name !== '') change('Rename mask', (found) => found.masks.forEach((one) => one.id === id && (one.name = name)));
}
</script>

<template>
  <div class="section">
    <h2 class="grow">Masks</h2>
    <span class="small">how much, point by point</span>
  </div>
  <button
    v-for="one in cloth.masks"
    :key="one.id"
    type="button"
    class="row"
    :aria-current="one.id === selection.maskId"
    @click="selection.maskId = one.id === selection.maskId ? null : one.id"
  >
    <span class="swatch" />
    <span class="grow cut">{{ one.name }}</span>
  </button>
  <div class="choices">
    <button type="button" class="choice" @click="addMask('Painted', empty())">Empty</button>
    <button
      type="button"
      class="choice"
      :disabled="!selection.points.length"
      @click="addMask('Selection', fromSelection())"
    >
      From the selection
    </button>
    <button type="button" class="choice" @click="addMask('Ramp', rampMask(mesh, 'u', 1, 0))">Ramp, width</button>
    <button type="button" class="choice" @click="addMask('Ramp', rampMask(mesh, 'v', 1, 0))">Ramp, height</button>
    <button type="button" class="choice" title="Around the middle of the selection" @click="addMask('Round', round())">
      Round
    </button>
    <button type="button" class="choice" @click="addMask('Noise', noiseMask(mesh, noiseSize, seed++))">Noise</button>
  </div>
  <FoldSection title="Noise" :note="`seed ${seed}`">
    <QuantityField :quantity="NOISE" :model-value="noiseSize" @change="noiseSize = $event" />
  </FoldSection>
  <template v-if="mask">
    <div class="section">
      <input
        class="text-input grow"
        type="text"
        aria-label="Name of the mask"
        maxlength="120"
        :value="mask.name"
        @change="rename"
        @keydown.stop
      />
      <button type="button" class="icon-button" title="Delete this mask (undoable)" @click="removeMask(mask.id)">
        <Trash2 :size="16" :stroke-width="1.5" />
      </button>
    </div>
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
        @click="selection.brush = { ...selection.brush, mode }"
      >
        {{ mode }}
      </button>
    </div>
    <QuantityField
      :quantity="RADIUS"
      :model-value="selection.brush.radius"
      @change="selection.brush = { ...selection.brush, radius: $event }"
    />
    <QuantityField
      :quantity="STRENGTH"
      :model-value="selection.brush.strength"
      @change="selection.brush = { ...selection.brush, strength: $event }"
    />
    <QuantityField
      :quantity="FALLOFF"
      :model-value="selection.brush.falloff"
      @change="selection.brush = { ...selection.brush, falloff: $event }"
    />
    <QuantityField
      :quantity="VALUE"
      :model-value="selection.brush.value"
      @change="selection.brush = { ...selection.brush, value: $event }"
    />
    <div class="choices">
      <button type="button" class="choice" @click="fill">
        {{ selection.points.length ? 'Fill the selection' : 'Fill all' }}
      </button>
      <button
        type="button"
        class="choice"
        @click="
          setMask(
            mask.id,
            `Invert ${mask.name}`,
            values().map((v) => 255 - v),
          )
        "
      >
        Invert
      </button>
      <button type="button" class="choice" @click="setMask(mask.id, `Blur ${mask.name}`, blurMask(mesh, values(), 3))">
        Blur
      </button>
    </div>
    <div v-if="other" class="choices combine">
      <select v-model="how" class="select" aria-label="How masks are combined" @keydown.stop>
        <option v-for="one in COMBINATIONS" :key="one.id" :value="one.id">{{ one.label }}</option>
      </select>
      <select
        class="select"
        aria-label="Mask to combine with"
        :value="other.id"
        @change="otherId = ($event.target as HTMLSelectElement).value"
        @keydown.stop
      >
        <option v-for="one in others" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <button
        type="button"
        class="choice"
        @click="setMask(mask.id, `Combine ${mask.name}`, combineMasks(values(), readMask(other), how))"
      >
        Combine
      </button>
    </div>
  </template>
</template>

<style scoped>
.with-icon {
  display: flex;
  align-items: center;
  gap: 4px;
}
.swatch {
  width: 16px;
  height: 8px;
  border-radius: 2px;
  background: linear-gradient(90deg, var(--linen-2), var(--indigo));
}
.combine .select {
  max-width: 100px;
}
</style>
