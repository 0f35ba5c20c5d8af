<script setup lang="ts">
import { clipSeconds, shapeMesh, type Cloth } from '@lumbra/core';
import { computed } from 'vue';
import { useGivenActs } from '../../acts/useGivenActs';
import PickLine from '../../fields/PickLine.vue';
import { useDocumentStore } from '../../session/document';
import { bytesText } from '../../takes/words';
import { takeName, useTakesStore } from '../../stores/takes';

// Whether a cloth is simulated, or goes where a take or its animation has it.

const ANIMATION = 'animation';
const NOW = 'now';

const props = defineProps<{ cloth: Cloth }>();
const document = useDocumentStore();
const takes = useTakesStore();
const { reading, simulate, followAnimation, followTake } = useGivenActs();

const isAnimated = computed(
  () => props.cloth.motion !== null && shapeMesh(props.cloth.shape, document.assets).motion !== undefined,
);
const followable = computed(() => takes.list.filter(({ source, sum }) => source === 'bake' && sum.frames > 1));
/** Which frames it follows, and how heavy they are in the document. */
const frames = computed(() => {
  const { given } = props.cloth;
  const { motion } = document.assets.get(given?.asset ?? '') ?? {};
  const [clip] = motion?.clips ?? [];
  if (!given || !motion || !clip) return null;
  const last = given.start + Math.round(clipSeconds(clip) * document.shot!.frameRate);
  const bytes = motion.targets.reduce((sum, { byteLength }) => sum + byteLength, motion.bind.byteLength);
  return `Frames ${given.start} to ${last}, kept in the shot: ${bytesText(bytes)}.`;
});
/** What it was given from a take is in the shot: the take itself may be gone, or be another one by now. */
const current = computed(() => {
  const { given } = props.cloth;
  return given === null ? '' : given.asset === null ? ANIMATION : NOW;
});
const options = computed(() => [
  ...(current.value === NOW ? [{ id: NOW, name: `follows ${props.cloth.given!.from || 'a take'}` }] : []),
  ...(isAnimated.value ? [{ id: ANIMATION, name: 'follows its animation' }] : []),
  ...followable.value.map((take) => ({ id: take.id, name: `follows ${takeName(take)}` })),
]);

function pick(id: string): void {
  if (id === NOW) return;
  const take = followable.value.find((one) => one.id === id);
  if (take) void followTake(props.cloth, take);
  else if (id === ANIMATION) followAnimation(props.cloth);
  else simulate(props.cloth);
}
</script>

<template>
  <div v-if="options.length > 0" class="motion">
    <PickLine
      label="Motion"
      name="Motion of the cloth"
      none="simulated"
      :model-value="current"
      :options="options"
      :disabled="reading"
      @pick="pick"
    />
    <p v-if="reading" class="small told" role="status">Reading the take…</p>
    <p v-else-if="cloth.given" class="small told">
      {{ frames }} It is not computed, and nothing moves it otherwise. Other cloth meets it exactly.
    </p>
  </div>
</template>

<style scoped>
.motion {
  margin-bottom: 8px;
}
.told {
  margin: 2px 0 0 16px;
}
</style>
