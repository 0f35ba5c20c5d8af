<script setup lang="ts">
import {
  activeAir,
  AIR_KIND_NAMES,
  AIR_KINDS,
  carrierOf,
  carrySchema,
  formatQuantity,
  type AirThing,
  type Shot,
} from '@lumbra/core';
import { ElSwitch } from 'element-plus';
import 'element-plus/es/components/switch/style/css';
import { computed } from 'vue';
import { useAirActs } from '../../acts/useAirActs';
import FoldSection from '../../fields/FoldSection.vue';
import KeyedField from '../../fields/KeyedField.vue';
import SelectBox from '../../fields/SelectBox.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import TickLine from '../../fields/TickLine.vue';
import { vTip } from '../../fields/tip';
import { useDocumentStore } from '../../session/document';
import { usePressureStore } from '../../stores/pressure';
import { useSelectionStore } from '../../stores/selection';
import RunAction from '../RunAction.vue';
import StationPanel from '../StationPanel.vue';
import AirFields from './AirFields.vue';

const document = useDocumentStore();
const selection = useSelectionStore();
const acts = useAirActs();
const pressure = usePressureStore();

const gravity = computed(() => document.shot?.gravity);
const all = computed(() => (document.shot?.things ?? []).filter((thing): thing is AirThing => thing.role === 'air'));
/** The air that is worked on: the selected one, else the first. */
const thing = computed(() => all.value.find(({ id }) => id === selection.thingId) ?? all.value[0]);
const blows = computed(() => (document.shot ? activeAir(document.shot).length > 0 : false));
/** The cloth whose carry-over is set. */
const cloth = computed(() => selection.cloth);
const carrierText = computed(() => {
  const carrier = cloth.value && document.shot ? carrierOf(document.shot, cloth.value) : null;
  return carrier
    ? `It is carried by ${carrier.name}.`
    : 'Nothing carries it: let it ride something at the Stage, or its pins at Hold.';
});
const carryNote = computed(() => {
  const { carry, keys } = cloth.value ?? {};
  if (!carry || (carry.share === 1 && carry.sway === 0 && !keys?.some(({ number }) => number.startsWith('carry.'))))
    return '';
  return `${formatQuantity(carry.share, '%')} %${carry.sway > 0 ? ', sways' : ''}`;
});
function findCarry(draft: Shot): object | undefined {
  const found = draft.things.find(({ id }) => id === cloth.value?.id);
  return found?.role === 'cloth' ? found.carry : undefined;
}
const leans = computed(
  () =>
    gravity.value?.lean !== 0 ||
    (document.shot?.keys.some(({ number }) => number === 'gravity.lean' || number === 'gravity.towards') ?? false),
);
</script>

<template>
  <StationPanel title="Air" help="What pulls and pushes the cloth.">
    <template v-if="document.shot && gravity">
      <div class="section">
        <h2 class="grow">Gravity</h2>
        <ElSwitch
          :model-value="gravity.enabled"
          aria-label="Gravity on"
          size="small"
          @update:model-value="acts.turnGravity($event as boolean)"
        />
      </div>
      <template v-if="gravity.enabled">
        <KeyedField :thing="null" number="gravity.strength" label="Strength" subject="Gravity" />
        <FoldSection title="Direction" :note="leans ? 'leans' : 'straight down'" :open="leans">
          <KeyedField :thing="null" number="gravity.lean" subject="Gravity" />
          <KeyedField :thing="null" number="gravity.towards" subject="Gravity" />
        </FoldSection>
      </template>
      <p v-else class="small">Off: nothing falls.</p>
      <div class="rule" />
      <div class="section"><h2 class="grow">Air that moves</h2></div>
      <div class="choices">
        <button
          v-for="kind in AIR_KIND_NAMES"
          :key="kind"
          v-tip="AIR_KINDS[kind].help"
          type="button"
          class="choice"
          @click="acts.add(kind)"
        >
          {{ AIR_KINDS[kind].label }}
        </button>
      </div>
      <p v-if="all.length === 0" class="small">
        Still air. It slows falling cloth all the same. Add what blows or draws.
      </p>
      <template v-else-if="thing">
        <div v-if="all.length > 1" class="section">
          <SelectBox
            class="grow"
            label="Which air"
            :model-value="thing.id"
            :options="all"
            @pick="selection.select($event)"
          />
        </div>
        <AirFields :key="thing.id" :thing="thing" />
        <p v-if="!blows" class="small">All of it is switched off: still air.</p>
      </template>
    </template>
    <TickLine v-if="document.shot && cloth" :ticked="pressure.on" @toggle="pressure.on = !pressure.on">
      colour cloth by the pressure on it
    </TickLine>
    <FoldSection
      v-if="document.shot && cloth"
      :title="`Carry-over of ${cloth.name}`"
      :note="carryNote"
      :open="carryNote !== ''"
    >
      <KeyedField :thing="cloth.id" number="carry.share" :subject="cloth.name" />
      <p class="small">{{ carrierText }}</p>
      <KeyedField :thing="cloth.id" number="carry.sway" :subject="cloth.name" />
      <ThingQuantity
        v-for="name in ['swayPeriod', 'swaySeed'] as const"
        :key="name"
        :schema="carrySchema"
        :name="name"
        :model-value="cloth.carry[name]"
        :find="findCarry"
        :subject="cloth.name"
      />
    </FoldSection>
    <template #action><RunAction label="Settle in this air" /></template>
  </StationPanel>
</template>
