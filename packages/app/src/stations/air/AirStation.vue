<script setup lang="ts">
import { windSchema, type Shot } from '@lumbra/core';
import { ElSwitch } from 'element-plus';
import 'element-plus/es/components/switch/style/css';
import FoldSection from '../../fields/FoldSection.vue';
import KeyedField from '../../fields/KeyedField.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import { useDocumentStore } from '../../session/document';
import RunAction from '../RunAction.vue';
import StationPanel from '../StationPanel.vue';

const WIND = ['speed', 'heading', 'rise'] as const;

const document = useDocumentStore();
const findWind = (draft: Shot) => draft.wind;

function turn(what: 'gravity' | 'wind', on: boolean): void {
  document.edit(`${what === 'gravity' ? 'Gravity' : 'Wind'} ${on ? 'on' : 'off'}`, (draft) => {
    draft[what].enabled = on;
  });
}
</script>

<template>
  <StationPanel title="Air" help="What pulls and pushes the cloth.">
    <template v-if="document.shot">
      <div class="section">
        <h2 class="grow">Gravity</h2>
        <ElSwitch
          :model-value="document.shot.gravity.enabled"
          aria-label="Gravity on"
          size="small"
          @update:model-value="turn('gravity', $event as boolean)"
        />
      </div>
      <KeyedField
        v-if="document.shot.gravity.enabled"
        :thing="null"
        number="gravity.strength"
        label="Strength"
        subject="Gravity"
      />
      <p v-else class="small">Off: nothing falls.</p>
      <div class="rule" />
      <div class="section">
        <h2 class="grow">Wind</h2>
        <ElSwitch
          :model-value="document.shot.wind.enabled"
          aria-label="Wind on"
          size="small"
          @update:model-value="turn('wind', $event as boolean)"
        />
      </div>
      <template v-if="document.shot.wind.enabled">
        <KeyedField
          v-for="name in WIND"
          :key="name"
          :thing="null"
          :number="`wind.${name}`"
          :label="name === 'speed' ? 'Speed' : undefined"
          subject="Wind"
        />
        <FoldSection
          title="Gusts"
          :note="document.shot.wind.gustDepth > 0 ? 'on' : 'steady'"
          :open="document.shot.wind.gustDepth > 0"
        >
          <KeyedField :thing="null" number="wind.gustDepth" subject="Wind" />
          <ThingQuantity
            :schema="windSchema"
            name="gustPeriod"
            :model-value="document.shot.wind.gustPeriod"
            :find="findWind"
            subject="Wind"
          />
        </FoldSection>
      </template>
      <p v-else class="small">Still air. It slows falling cloth all the same.</p>
    </template>
    <template #action><RunAction label="Settle in this air" /></template>
  </StationPanel>
</template>
