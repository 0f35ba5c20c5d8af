<script setup lang="ts">
import {
  activeAir,
  AIR_KINDS,
  airNumbersAt,
  formatQuantity,
  gravityAt,
  holdsOf,
  length,
  meshAt,
  meshBounds,
  quantitiesOf,
  size,
} from '@lumbra/core';
import { computed } from 'vue';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import InlineNumber from '../../fields/InlineNumber.vue';
import TickBox from '../../fields/TickBox.vue';
import { useDocumentStore } from '../../session/document';
import { usePressureStore } from '../../stores/pressure';
import { useCueWhereStore } from '../../stores/cueWhere';
import { usePictureStore } from '../../stores/picture';
import { useRunStore } from '../../stores/run';
import { takeName, useTakesStore } from '../../stores/takes';
import { useSelectionStore, type ViewMode } from '../../stores/selection';
import { STRETCH_LIMIT, stretchSteps } from '../../viewport/stretchColours';
import { vTip } from '../../fields/tip';

// What stands around the picture: how it is drawn, the size of the selection, and what acts on the cloth.

const MODES: { id: ViewMode; label: string }[] = [
  { id: 'print', label: 'Print' },
  { id: 'stretch', label: 'Stretch' },
  { id: 'mesh', label: 'Mesh' },
];

const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();
const selection = useSelectionStore();
const where = useCueWhereStore();
const pressure = usePressureStore();
const picture = usePictureStore();

/** The pin set that the arrow keys nudge. */
const nudged = computed(() =>
  selection.station === 'hold' ? selection.cloth?.pinSets.find(({ id }) => id === selection.holdId) : undefined,
);
const steps = stretchSteps();
/** The hold whose release is shown in colour. */
const released = computed(() => {
  if (selection.station !== 'hold' || selection.holdWork !== 'holds' || !selection.cloth) return undefined;
  return holdsOf(selection.cloth).find(({ id, release }) => id === selection.holdId && release !== null)?.name;
});
/** The cue of which is shown where it has happened. */
const cued = computed(() => (where.shown ? selection.cloth?.cues.find(({ id }) => id === where.cue)?.name : undefined));
const shownMask = computed(() =>
  selection.station === 'hold' && !released.value
    ? selection.cloth?.masks.find(({ id }) => id === selection.maskId)
    : undefined,
);
const limit = `${formatQuantity(STRETCH_LIMIT, '%')} %`;
const selectedSize = computed(() => {
  const thing = selection.thing ?? selection.cloth;
  if (!thing || !('shape' in thing) || thing.shape.kind === 'ground') return null;
  if (thing.shape.kind === 'mesh' && !document.assets.has(thing.shape.asset)) return null;
  const box = meshBounds(meshAt(thing, document.assets, run.shownFrame));
  if (!box) return null;
  const sides = size(box).filter((side) => side > 1e-6);
  return { name: thing.name, text: sides.map((side) => formatQuantity(side, 'm')).join(' × ') + ' m' };
});
/** Gravity at the frame that is shown. */
const gravity = computed(() => {
  const { shot } = document;
  if (!shot?.gravity.enabled) return 'off';
  const now = gravityAt(shot, run.shownFrame);
  const leans = Math.abs(now[0]) + Math.abs(now[2]) > 1e-9;
  return `${formatQuantity(length(now), 'm/s²')} m/s² ${leans ? 'leaning' : '↓'}`;
});
/** What moves or draws, by the number that its kind begins with; no more than there is room for. */
const airs = computed(() => {
  const { shot } = document;
  const all = shot ? activeAir(shot) : [];
  if (all.length > 2) return [{ name: 'Air', text: `${all.length} at work` }];
  return all.map((thing) => {
    const [number, quantity] = Object.entries(quantitiesOf(AIR_KINDS[thing.air.kind].schema))[0]!;
    const value = airNumbersAt(thing, run.shownFrame)[number]!;
    return { name: thing.name, text: `${formatQuantity(value, quantity.unit, 3)} ${quantity.unit}` };
  });
});
/** How long the live run has run. */
const liveSeconds = computed(() => {
  const shot = document.shot;
  return shot && run.pose ? (run.pose.frame - shot.firstFrame + shot.preRoll) / shot.frameRate : 0;
});
/** The take that a shown still is. */
const still = computed(() => takes.list.find(({ id }) => id === run.pose?.still));
const poseText = computed(() => {
  if (run.status === 'settling') return 'Settling';
  if (run.status === 'live') return run.pose ? `Live, ${liveSeconds.value.toFixed(1)} s` : 'Live';
  if (run.pose?.source === 'still') return still.value ? takeName(still.value) : 'Still';
  if (run.pose?.source === 'settle') return run.settle?.atRest ? 'Settled' : 'Settle stopped';
  return run.pose ? 'Live, stopped' : null;
});
</script>

