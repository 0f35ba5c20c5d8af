<script setup lang="ts">
import {
  activeContacts,
  bendHonoured,
  brokenText,
  clothScale,
  falseStretch,
  formatQuantity,
  keptPromises,
  loadAcceleration,
  MOST_RETAKES,
  QUALITIES,
  ruleSubsteps,
  simulatedCloths,
  substepsOf,
  type Quality,
  type Quantity,
} from '@lumbra/core';
import { Square } from '@lucide/vue';
import { computed } from 'vue';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import QuantityField from '../../fields/QuantityField.vue';
import FoldSection from '../../fields/FoldSection.vue';
import { useDocumentStore } from '../../session/document';
import { useRunStore } from '../../stores/run';
import { useTakesStore } from '../../stores/takes';
import CheckLine from '../CheckLine.vue';
import StationPanel from '../StationPanel.vue';
import { describeChanges } from './describeChanges';
import { useExpectedTime } from '../../stores/expectedTime';
import ContactTable from './ContactTable.vue';
import ProblemList from './ProblemList.vue';
import TakeList from './TakeList.vue';
import { vTip } from '../../fields/tip';
import { pageThreads } from '../../workers/threads';

const QUALITY: { id: Quality; label: string }[] = [
  { id: 'draft', label: 'Draft' },
  { id: 'shot', label: 'Shot' },
  { id: 'final', label: 'Final' },
];
const SUBSTEPS: Quantity = {
  label: 'Substeps',
  help: 'Steps within a frame. More keep cloth from stretching and let stiff cloth be stiff; time grows with them.',
  unit: '',
  min: 1,
  max: 2000,
  default: 40,
  step: 1,
  whole: true,
};

/** What each quality does where cloth meets cloth. */
const CONTACT: Record<Quality, string> = {
  draft: 'Layers push each other but may cross.',
  shot: 'Cloth never crosses.',
  final: 'Cloth never crosses.',
};

const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();

/** On how many threads it is computed, and why on one where the machine has more processors. */
const threadText = computed(() => {
  if (run.onOneThread) return 'on one thread, for another stopped in the middle; loaded again, the page has all';
  const threads = pageThreads();
  if (threads > 1) return `on ${threads} threads`;
  return navigator.hardwareConcurrency > 1
    ? 'on one thread, for what serves this page does not let threads share memory (“lumbra serve” does)'
    : 'on one thread';
});

const substeps = computed(() => (document.shot ? substepsOf(document.shot, document.assets) : 0));
const byRule = computed(() => (document.shot ? ruleSubsteps(document.shot, document.assets) : 0));
/** What the chosen substeps honour, of the cloth that is worst off. */
const honours = computed(() => {
  const shot = document.shot;
  if (!shot) return null;
  const h = 1 / shot.frameRate / substeps.value;
  const scales = simulatedCloths(shot).map((cloth) => clothScale(cloth, document.assets));
  if (scales.length === 0) return null;
  const acceleration = Math.max(...simulatedCloths(shot).map((cloth) => loadAcceleration(shot, cloth)));
  return {
    stretch: Math.max(...scales.map((scale) => falseStretch(scale, acceleration, h))),
    bend: Math.min(...scales.map((scale) => bendHonoured(scale, h))),
  };
});
/** What the quality promises of every frame; null where substeps are set by hand, and in a draft. */
const promised = computed(() => {
  const chosen = document.shot?.run;
  return chosen && chosen.substeps === null ? QUALITIES[chosen.quality].promised : null;
});
const promises = computed(() => keptPromises(takes.account));
const promiseText = computed(() => {
  if (!promises.value) return '';
  const { frames, broken } = promises.value;
  return broken === 0 ? `kept in all ${frames} frames` : `broken in ${broken} of ${frames} frames`;
});
const promiseCost = computed(() => {
  if (!promises.value) return '';
  const { broken, retaken, fewest, most } = promises.value;
  const cost = `${fewest === most ? most : `${fewest} to ${most}`} substeps a frame, ${retaken} taken again.`;
  return broken === 0 ? cost : `${cost} Broken frames were tried up to ${MOST_RETAKES + 1} times.`;
});
const worst = computed(() => {
  const found = promises.value?.worst;
  const nameOf = (id: string) => document.shot?.things.find((thing) => thing.id === id)?.name;
  return found ? { frame: found.frame, text: brokenText(found, nameOf) } : null;
});
const again = computed(() =>
  shown.value?.retakes
    ? `The frame was taken again ${shown.value.retakes} times: with fewer substeps it broke what is promised.`
    : 'Steps within this frame',
);
const expected = useExpectedTime(substeps);
const shown = computed(() => run.currentStats ?? takes.account.at(-1)?.stats ?? null);
const changes = computed(() => (document.shot ? describeChanges(takes.changes, document.shot) : []));
const contactNote = computed(() => {
  const apart = document.shot ? activeContacts(document.shot).length : 0;
  return apart === 0 ? 'all by their numbers' : apart === 1 ? '1 pair otherwise' : `${apart} pairs otherwise`;
});
const rate = computed(() => (run.progress && run.progress.perFrame > 0 ? 1000 / run.progress.perFrame : 0));
const total = computed(() => run.lastFrame - run.firstFrame + 1);
/** How much of the running job is done, with what is done of the frame that is being computed. */
const share = computed(() => {
  const p = run.progress;
  if (!p || p.of === 0) return 0;
  const begun = p.frame !== null && p.share < 1 ? p.share : 0;
  return Math.min(1, (p.done + begun) / p.of);
});
const bakeLabel = computed(() => {
  if (takes.complete) return 'Baked';
  if (!takes.take) return `Bake ${total.value} frames`;
  if (takes.stale) return 'Bake a new take';
  const { length } = takes.missing;
  if (length > 0) return length === 1 ? 'Bake the missing frame' : `Bake ${length} missing frames`;
  return takes.bakedUntil === null ? `Bake ${total.value} frames` : `Go on from frame ${takes.bakedUntil}`;
});
const stopLabel = computed(() => {
  if (run.stopping) return 'Stopping';
  return run.status === 'baking' ? `Stop, keep ${takes.account.length} frames` : 'Stop';
});
/** What is being computed, in words. */
const working = computed(() => {
  const p = run.progress;
  if (!p || p.frame === null) return 'Preparing the bake';
  const frame = p.share < 1 ? p.frame : Math.min(run.lastFrame, p.frame + 1);
  return `Baking frame ${frame} of ${run.lastFrame}`;
});

