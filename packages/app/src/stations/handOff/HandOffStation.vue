<script setup lang="ts">
import { activeCloths, CACHE_FORMATS, HAND_UNITS } from '@lumbra/core';
import { storeToRefs } from 'pinia';
import { computed, defineAsyncComponent, ref } from 'vue';
import { canChooseFolder, REPORT_FILES, useHandOff } from '../../acts/useHandOff';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import { vTip } from '../../fields/tip';
import FoldSection from '../../fields/FoldSection.vue';
import InlineNumber from '../../fields/InlineNumber.vue';
import PickLine from '../../fields/PickLine.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { PICTURE_SIZES, useHandingStore } from '../../stores/handing';
import { useThemeStore } from '../../stores/theme';
import { takeName, useTakesStore } from '../../stores/takes';
import { PICTURE_FORMATS } from '../../workers/pictures';
import StationPanel from '../StationPanel.vue';
import CompareCache from './CompareCache.vue';
import { usePictures } from './usePictures';
import { useProblemPictures } from './useProblemPictures';

const UNITS = HAND_UNITS.map((id) => ({ id, label: id }));
const UPS = [
  { id: 'y' as const, label: 'y up' },
  { id: 'z' as const, label: 'z up' },
];

const ReportDialog = defineAsyncComponent(() => import('./ReportDialog.vue'));

const document = useDocumentStore();
const theme = useThemeStore();
const takes = useTakesStore();
const handing = useHandingStore();
const { options, withThings, apart, into } = storeToRefs(handing);
const hand = useHandOff(useProblemPictures());
const { picture, pictures } = usePictures(hand);
const { compare, working, stop, finished, canFinish, range, take, frame, drawing, shotFile, report, reportHere } = hand;
const formats = CACHE_FORMATS.map(({ id, label }) => ({ id, name: label }));
const format = computed(() => CACHE_FORMATS.find(({ id }) => id === handing.format)!);
const films = PICTURE_FORMATS.filter(({ works }) => works());
const patterns = computed(() =>
  document.shot!.things.flatMap((thing) => (thing.role === 'cloth' && thing.shape.kind === 'pattern' ? [thing] : [])),
);
/** How many frames would be written. */
const frames = computed(() => Math.floor((shownRange.value.last - shownRange.value.first) / handing.options.step) + 1);
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
/** Its pictures take a moment. */
const making = ref(false);
async function read(): Promise<void> {
  making.value = true;
  try {
    page.value = await reportHere(theme.evening);
    reading.value = true;
  } finally {
    making.value = false;
  }
}
/** Whether there is more than one thing to write. */
const hasMany = computed(() => activeCloths(document.shot!).length > 1 || (hasThings.value && withThings.value));
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
    <TickLine v-if="hasMany" :ticked="apart" @toggle="apart = !apart">each in a file of its own</TickLine>
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
    <PickLine label="Format" :model-value="handing.format" :options="formats" @pick="handing.format = $event" />
    <p class="small line">{{ format.note }}</p>
    <p v-if="hasBake && format.mostFrames && frames > format.mostFrames" class="small line problem">
      {{ frames }} frames: beyond {{ format.mostFrames }} many programs will not show it. Choose USD, or fewer frames.
    </p>
    <button type="button" class="secondary file" :disabled="busy" @click="frame(format)">
      {{ format.id.toUpperCase() }} of this frame<span class="small">as it is shown</span>
    </button>
    <CompareCache v-if="hasBake" :disabled="busy" :compare="compare" />
    <p v-if="!hasBake" class="small line">Bake the range at Run first; then the whole motion can be written.</p>
    <div class="rule" />
    <div class="section">
      <h2 class="grow">Pictures</h2>
      <span class="small">of the view</span>
    </div>
    <PickLine
      label="Picture size"
      :model-value="handing.pictureSize"
      :options="PICTURE_SIZES"
      @pick="handing.pictureSize = $event"
    />
    <div class="frames films">
      <button type="button" class="secondary" :disabled="busy" @click="picture">One PNG</button>
      <button
        v-for="film in films"
        :key="film.id"
        type="button"
        class="secondary"
        :disabled="busy || !hasBake"
        @click="pictures(film)"
      >
        {{ film.label }}
      </button>
    </div>
    <template v-if="hasBake">
      <div class="rule" />
      <div class="section">
        <h2 class="grow">Bake report</h2>
        <span class="small">what was promised and kept</span>
      </div>
      <div class="frames reports">
        <button
          type="button"
          class="secondary"
          :disabled="busy || making"
          :aria-label="making ? undefined : 'Read the bake report'"
          @click="read"
        >
          {{ making ? 'Making…' : 'Read' }}
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
      <h2 class="grow">The shot</h2>
      <span class="small">opens here and in the command line</span>
    </div>
    <button type="button" class="secondary file" :disabled="busy" @click="shotFile">
      Shot file<span class="small">.lumbra</span>
    </button>
    <button
      v-for="cloth in patterns"
      :key="cloth.id"
      type="button"
      class="secondary file"
      :disabled="busy"
      @click="drawing(cloth)"
    >
      <span v-tip:cut="cloth.name" class="cut">Pattern of {{ cloth.name }}</span
      ><span class="small">.svg, in true size</span>
    </button>
    <template #action>
      <template v-if="working">
        <p class="small writing" role="status">
          <span v-tip:cut="working.name" class="cut"
            >{{ working.reads ? 'Comparing' : 'Writing' }} {{ working.name }}…</span
          >
          <span v-if="working.share !== null">{{ writingNote }}</span>
        </p>
        <button type="button" class="secondary" @click="stop">
          Stop {{ working.reads ? 'comparing' : 'writing' }}
        </button>
      </template>
      <button v-else type="button" class="primary" :disabled="!hasBake || busy" @click="take(format)">
        Write {{ format.label }}
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
  grid-template-columns: repeat(4, 1fr);
  gap: 4px;
  margin-top: 8px;
}
.films {
  grid-template-columns: repeat(3, 1fr);
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
