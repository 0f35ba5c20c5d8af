<script setup lang="ts">
import { holdsOf, pinMotion, type Hold, type Quantity } from '@lumbra/core';
import { computed, ref } from 'vue';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import FoldSection from '../../fields/FoldSection.vue';
import PickLine from '../../fields/PickLine.vue';
import QuantityField from '../../fields/QuantityField.vue';
import SelectBox from '../../fields/SelectBox.vue';
import TickBox from '../../fields/TickBox.vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import CheckLine from '../CheckLine.vue';
import StationPanel from '../StationPanel.vue';
import GivenFields from './GivenFields.vue';
import HoldFields from './HoldFields.vue';
import MaskPanel from './MaskPanel.vue';
import SelectPoints from './SelectPoints.vue';
import { useHoldActs } from '../../acts/useHoldActs';
import { vTip } from '../../fields/tip';

const WORKS = [
  { id: 'select', label: 'Select' },
  { id: 'holds', label: 'Holds' },
  { id: 'masks', label: 'Masks' },
] as const;

const document = useDocumentStore();
const selection = useSelectionStore();
const NEAR: Quantity = {
  label: 'Within',
  help: 'All points that are so near to the thing are tied, each to its nearest place.',
  unit: 'mm',
  min: 0.0005,
  max: 10,
  default: 0.02,
  step: 0.001,
};

const { pin, tie, tieToEach, leash } = useHoldActs();
const near = ref(NEAR.default);
const chosenTarget = ref('');

const cloth = computed(() => {
  const found = selection.cloth;
  return found && !(found.shape.kind === 'mesh' && !document.assets.has(found.shape.asset)) ? found : null;
});
const holds = computed(() => (cloth.value ? holdsOf(cloth.value) : []));
const chosen = computed(() => holds.value.find(({ id }) => id === selection.holdId) ?? null);
const targets = computed(() =>
  (document.shot?.things ?? []).filter((thing) => thing.id !== cloth.value?.id && 'shape' in thing),
);
const target = computed(() => targets.value.find(({ id }) => id === chosenTarget.value) ?? targets.value[0]);

/** Things that are selected besides the cloth: all of them can be tied to at once. */
const selected = computed(() => {
  const ids = selection.allSelected();
  return targets.value.filter(({ id }) => ids.includes(id));
});

function facts(hold: Hold): string {
  const count = hold.points.length === 1 ? '1 point' : `${hold.points.length} points`;
  const nameOf = (id: string) => document.shot?.things.find((thing) => thing.id === id)?.name ?? 'something deleted';
  if ('to' in hold) return `${count} to ${nameOf(hold.to)}`;
  if (!('gather' in hold)) return `${count}, leash`;
  if (hold.rides === cloth.value?.id) return `${count}, its own animation`;
  if (hold.rides) return `${count} on ${nameOf(hold.rides)}`;
  return `${count}, ${{ keyed: 'keyed', moved: 'moved', stays: 'stay' }[pinMotion(cloth.value!, hold)]}`;
}
const kindOf = (hold: Hold) => ('to' in hold ? 'tie' : 'gather' in hold ? 'pins' : 'leash');
</script>

<template>
  <StationPanel title="Hold" help="Where it is held: pins, ties to other things, leashes.">
    <p v-if="!cloth" class="small empty">There is no cloth yet. Add a sheet at the Stage.</p>
    <template v-else>
      <GivenFields :key="cloth.id" :cloth="cloth" />
      <ChoiceRow
        class="work"
        label="Work at Hold"
        wide
        :model-value="selection.holdWork"
        :options="WORKS"
        @pick="selection.holdWork = $event"
      />
      <template v-if="selection.holdWork === 'select'">
        <SelectPoints :key="cloth.id" />
        <div v-if="selection.points.length" class="choices hold">
          <template v-if="target">
            <button type="button" class="choice" @click="tie(target)">Tie to</button>
            <SelectBox
              class="list"
              label="Tie to"
              :model-value="target.id"
              :options="targets"
              @pick="chosenTarget = $event"
            />
          </template>
          <button
            v-tip="'May stray only so far from where the cloth starts'"
            type="button"
            class="choice"
            @click="leash"
          >
            Leash
          </button>
        </div>
        <FoldSection v-else-if="target" title="Tie what is near" :open="selected.length > 1">
          <p v-if="selected.length > 1" class="small indented">
            Each of the {{ selected.length }} selected things gets a tie of its own.
          </p>
          <PickLine
            v-else
            label="To"
            name="Tie what is near to"
            :model-value="target.id"
            :options="targets"
            @pick="chosenTarget = $event"
          />
          <QuantityField :quantity="NEAR" :model-value="near" @change="near = $event" />
          <div class="choices indented">
            <button type="button" class="choice" @click="tieToEach(selected.length > 1 ? selected : [target], near)">
              {{ selected.length > 1 ? `Tie to ${selected.length} things` : 'Tie all within it' }}
            </button>
          </div>
        </FoldSection>
      </template>
      <template v-else-if="selection.holdWork === 'holds'">
        <div class="section">
          <h2 class="grow">Holds of {{ cloth.name }}</h2>
          <TickBox
            v-if="cloth.ties.length"
            :ticked="selection.showTies"
            @toggle="selection.showTies = !selection.showTies"
          >
            show ties
          </TickBox>
        </div>
        <p v-if="holds.length === 0" class="small">Nothing is held. Select points, then pin, tie or leash them.</p>
        <button
          v-for="hold in holds"
          :key="hold.id"
          type="button"
          class="row"
          :aria-current="hold.id === selection.holdId"
          @click="selection.holdId = hold.id"
        >
          <span class="head" :class="kindOf(hold)" />
          <span class="grow cut">{{ hold.name }}</span>
          <span class="small cut facts">{{ facts(hold) }}</span>
        </button>
        <HoldFields v-if="chosen" :key="chosen.id" :hold="chosen" />
      </template>
      <MaskPanel v-else :key="`${cloth.id}.masks`" />
    </template>
    <template #action>
      <CheckLine />
      <button type="button" class="primary" :disabled="selection.points.length === 0" @click="pin">
        {{ selection.points.length ? `Pin ${selection.points.length} points` : 'Select points to pin' }}
      </button>
    </template>
  </StationPanel>
</template>

<style scoped>
.list {
  width: 110px;
}
.work {
  margin-top: 4px;
}
.head {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--ink-9);
  flex: none;
}
.head.tie {
  border-radius: 2px;
  background: none;
  border: 2px dashed var(--ink-9);
}
.head.leash {
  background: none;
  border: 1.5px solid var(--ink-9);
}
[aria-current='true'] .head {
  border-color: var(--indigo);
}
[aria-current='true'] .head.pins {
  background: var(--indigo);
}
.facts {
  max-width: 132px;
}
.indented {
  margin-left: 16px;
}
.empty {
  margin-top: 16px;
}
</style>
