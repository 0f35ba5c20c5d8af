<script setup lang="ts">
import { CACHE_FORMATS, HAND_UNITS } from '@lumbra/core';
import { storeToRefs } from 'pinia';
import { computed, defineAsyncComponent, ref } from 'vue';
import { canChooseFolder, REPORT_FILES, useHandOff } from '../../acts/useHandOff';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import { vTip } from '../../fields/tip';
import FoldSection from '../../fields/FoldSection.vue';
import InlineNumber from '../../fields/InlineNumber.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { useHandingStore } from '../../stores/handing';
import { useRunStore } from '../../stores/run';
import { useThemeStore } from '../../stores/theme';
import { takeName, useTakesStore } from '../../stores/takes';
import StationPanel from '../StationPanel.vue';

const UNITS = HAND_UNITS.map((id) => ({ id, label: id }));
const UPS = [
  { id: 'y' as const, label: 'y up' },
  { id: 'z' as const, label: 'z up' },
];

const ReportDialog = defineAsyncComponent(() => import('./ReportDialog.vue'));

const document = useDocumentStore();
const run = useRunStore();
const theme = useThemeStore();
const takes = useTakesStore();
const { options, withThings, into } = storeToRefs(useHandingStore());
const { working, stop, finished, canFinish, range, take, frame, shotFile, report, reportHere } = useHandOff();
/** The first one is the action of the panel. */
const [first, ...others] = CACHE_FORMATS;
const hasBake = computed(() => takes.account.length > 0);
const busy = computed(() => working.value !== null);
const shownRange = computed(() => ({
  first: options.value.first ?? range.value.first,
  last: options.value.last ?? range.value.last,
}));
const note = computed(() => {
  const { unit, up, step } = options.value;
  const parts = [unit, `${up} up`];
  if (hasBake.value && (options.value.first !== undefined || options.value.last !== undefined))
    parts.push(`${shownRange.value.first} to ${shownRange.value.last}`);
  if (step > 1) parts.push(`every ${step}`);
  return parts.join(', ');
});
/** How far it is, and how long it will take as things go. */
const writingNote = computed(() => {
  const { share, started } = working.value!;
  const left = ((performance.now() - started) / 1000) * (1 / share! - 1);
  return `${Math.round(share! * 100)} %, ${Math.ceil(left)} s left`;
});
/** The report that is read here. */
const page = ref<string | null>(null);
const reading = ref(false);
async function read(): Promise<void> {
  page.value = await reportHere(theme.evening);
  reading.value = true;
}
/** Whether there is more to write than cloth. */
const hasThings = computed(() => {
  return document.shot!.things.some((thing) => 'shape' in thing && thing.role !== 'cloth' && thing.visible);
});
</script>

<template>
  <StationPanel title="Hand off" help="Files for other programs.">
    <TickLine v-if="canFinish" :ticked="finished" @toggle="finished = !finished">
      with the finish list of each cloth
    </TickLine>
    <TickLine v-if="hasThings" :ticked="withThings" @toggle="withThings = !withThings">
      with the other things that are shown
    </TickLine>
    <TickLine v-if="canChooseFolder()" :ticked="into" @toggle="into = !into">
      takes go to a folder that I choose
    </TickLine>
    <FoldSection title="Unit, axis, frames" :note="note">
      <ChoiceRow label="Unit" wide :model-value="options.unit" :options="UNITS" @pick="options.unit = $event" />
      <ChoiceRow
        class="axis"
        label="Axis that points up"
        wide
        :model-value="options.up"
        :options="UPS"
        @pick="options.up = $event"
      />
      <p class="small line">GLB is always in metres with y up.</p>
      <p v-if="hasBake" class="small line">
        frames
        <InlineNumber
          label="First frame to write"
          :model-value="shownRange.first"
          :min="range.first"
          :max="shownRange.last"
          whole
          @change="options.first = $event"
        />
        to
        <InlineNumber
          label="Last frame to write"
          :model-value="shownRange.last"
          :min="shownRange.first"
          :max="range.last"
          whole
          @change="options.last = $event"
        />
        every
        <InlineNumber
          label="Every so many frames"
          :model-value="options.step"
          :min="1"
          :max="1000"
          whole
          @change="options.step = $event"
        />
      </p>
    </FoldSection>
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
      <div class="rule" />
      <div class="section">
        <h2 class="grow">Bake report</h2>
        <span class="small">what was promised and kept</span>
      </div>
      <div class="frames reports">
        <button type="button" class="secondary" :disabled="busy" aria-label="Read the bake report" @click="read">
          Read
        </button>
        <button
          v-for="as in REPORT_FILES"
          :key="as"
          type="button"
          class="secondary"
          :disabled="busy"
          :aria-label="`Bake report as ${as.toUpperCase()}`"
          @click="report(as)"
        >
          {{ as.toUpperCase() }}
        </button>
      </div>
      <ReportDialog v-if="page !== null" v-model="reading" :page="page" />
    </template>
    <div class="rule" />
    <div class="section">
      <h2 class="grow">This frame</h2>
      <span class="small">frame {{ run.frame }}, as it is shown</span>
    </div>
    <div class="frames">
      <button
        v-for="format in CACHE_FORMATS"
        :key="format.id"
        type="button"
        class="secondary"
        :disabled="busy"
        :aria-label="`${format.id.toUpperCase()} of this frame`"
        @click="frame(format)"
      >
        {{ format.id.toUpperCase() }}
      </button>
    </div>
    <div class="rule" />
    <div class="section">
      <h2 class="grow">The shot</h2>
      <span class="small">opens here and in the command line</span>
    </div>
    <button type="button" class="secondary file" :disabled="busy" @click="shotFile">
      Shot file<span class="small">.lumbra</span>
    </button>
    <template #action>
      <template v-if="working">
        <p class="small writing" role="status">
          <span v-tip:cut="working.name" class="cut">Writing {{ working.name }}…</span>
          <span v-if="working.share !== null">{{ writingNote }}</span>
        </p>
        <button type="button" class="secondary" @click="stop">Stop writing</button>
      </template>
      <button v-else type="button" class="primary" :disabled="!hasBake || busy" @click="take(first!)">
        Write {{ first!.label }}
      </button>
    </template>
  </StationPanel>
</template>

<style scoped>
.file {
  margin-top: 4px;
  justify-content: space-between;
  flex: none;
}
.axis {
  margin-top: 8px;
}
.line {
  margin-top: 8px;
}
.frames {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 4px;
  margin-top: 8px;
}
.reports {
  grid-template-columns: repeat(4, 1fr);
}
.frames .secondary {
  justify-content: center;
  padding: 0;
}
.writing {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  margin-bottom: 8px;
}
</style>
