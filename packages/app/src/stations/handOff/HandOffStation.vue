<script setup lang="ts">
import { CACHE_FORMATS } from '@lumbra/core';
import { computed } from 'vue';
import { useRunStore } from '../../stores/run';
import { takeName, useTakesStore } from '../../stores/takes';
import TickLine from '../../fields/TickLine.vue';
import StationPanel from '../StationPanel.vue';
import { useHandOff } from '../../acts/useHandOff';

const run = useRunStore();
const takes = useTakesStore();
const { working, finished, canFinish, take, objFrame, glbFrame, shotFile, report } = useHandOff();
/** The first one is the action of the panel. */
const [first, ...others] = CACHE_FORMATS;
const hasBake = computed(() => takes.account.length > 0);
const busy = computed(() => working.value !== null);
</script>

<template>
  <StationPanel title="Hand off" help="Files for other programs. Metres, y up.">
    <TickLine v-if="canFinish" :ticked="finished" @toggle="finished = !finished">
      with the finish list of each cloth
    </TickLine>
    <div class="section">
      <h2 class="grow">The take</h2>
      <span class="small">{{
        hasBake
          ? `${takeName(takes.take!)}, ${takes.account.length} frames${takes.stale ? ', stale' : ''}`
          : 'not baked yet'
      }}</span>
    </div>
    <p v-if="!hasBake" class="small">Bake the range at Run first; then the whole motion can be written.</p>
    <template v-else>
      <button
        v-for="format in others"
        :key="format.id"
        type="button"
        class="secondary file"
        :disabled="busy"
        @click="take(format)"
      >
        {{ format.label }}<span class="small">{{ format.note }}</span>
      </button>
      <button type="button" class="secondary file" :disabled="busy" @click="report">
        Bake report<span class="small">JSON</span>
      </button>
    </template>
    <div class="rule" />
    <div class="section">
      <h2 class="grow">This frame</h2>
      <span class="small">as it is shown</span>
    </div>
    <button type="button" class="secondary file" :disabled="busy" @click="objFrame">
      OBJ<span class="small">frame {{ run.frame }}</span>
    </button>
    <button type="button" class="secondary file" :disabled="busy" @click="glbFrame">
      GLB<span class="small">frame {{ run.frame }}</span>
    </button>
    <div class="rule" />
    <div class="section">
      <h2 class="grow">The shot</h2>
      <span class="small">opens here and in the command line</span>
    </div>
    <button type="button" class="secondary file" :disabled="busy" @click="shotFile">
      Shot file<span class="small">.lumbra</span>
    </button>
    <p v-if="working" class="small writing" role="status">Writing {{ working }}…</p>
    <template #action>
      <button type="button" class="primary" :disabled="!hasBake || busy" @click="take(first!)">
        Write {{ first!.label }}
      </button>
    </template>
  </StationPanel>
</template>

<style scoped>
.file {
  margin-top: 8px;
  justify-content: space-between;
  flex: none;
}
.writing {
  margin-top: 12px;
}
</style>
