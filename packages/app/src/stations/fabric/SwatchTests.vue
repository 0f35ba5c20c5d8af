<script setup lang="ts">
import {
  DISC_RADIUS,
  findCard,
  formatQuantity,
  PEDESTAL_RADIUS,
  type BendTest,
  type Cloth,
  type DrapeTest,
  type StretchTest,
} from '@lumbra/core';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { errorText, useNoticeStore } from '../../stores/notice';
import { swatchHost } from '../../workers/hosts';
import MeasuredFields from './MeasuredFields.vue';

// The three tests of the selected cloth's fabric: a number, a picture, and what the physics predicts beside it.

const props = defineProps<{ cloth: Cloth }>();
const notice = useNoticeStore();
const running = ref(false);
const drape = shallowRef<DrapeTest | null>(null);
const bend = shallowRef<{ warp: BendTest; weft: BendTest } | null>(null);
const stretch = shallowRef<{ warp: StretchTest; weft: StretchTest } | null>(null);
const range = computed(() => (props.cloth.card ? findCard(props.cloth.card)?.drapeRange : undefined));
const key = computed(() => JSON.stringify(props.cloth.fabric));

// Results are of one fabric only.
watch(key, () => {
  drape.value = bend.value = stretch.value = null;
});

/** After a fit: what drapes now is the fabric as it is. */
async function takeOver(test: DrapeTest): Promise<void> {
  await nextTick();
  drape.value = test;
}

async function run(): Promise<void> {
  running.value = true;
  const [tested, fabric] = [key.value, { ...props.cloth.fabric }];
  const fresh = () => tested === key.value;
  try {
    const first = await swatchHost.call((api) => api.drape(fabric));
    if (fresh()) drape.value = first;
    const second = await swatchHost.call((api) => api.bend(fabric));
    if (fresh()) bend.value = second;
    const third = await swatchHost.call((api) => api.stretch(fabric));
    if (fresh()) stretch.value = third;
  } catch (error) {
    notice.problem(`The swatch could not be tested: ${errorText(error)} The fabric is as it was.`);
  } finally {
    running.value = false;
  }
}

const millimetres = (m: number) => formatQuantity(m, 'mm', 3);
const percent = (share: number, figures = 3) => formatQuantity(share, '%', figures);
const path = (places: readonly (readonly [number, number])[]) =>
  places.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${(x * 1000).toFixed(2)} ${(y * 1000).toFixed(2)}`).join('');
const downwards = (places: readonly [number, number][]) => path(places.map(([x, y]) => [x, -y] as const));
/** A square around the strip, in mm. */
const bendBox = computed(() => {
  const size = (bend.value?.warp.length ?? 0.05) * 1000;
  return `${-0.15 * size} ${-0.2 * size} ${1.25 * size} ${1.25 * size}`;
});
</script>

<template>
  <div class="choices">
    <button type="button" class="choice" :disabled="running" @click="run">
      {{ running ? 'Testing a swatch' : drape ? 'Test again' : 'Test a swatch' }}
    </button>
  </div>
  <p v-if="!drape && !running" class="small note">
    Drapes a disc, hangs a strip over an edge and loads another. Takes a few seconds.
  </p>
  <figure v-if="drape" data-testid="drape-test">
    <svg viewBox="-160 -160 320 320" role="img" aria-label="The draped disc from above">
      <circle :r="DISC_RADIUS * 1000" class="flat" />
      <path :d="`${path(drape.outline)}Z`" class="cloth" />
      <circle :r="PEDESTAL_RADIUS * 1000" class="pedestal" />
    </svg>
    <figcaption>
      <b>Drape {{ percent(drape.coefficient) }} %</b>
      <span class="small">{{ drape.folds }} folds{{ drape.atRest ? '' : ', not quite at rest' }}</span>
      <span v-if="range" class="small"> such cloth: {{ percent(range[0]) }} to {{ percent(range[1]) }} % </span>
    </figcaption>
  </figure>
  <figure v-if="bend" data-testid="bend-test">
    <svg :viewBox="bendBox" role="img" aria-label="The hanging strip from the side, and as predicted">
      <path :d="`M${-200} 0H0`" class="clamp" />
      <path :d="downwards(bend.warp.predictedSilhouette)" class="predicted" />
      <path :d="downwards(bend.warp.silhouette)" class="strip" />
    </svg>
    <figcaption>
      <b>Bend {{ millimetres(bend.warp.bendingLength) }} × {{ millimetres(bend.weft.bendingLength) }} mm</b>
      <span class="small">bending length, warp × weft</span>
      <span class="small">
        predicted {{ millimetres(bend.warp.predictedLength) }} × {{ millimetres(bend.weft.predictedLength) }} mm
      </span>
    </figcaption>
  </figure>
  <figure v-if="stretch" data-testid="stretch-test">
    <svg viewBox="-60 -10 120 120" role="img" aria-label="The loaded strip, its extension drawn ten times">
      <path d="M-40 0H40" class="clamp" />
      <rect x="-26" y="0" width="20" :height="60 * (1 + 10 * stretch.warp.extension)" class="cloth" />
      <rect x="6" y="0" width="20" :height="60 * (1 + 10 * stretch.weft.extension)" class="cloth" />
      <path d="M-40 60H40" class="flat" />
    </svg>
    <figcaption>
      <b>Stretch {{ percent(stretch.warp.extension) }} × {{ percent(stretch.weft.extension) }} %</b>
      <span class="small">at {{ stretch.warp.load }} N/m, drawn ten times</span>
      <span class="small"
        >predicted {{ percent(stretch.warp.predicted) }} × {{ percent(stretch.weft.predicted) }} %</span
      >
    </figcaption>
  </figure>
  <MeasuredFields :cloth="cloth" :drape="drape" @fitted="takeOver" />
</template>

<style scoped>
figure {
  display: grid;
  grid-template-columns: 80px 1fr;
  gap: 12px;
  align-items: center;
  margin: 8px 0 0 16px;
}
svg {
  width: 80px;
  height: 80px;
  background: var(--linen-0);
  border-radius: 3px;
}
figcaption {
  display: flex;
  flex-direction: column;
  gap: 2px;
}
b {
  font-weight: 600;
}
.note {
  margin: 4px 0 0 16px;
}
path,
circle,
rect {
  fill: none;
  vector-effect: non-scaling-stroke;
}
.flat,
.predicted {
  stroke: var(--ink-6);
  stroke-dasharray: 4 3;
}
.cloth {
  fill: color-mix(in srgb, var(--woad) 25%, transparent);
  stroke: var(--woad);
  stroke-width: 1.5px;
}
.strip {
  stroke: var(--woad);
  stroke-width: 2px;
}
.pedestal,
.clamp {
  stroke: var(--ink-9);
  stroke-width: 1.5px;
}
</style>
