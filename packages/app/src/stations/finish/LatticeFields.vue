<script setup lang="ts">
import {
  controlName,
  controlPlaces,
  finishNumber,
  MOST_CONTROLS,
  type Cloth,
  type Counts,
  type FinishEntry,
} from '@lumbra/core';
import { computed } from 'vue';
import { useFinishActs } from '../../acts/useFinishActs';
import InlineNumber from '../../fields/InlineNumber.vue';
import KeyedField from '../../fields/KeyedField.vue';
import PickLine from '../../fields/PickLine.vue';
import { useFinishingStore } from '../../stores/finishing';
import { useLatticeNow } from '../../stores/latticeNow';

// The points of a lattice: how many there are, which are chosen, how far they are moved.

const props = defineProps<{ cloth: Cloth; entry: FinishEntry }>();
const acts = useFinishActs();
const finishing = useFinishingStore();
const { surface } = useLatticeNow();

const AXES = ['x', 'y', 'z'] as const;
const step = computed(() => finishing.lattice?.step);
const controls = computed(() =>
  step.value ? controlPlaces(step.value.counts).map((at, i) => ({ id: String(i), name: controlName(at) })) : [],
);
const chosen = computed(() => finishing.controls.at(-1));

function setCount(axis: number, count: number): void {
  const counts = step.value!.counts.map((own, i) => (i === axis ? count : own)) as unknown as Counts;
  acts.setLatticeCounts(props.cloth, props.entry, counts);
}

function fit(): void {
  const own = surface(props.cloth);
  if (own) acts.fitLattice(props.cloth, props.entry, own.positions, own.triangles);
}
</script>

<template>
  <template v-if="step && entry.id === finishing.open">
    <p class="small line">
      <template v-for="(axis, i) in AXES" :key="axis">
        {{ i > 0 ? '×' : '' }}
        <InlineNumber
          :label="`Points along ${axis}`"
          :model-value="step.counts[i]!"
          :min="2"
          :max="MOST_CONTROLS"
          whole
          @change="setCount(i, $event)"
        />
      </template>
      points along x, y and z
    </p>
    <PickLine
      label="Point"
      none="click one in the view"
      :model-value="chosen === undefined ? '' : String(chosen)"
      :options="controls"
      @pick="(id) => (finishing.controls = id === '' ? [] : [Number(id)])"
    />
    <p v-if="finishing.controls.length > 1" class="small">
      {{ finishing.controls.length }} are chosen and move as one; these are the numbers of the last.
    </p>
    <template v-if="chosen !== undefined">
      <KeyedField
        v-for="(axis, part) in AXES"
        :key="axis"
        :thing="cloth.id"
        :number="finishNumber(entry.id, `points.${chosen * 3 + part}`)"
        :label="`Move ${axis}`"
        :subject="`${cloth.name}, lattice point ${controls[chosen]!.name}`"
      />
    </template>
    <div class="choices">
      <button type="button" class="choice" @click="acts.resetLattice(cloth, entry)">Put the points back</button>
      <button type="button" class="choice" @click="fit">Fit the box</button>
    </div>
  </template>
</template>

<style scoped>
.line {
  margin: 4px 0;
}
.choices {
  margin-bottom: 4px;
}
</style>