<template>
  <div class="plate modes">
    <ChoiceRow label="View" :model-value="selection.viewMode" :options="MODES" @pick="selection.viewMode = $event" />
    <TickBox
      v-tip="'Fewer pixels and no shadows, for a machine that draws slowly'"
      :ticked="picture.quick"
      @toggle="picture.quick = !picture.quick"
      >Quick</TickBox
    >
  </div>
  <div v-if="poseText" class="plate pose" data-testid="pose">
    <span>{{ poseText }}</span>
    <button v-if="!run.busy" type="button" class="link" @click="run.startFromPose()">
      Start the shot from this pose
    </button>
    <button v-if="run.canKeepStill && !run.busy" type="button" class="link" @click="run.keepStill()">Keep it</button>
    <button v-if="!run.busy" type="button" class="link" @click="run.leavePose()">Back to the timeline</button>
  </div>
  <div v-if="run.status === 'live'" class="plate hands" data-testid="hands">
    <span
      >drag cloth to pull it, within
      <InlineNumber
        label="Grip radius, mm"
        :model-value="Math.round(selection.gripRadius * 1000)"
        :min="5"
        :max="2000"
        whole
        @change="selection.gripRadius = $event / 1000"
      />
      mm</span
    >
    <span v-if="nudged"
      >arrows nudge {{ nudged.name }} by
      <InlineNumber
        label="Nudge, mm"
        :model-value="Math.round(selection.nudge * 1000)"
        :min="1"
        :max="500"
        whole
        @change="selection.nudge = $event / 1000"
      />
      mm, comma and full stop gather it</span
    >
    <button v-tip="'P'" type="button" class="link" @click="run.setCheckpoint()">Set a checkpoint</button>
    <button v-tip="'Keep the cloth as it is now as a still'" type="button" class="link" @click="run.keepStill()">
      Keep it as a still
    </button>
    <button v-tip="'shift+P'" type="button" class="link" @click="run.toCheckpoint()">
      Back to {{ formatQuantity(run.checkpoints.at(-1) ?? 0, 's', 3) }} s
    </button>
    <button v-if="run.checkpoints.length > 1" type="button" class="link" @click="run.toCheckpoint(true)">
      one further
    </button>
  </div>
  <div v-if="shownMask" class="plate legend" data-testid="mask-legend">
    <div>
      <b>{{ shownMask.name }}</b><span>mask</span>
    </div>
    <div class="ramp" />
    <div><span>0 %</span><span>50</span><span>100 %</span></div>
  </div>
  <div v-else-if="released" class="plate legend" data-testid="release-legend">
    <div>
      <b>{{ released }}</b><span>free from frame</span>
    </div>
    <div class="ramp" />
    <div>
      <span>{{ document.shot!.firstFrame }}</span><span>{{ document.shot!.lastFrame }}, or never</span>
    </div>
  </div>
  <div v-else-if="cued" class="plate legend" data-testid="cue-legend">
    <div>
      <b>{{ cued }}</b><span>by frame {{ run.shownFrame }}</span>
    </div>
    <div class="ramp" />
    <div><span>not here</span><span>has happened</span></div>
  </div>
  <div v-else-if="pressure.found.size > 0" class="plate legend" data-testid="pressure-legend">
    <div><b>Pressure of the air</b><span>Pa</span></div>
    <div class="ramp" />
    <div>
      <span>0</span><span>{{ formatQuantity(pressure.most, 'Pa', 2) }}</span>
    </div>
  </div>
  <div v-else-if="selection.viewMode === 'stretch'" class="plate legend">
    <div><b>Stretch</b><span>of the wanted size</span></div>
    <div class="steps"><i v-for="step in steps" :key="step" :style="{ background: step }" /></div>
    <div>
      <span>−{{ limit }}</span
      ><span>0</span><span>+{{ limit }}</span>
    </div>
  </div>
  <div class="plate facts">
    <span v-if="selectedSize"
      ><i>{{ selectedSize.name }}</i
      >{{ selectedSize.text }}</span
    >
    <span><i>Gravity</i>{{ gravity }}</span>
    <span v-for="{ name, text } in airs" :key="name" class="cut"
      ><i>{{ name }}</i
      >{{ text }}</span
    >
    <span v-if="airs.length === 0"><i>Still air</i></span>
  </div>
</template>

<style scoped>
.modes {
  left: 12px;
  top: 12px;
  gap: 12px;
  padding-right: 12px;
}
.pose {
  left: 50%;
  translate: -50% 0;
  top: 52px;
  gap: 16px;
  padding: 0 12px;
}
.link {
  color: var(--indigo);
}
.link:hover {
  text-decoration: underline;
}
.hands {
  left: 12px;
  right: 12px;
  bottom: 48px;
  height: auto;
  min-height: 28px;
  width: fit-content;
  flex-wrap: wrap;
  gap: 0 16px;
  padding: 4px 12px;
}
.facts {
  left: 12px;
  bottom: 12px;
}
.facts > span {
  padding: 0 12px;
  display: flex;
  gap: 8px;
}
.facts > span + span {
  box-shadow: -1px 0 0 var(--rule);
}
.facts i {
  font-style: normal;
  color: var(--ink-6);
}
.legend {
  right: 12px;
  bottom: 12px;
  width: 200px;
  height: auto;
  padding: 8px 12px;
  flex-direction: column;
  align-items: stretch;
  gap: 4px;
}
.legend > div {
  display: flex;
  justify-content: space-between;
  color: var(--ink-6);
}
.legend b {
  font-weight: 600;
  color: var(--ink-9);
}
.ramp {
  height: 8px;
  background: linear-gradient(90deg, #e4dccb, #2f4a7d);
}
.steps i {
  flex: 1;
  height: 8px;
}
</style>
