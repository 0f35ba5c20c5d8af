<script setup lang="ts">
import type { Thing } from '@lumbra/core';
import { computed, ref } from 'vue';
import PickLine from '../../fields/PickLine.vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { useThingActs, type Alignment } from '../../acts/useThingActs';
import { vTip } from '../../fields/tip';

// Putting a thing where it belongs, and what it rides.

const props = defineProps<{ thing: Thing }>();
const document = useDocumentStore();
const selection = useSelectionStore();
const { snapToGround, lift, align, ride } = useThingActs();

const ALIGNMENTS: { id: Alignment; label: string }[] = [
  { id: 'middle to middle', label: 'Middle to middle' },
  { id: 'on top', label: 'On top of it' },
  { id: 'same place', label: 'Same place' },
  { id: 'same turn', label: 'Same turn' },
];
const others = computed(() =>
  (document.shot?.things ?? []).filter(
    (other) => other.id !== props.thing.id && !('shape' in other && other.shape.kind === 'ground'),
  ),
);
const chosen = ref('');
/** What it is aligned to: the other selected thing, else the chosen one, else the first. */
const target = computed(
  () =>
    others.value.find(({ id }) => id === (chosen.value || selection.others.at(-1))) ??
    others.value.find(({ id }) => id === selection.others.at(-1)) ??
    others.value[0],
);

/** All that is selected rides together, but what would ride itself. */
const riders = computed(() => selection.allSelected());
</script>

<template>
  <div class="choices">
    <button type="button" class="choice" @click="snapToGround(thing)">To the ground</button>
    <button v-tip="'Up, until it is clear of everything under it'" type="button" class="choice" @click="lift(thing)">
      Lift clear
    </button>
  </div>
  <template v-if="target">
    <PickLine label="Align to" :model-value="target.id" :options="others" @pick="chosen = $event" />
    <div class="choices indented">
      <button
        v-for="how in ALIGNMENTS"
        :key="how.id"
        type="button"
        class="choice"
        @click="align(thing, target, how.id)"
      >
        {{ how.label }}
      </button>
    </div>
    <PickLine
      label="Rides"
      none="nothing"
      :model-value="thing.parent ?? ''"
      :options="others"
      @pick="
        (id) =>
          ride(
            riders.filter((rider) => rider !== id),
            id || null,
          )
      "
    />
    <p v-if="thing.parent && thing.role === 'cloth'" class="small note">
      Cloth rides to its start; from then on the run moves it.
    </p>
    <p v-else-if="thing.parent" class="small note">Its place and turn are given from there.</p>
  </template>
</template>

<style scoped>
.indented {
  margin-left: 16px;
}
.note {
  margin: 4px 0 0 16px;
}
</style>