function clock(milliseconds: number): string {
  const seconds = Math.ceil(milliseconds / 1000);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}

function setQuality(quality: Quality): void {
  document.edit(`Quality ${quality}`, (draft) => {
    draft.run.quality = quality;
    draft.run.substeps = null;
  });
}

function setSubsteps(value: number | null, live = false): void {
  document.edit(
    value === null ? 'Substeps by the rule' : 'Substeps by hand',
    (draft) => {
      draft.run.substeps = value;
    },
    live ? 'run.substeps' : null,
  );
}
</script>

<template>
  <StationPanel title="Run" help="Settle it, run it live, or bake the range.">
    <template v-if="run.status === 'baking'">
      <div class="section">
        <h2 class="grow" data-testid="progress">{{ working }}</h2>
        <span v-if="run.progress && run.progress.left > 0" class="strong">{{ clock(run.progress.left) }} left</span>
        <span v-else-if="run.progress && run.progress.frame !== null && run.progress.share < 1" class="strong"
          >{{ Math.round(run.progress.share * 100) }} %</span
        >
      </div>
      <div
        class="yarn"
        role="progressbar"
        :aria-valuenow="Math.round(share * 100)"
        aria-valuemin="0"
        aria-valuemax="100"
      >
        <i :style="{ width: `${share * 100}%` }" />
      </div>
    </template>
    <template v-else-if="run.status === 'settling'">
      <div class="section">
        <h2 class="grow">Settling</h2>
        <span class="small">until its mean speed is below 5 mm/s</span>
      </div>
    </template>
    <template v-else-if="run.status === 'live'">
      <div class="section">
        <h2 class="grow">Live</h2>
        <span class="small">change numbers as it runs</span>
      </div>
    </template>
    <template v-else>
      <div class="section"><h2 class="grow">Without the timeline</h2></div>
      <div class="pair">
        <button type="button" class="secondary" @click="run.startSettle()">Settle<kbd>J</kbd></button>
        <button type="button" class="secondary" @click="run.startLive()">Live<kbd>L</kbd></button>
      </div>
    </template>
    <div v-if="run.settle" class="figures" data-testid="settle-figures">
      <div>
        <b>{{ formatQuantity(run.settle.speed * 1000, '', 2) }} mm/s</b><span>mean speed</span>
      </div>
      <div>
        <b>{{ run.pose ? formatQuantity(run.pose.maxStretch, '%', 2) : '–' }} %</b><span>worst stretch</span>
      </div>
      <div>
        <b>{{ run.settle.step }}</b><span>{{ run.settle.atRest ? 'steps, at rest' : 'steps' }}</span>
      </div>
    </div>
    <div v-else-if="shown" class="figures">
      <div v-if="run.status === 'baking'">
        <b>{{ formatQuantity(rate, '', 2) }}</b><span>frames / s</span>
      </div>
      <div>
        <b>{{ formatQuantity(shown.maxStretch, '%', 2) }} %</b><span>worst stretch</span>
      </div>
      <div>
        <b>{{ formatQuantity(shown.meanStretch, '%', 2) }} %</b><span>mean stretch</span>
      </div>
      <div>
        <b>{{ formatQuantity(shown.contacts, '') }}</b><span>contacts</span>
      </div>
      <div>
        <b>{{ formatQuantity(shown.fastest, 'm/s', 2) }} m/s</b><span>fastest point</span>
      </div>
      <div>
        <b>{{ shown.substeps ?? takes.lastSpan?.substeps ?? substeps }}</b><span v-tip="again">{{
          shown.retakes ? `substeps, try ${shown.retakes + 1}` : 'substeps'
        }}</span>
      </div>
      <div v-if="run.status !== 'baking'">
        <b v-tip="shown.fingerprint">{{ shown.fingerprint.slice(0, 4) }}…{{ shown.fingerprint.slice(-2) }}</b
        ><span>fingerprint</span>
      </div>
    </div>
    <div class="rule" />

    <TakeList />
    <div class="rule" />
    <template v-if="takes.account.length > 0">
      <template v-if="promises">
        <div class="section">
          <h2 class="grow">Promise</h2>
          <span class="small" data-testid="promise">{{ promiseText }}</span>
        </div>
        <p class="small promise">{{ promiseCost }}</p>
        <template v-if="worst">
          <p class="small promise" data-testid="broken">{{ worst.text }}</p>
          <button type="button" class="choice promise" @click="run.goTo(worst.frame)">
            Look at frame {{ worst.frame }}
          </button>
        </template>
        <div class="rule" />
      </template>
      <ProblemList />
      <div class="rule" />
    </template>
    <template v-if="changes.length > 0">
      <div class="section">
        <h2 class="grow">Stale</h2>
        <span class="small">changed since this take</span>
      </div>
      <div v-for="change in changes" :key="change.what" class="change">
        <span v-tip="change.what" class="cut">{{ change.what }}</span><span class="small">{{ change.values }}</span>
      </div>
      <div class="rule" />
    </template>

    <div class="section"><h2>Quality</h2></div>
    <ChoiceRow
      label="Quality"
      wide
      :disabled="run.busy"
      :model-value="document.shot?.run.substeps === null ? document.shot.run.quality : null"
      :options="QUALITY"
      @pick="setQuality"
    />
    <p v-if="honours" class="small explain" data-testid="honours">
      <template v-if="promised === null">
        {{ substeps }} substeps a frame: false stretch up to {{ formatQuantity(honours.stretch, '%', 2) }} %, bend
        honoured to {{ formatQuantity(honours.bend, '%', 2) }} %.
      </template>
      <template v-else>
        Promised of every frame: no face stretched more than {{ formatQuantity(promised, '%', 2) }} % beyond what its
        fabric gives, bend honoured to {{ formatQuantity(honours.bend, '%', 2) }} %. Begins with {{ substeps }} substeps
        and takes what each frame needs.
      </template>
      About {{ expected }} on this machine, {{ threadText }}. {{ CONTACT[document.shot!.run.quality] }}
    </p>
    <FoldSection title="Who touches whom" :note="contactNote"><ContactTable /></FoldSection>
    <FoldSection title="Substeps by hand" :note="document.shot?.run.substeps === null ? 'by the rule' : 'by hand'">
      <QuantityField
        :quantity="SUBSTEPS"
        :model-value="substeps"
        :reset="byRule"
        @change="setSubsteps"
        @settled="document.endMerge()"
      />
      <div v-if="document.shot?.run.substeps !== null" class="choices">
        <button type="button" class="choice" @click="setSubsteps(null)">Back to the rule ({{ byRule }})</button>
      </div>
    </FoldSection>

    <template #action>
      <CheckLine />
      <button v-if="run.busy" type="button" class="primary" :disabled="run.stopping" @click="run.stop()">
        <Square :size="16" :stroke-width="1.5" />{{ stopLabel }}<kbd>Esc</kbd>
      </button>
      <button v-else type="button" class="primary" :disabled="takes.complete" @click="run.startBake()">
        {{ bakeLabel }}<kbd>B</kbd>
      </button>
    </template>
  </StationPanel>
</template>

<style scoped>
.pair {
  display: flex;
  gap: 8px;
  margin-top: 4px;
}
.pair > * {
  flex: 1;
}
kbd {
  font: inherit;
  font-size: 12px;
  margin-left: auto;
  color: inherit;
  opacity: 0.75;
}
.yarn {
  height: 5px;
  border-radius: 3px;
  background: var(--linen-2);
  margin-top: 4px;
  overflow: hidden;
  flex: none;
}
.yarn i {
  display: block;
  height: 100%;
  background: repeating-linear-gradient(
    115deg,
    var(--woad) 0 5px,
    color-mix(in srgb, var(--woad) 70%, var(--linen-1)) 5px 7px
  );
}
.figures {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px 4px;
  margin-top: 12px;
}
.figures b {
  display: block;
  font-weight: 600;
  white-space: nowrap;
}
.figures span {
  font-size: 12px;
  color: var(--ink-6);
  white-space: nowrap;
}
.change {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  min-height: 24px;
  align-items: center;
  white-space: nowrap;
}
.explain {
  margin-top: 8px;
}
.promise {
  margin-bottom: 8px;
}
</style>
