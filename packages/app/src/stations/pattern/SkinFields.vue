<script setup lang="ts">
import { skinBetween, type Quantity } from '@lumbra/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { useSkinActs } from '../../acts/useSkinActs';
import QuantityField from '../../fields/QuantityField.vue';
import { useDocumentStore } from '../../session/document';
import type { SolidThing } from '../../stores/faces';
import { errorText } from '../../stores/notice';
import type { FoundRod } from '../../workers/mesh.worker';
import WorkFold from './WorkFold.vue';

// Cloth is spread between rods: hoops, ribs, battens, as things of their own or as parts of one.

const props = defineProps<{ things: readonly SolidThing[] }>();
const document = useDocumentStore();
const { rodsOf, spread } = useSkinActs();

const SHORT: Quantity = {
  label: 'Short of the ends',
  help: 'How far from the ends of the rods the panels end, as a share of their length. Rods that meet at a hinge need some.',
  ...{ unit: '%', min: 0, max: 0.45, default: 0, step: 0.01 },
};
const open = ref(false);
const rods = shallowRef<readonly FoundRod[] | null>(null);
const failed = ref('');
/** What was asked for; null as suits the rods. */
const wanted = ref<number | null>(null);
const suits = computed(() => {
  const found = rods.value;
  return found && found.length > 1 ? skinBetween(found, 0) : null;
});
const found = computed(() => {
  const count = rods.value?.length ?? 0;
  if (count === 0) return 'No rods: what is selected is not long and thin with two ends.';
  if (count === 1) return 'One rod: select another one too, with ctrl in Things.';
  const panels = suits.value!.pieces.length;
  return `${count} rods, ${panels === 1 ? 'one panel' : `${panels} panels`} between them.`;
});
let asked = 0;

watch(
  () => [open.value, props.things.map(({ id }) => id).join(), document.shot] as const,
  async ([shown]) => {
    const mine = ++asked;
    failed.value = '';
    if (!shown) return;
    try {
      const now = await rodsOf(props.things);
      if (mine === asked) rods.value = now;
    } catch (error) {
      if (mine === asked) failed.value = errorText(error);
    }
  },
);
</script>

<template>
  <WorkFold title="Spread cloth between rods" :open="open" @toggle="open = !open" />
  <template v-if="open">
    <p v-if="failed" class="small" role="status">{{ failed }}</p>
    <p v-else-if="rods" class="small" role="status">{{ found }}</p>
    <template v-if="suits">
      <QuantityField :quantity="SHORT" :model-value="wanted ?? suits.short" @change="wanted = $event" />
      <div class="choices">
        <button type="button" class="choice" @click="spread(rods!, wanted)">Make the panels</button>
      </div>
      <p class="small">
        Cut as the rods are where a run begins, sewn along them and to them; taut by rest size at Fabric.
      </p>
    </template>
  </template>
</template>
