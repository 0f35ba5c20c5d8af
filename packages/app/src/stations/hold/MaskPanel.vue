<script setup lang="ts">
import {
  blurMask,
  combineMasks,
  noiseMask,
  maskBytes,
  maskValues,
  pointCount,
  shapeMesh,
  type Mask,
  type MaskCombination,
  type Quantity,
  type Ramp,
} from '@lumbra/core';
import { Trash2 } from '@lucide/vue';
import { computed, ref } from 'vue';
import FoldSection from '../../fields/FoldSection.vue';
import InlineNumber from '../../fields/InlineNumber.vue';
import NameField from '../../fields/NameField.vue';
import QuantityField from '../../fields/QuantityField.vue';
import SelectBox from '../../fields/SelectBox.vue';
import { useDocumentStore } from '../../session/document';
import { useRunStore } from '../../stores/run';
import { useSelectionStore, type Tool } from '../../stores/selection';
import MaskBrush from './MaskBrush.vue';
import PictureButton from './PictureButton.vue';
import RampFields from './RampFields.vue';
import { useHoldActs } from '../../acts/useHoldActs';
import { vTip } from '../../fields/tip';

// Masks: how much, point by point. Made by ramps, noise or the selection, painted with a brush, and combined.

const NOISE: Quantity = {
  label: 'Noise size',
  help: 'How large the patches of noise are.',
  unit: 'mm',
  min: 0.002,
  max: 10,
  default: 0.15,
  step: 'ratio',
};
const RAMP_TOOLS: { id: Tool; label: string; title: string }[] = [
  { id: 'straight ramp', label: 'Draw a ramp', title: 'Drag on the cloth from where it is 100 % to where it is 0 %' },
  { id: 'round ramp', label: 'Draw a round one', title: 'Drag on the cloth from its middle to its rim' },
];
const COMBINATIONS: { id: MaskCombination; name: string }[] = [
  { id: 'multiply', name: 'multiplied by' },
  { id: 'largest', name: 'or' },
  { id: 'smallest', name: 'and' },
  { id: 'take away', name: 'without' },
];

const document = useDocumentStore();
const selection = useSelectionStore();
const run = useRunStore();
const { addMask, setMask, deleteMask, change } = useHoldActs();
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

/** A mask at this frame, a byte a point. */
const bytesOf = (one: Mask) => maskBytes(maskValues(cloth.value, one, mesh.value, run.shownFrame));
const values = () => bytesOf(mask.value!);

/** A ramp over the whole fabric, from its beginning to a corner. */
function rampTo(to: [number, number]): Ramp {
  return { kind: 'straight', from: [0, 0], to, waves: false, inverted: false, phase: 0 };
}

/** The next drag on the cloth makes a new ramp. */
function drawRamp(tool: Tool): void {
  const waits = selection.tool === tool && selection.maskId === null;
  selection.maskId = null;
  selection.tool = waits ? 'look' : tool;
}

function takePicture({ name, values: shares }: { name: string; values: Float32Array }): void {
  addMask(name, maskBytes(shares));
}

/** Sets what is selected, or everything, to the brush's value. */
function fill(): void {
  const all = values();
  const points = selection.points.length > 0 ? selection.points : [...all.keys()];
  for (const point of points) all[point] = Math.round(selection.brush.value * 255);
  setMask(mask.value!.id, `Fill ${mask.value!.name}`, all);
}

function rename(id: string, name: string): void {
  change('Rename mask', (found) => found.masks.forEach((one) => one.id === id && (one.name = name)));
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
  <template v-if="mask">
    <div class="section">
      <NameField
        :key="mask.id"
        class="text-input grow"
        label="Name of the mask"
        :model-value="mask.name"
        @change="rename(mask.id, $event)"
      />
      <button v-tip="'Delete this mask (undoable)'" type="button" class="icon-button" @click="deleteMask(mask.id)">
        <Trash2 :size="16" :stroke-width="1.5" />
      </button>
    </div>
    <template v-if="mask.ramp">
      <RampFields :mask="mask" :ramp="mask.ramp" />
      <div class="choices">
        <button
          v-tip="'Keeps it as it is at this frame, to be painted on; its phase can then no longer be keyed'"
          type="button"
          class="choice"
          @click="setMask(mask.id, `Paint on ${mask.name}`, values())"
        >
          Make it a painted mask
        </button>
      </div>
    </template>
    <template v-else>
      <MaskBrush />
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
        <button
          type="button"
          class="choice"
          @click="setMask(mask.id, `Blur ${mask.name}`, blurMask(mesh, values(), 3))"
        >
          Blur
        </button>
      </div>
      <div v-if="other" class="choices combine">
        <SelectBox
          class="list"
          label="How masks are combined"
          :model-value="how"
          :options="COMBINATIONS"
          @pick="how = $event as MaskCombination"
        />
        <SelectBox
          class="list"
          label="Mask to combine with"
          :model-value="other.id"
          :options="others"
          @pick="otherId = $event"
        />
        <button
          type="button"
          class="choice"
          @click="setMask(mask.id, `Combine ${mask.name}`, combineMasks(values(), bytesOf(other), how))"
        >
          Combine
        </button>
      </div>
    </template>
  </template>
  <p class="small new">New mask</p>
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
    <button type="button" class="choice" @click="addMask('Ramp', rampTo([1, 0]))">Ramp, width</button>
    <button type="button" class="choice" @click="addMask('Ramp', rampTo([0, 1]))">Ramp, height</button>
    <button
      v-for="tool in RAMP_TOOLS"
      :key="tool.id"
      v-tip="tool.title"
      type="button"
      class="choice"
      :aria-pressed="selection.tool === tool.id && !mask"
      @click="drawRamp(tool.id)"
    >
      {{ tool.label }}
    </button>
    <button type="button" class="choice" @click="addMask('Noise', noiseMask(mesh, noiseSize, seed++))">Noise</button>
    <PictureButton label="Picture" title="Lay a picture on the cloth: white is 100 %, black 0 %" @read="takePicture" />
  </div>
  <FoldSection title="Noise" :note="`seed ${seed}`">
    <QuantityField :quantity="NOISE" :model-value="noiseSize" @change="noiseSize = $event" />
    <p class="small seed">
      The next one grows from seed
      <InlineNumber label="Seed" :model-value="seed" :min="1" :max="9999" whole @change="seed = $event" />
    </p>
  </FoldSection>
</template>

<style scoped>
.new {
  margin-top: 12px;
}
.seed {
  padding-left: 16px;
}
.swatch {
  width: 16px;
  height: 8px;
  border-radius: 2px;
  background: linear-gradient(90deg, var(--linen-2), var(--indigo));
}
.combine .list {
  width: 92px;
}
</style>
