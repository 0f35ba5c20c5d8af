<script setup lang="ts">
import { formatQuantity } from '@lumbra/core';
import { ChevronFirst, ChevronLast, ChevronLeft, ChevronRight, Pause, Play } from '@lucide/vue';
import { useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import InlineNumber from '../fields/InlineNumber.vue';
import { useDocumentStore } from '../stores/document';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';
import { SIGNALS } from './signals';
import { usePlayback } from './usePlayback';

const MARGIN = 20;

const document = useDocumentStore();
const run = useRunStore();
const selection = useSelectionStore();
const { toggle } = usePlayback();
const track = ref<HTMLElement | null>(null);
const { width } = useElementSize(track);

const shot = computed(() => document.shot!);
const low = computed(() => shot.value.firstFrame - shot.value.preRoll);
const high = computed(() => Math.max(shot.value.lastFrame, low.value + 1));
const x = (frame: number) =>
  MARGIN + ((frame - low.value) / (high.value - low.value)) * Math.max(1, width.value - 2 * MARGIN - 28);
const tickStep = computed(() => {
  const per = (high.value - low.value) / Math.max(1, (width.value - 2 * MARGIN) / 60);
  return [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].find((step) => step >= per) ?? 2000;
});
const ticks = computed(() => {
  const first = Math.ceil(low.value / tickStep.value) * tickStep.value;
  const found: number[] = [];
  for (let at = first; at <= high.value; at += tickStep.value) found.push(at);
  return found;
});
const baked = computed(() =>
  run.bakedUntil === null || run.stats.length === 0 ? null : { from: run.stats[0]!.frame, to: run.bakedUntil },
);
const twists = computed(() => {
  if (!baked.value || run.stale) return [];
  const marks: number[] = [];
  for (let at = x(baked.value.from) + 4; at < x(baked.value.to) - 2; at += 7) marks.push(at);
  return marks;
});
const signal = computed(() => SIGNALS.find(({ id }) => id === selection.signal)!);
/** What the full height of the track stands for: enough for the bake's largest value. */
const top = computed(() => Math.max(signal.value.top, ...run.stats.map(({ stats }) => signal.value.value(stats))));
const curve = computed(() =>
  run.stats
    .map(({ frame, stats }) => `${x(frame).toFixed(1)},${signalY(signal.value.value(stats)).toFixed(1)}`)
    .join(' '),
);
const inWords = (value: number, figures: number) =>
  `${formatQuantity(value, signal.value.unit, figures)} ${signal.value.unit}`.trim();
const current = computed(() => (run.currentStats ? inWords(signal.value.value(run.currentStats), 2) : '–'));

function signalY(value: number): number {
  return 116 - 36 * Math.min(1, value / top.value);
}

function frameAt(event: PointerEvent): number {
  const left = track.value!.getBoundingClientRect().left;
  return (
    low.value +
    ((event.clientX - left - MARGIN) / Math.max(1, width.value - 2 * MARGIN - 28)) * (high.value - low.value)
  );
}

function scrub(event: PointerEvent): void {
  if (event.button !== 0) return;
  const target = event.currentTarget as SVGElement;
  target.setPointerCapture(event.pointerId);
  run.playing = false;
  run.goTo(frameAt(event));
  const move = (at: PointerEvent) => run.goTo(frameAt(at));
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', () => target.removeEventListener('pointermove', move), { once: true });
}

function setRange(key: 'firstFrame' | 'lastFrame' | 'preRoll' | 'frameRate', label: string, value: number): void {
  document.edit(label, (draft) => {
    draft[key] = value;
  });
}

watch(
  () => [run.firstFrame, run.lastFrame],
  ([first, last]) => {
    if (run.frame < first! || run.frame > last!) run.frame = Math.min(last!, Math.max(first!, run.frame));
  },
);
</script>

<template>
  <footer class="timeline" aria-label="Timeline">
    <div class="transport">
      <div class="buttons">
        <button type="button" class="icon-button" title="First frame" @click="run.goTo(run.firstFrame)">
          <ChevronFirst :size="16" :stroke-width="1.5" />
        </button>
        <button type="button" class="icon-button" title="One frame back (left)" @click="run.goTo(run.frame - 1)">
          <ChevronLeft :size="16" :stroke-width="1.5" />
        </button>
        <button
          type="button"
          class="play"
          :title="run.playing ? 'Pause (space)' : 'Play (space)'"
          :disabled="run.bakedUntil === null"
          @click="toggle"
        >
          <component :is="run.playing ? Pause : Play" :size="16" :stroke-width="1.5" />
        </button>
        <button type="button" class="icon-button" title="One frame on (right)" @click="run.goTo(run.frame + 1)">
          <ChevronRight :size="16" :stroke-width="1.5" />
        </button>
        <button type="button" class="icon-button" title="Last frame" @click="run.goTo(run.lastFrame)">
          <ChevronLast :size="16" :stroke-width="1.5" />
        </button>
        <span class="frame"
          ><b data-testid="frame">{{ run.frame }}</b> <span class="small">of {{ run.lastFrame }}</span></span
        >
      </div>
      <div class="range small">
        <span
          >range
          <InlineNumber
            label="First frame"
            :model-value="shot.firstFrame"
            :min="-10000"
            :max="100000"
            whole
            @change="setRange('firstFrame', 'First frame', $event)" />–<InlineNumber
            label="Last frame"
            :model-value="shot.lastFrame"
            :min="-10000"
            :max="100000"
            whole
            @change="setRange('lastFrame', 'Last frame', $event)"
        /></span>
        <span
          ><InlineNumber
            label="Frame rate"
            :model-value="shot.frameRate"
            :min="1"
            :max="240"
            @change="setRange('frameRate', 'Frame rate', $event)"
          />
          fps</span
        >
        <span
          >pre-roll
          <InlineNumber
            label="Pre-roll"
            :model-value="shot.preRoll"
            :min="0"
            :max="10000"
            whole
            @change="setRange('preRoll', 'Pre-roll', $event)"
        /></span>
      </div>
      <div class="labels small">
        <span>frame</span><span>thread</span
        ><span class="signal"
          ><select v-model="selection.signal" aria-label="Curve" @keydown.stop>
            <option v-for="entry in SIGNALS" :key="entry.id" :value="entry.id">{{ entry.label }}</option></select
          ><br /><b class="strong" data-testid="signal">{{ current }}</b></span
        >
      </div>
    </div>
    <div ref="track" class="track">
      <svg
        width="100%"
        height="119"
        role="slider"
        aria-label="Frame"
        :aria-valuenow="run.frame"
        :aria-valuemin="run.firstFrame"
        :aria-valuemax="run.lastFrame"
        @pointerdown="scrub"
      >
        <rect v-if="shot.preRoll > 0" :x="0" y="0" :width="x(shot.firstFrame)" height="119" class="pre-roll" />
        <g v-for="tick in ticks" :key="tick" class="tick">
          <line :x1="x(tick)" :x2="x(tick)" y1="18" y2="24" />
          <text
            v-if="x(tick) < x(run.frame) - 18 || x(tick) > x(run.frame) + 36"
            :x="x(tick)"
            y="14"
            text-anchor="middle"
          >
            {{ String(tick).replace('-', '−') }}
          </text>
        </g>
        <line x1="0" x2="100%" y1="24.5" y2="24.5" class="rule" />
        <line x1="0" x2="100%" y1="60.5" y2="60.5" class="rule" />
        <line :x1="x(shot.firstFrame)" :x2="x(shot.lastFrame)" y1="42" y2="42" class="absent" />
        <template v-if="baked">
          <line
            v-if="run.stale"
            :x1="x(baked.from)"
            :x2="x(baked.to)"
            y1="42"
            y2="42"
            class="stale"
            data-testid="thread-stale"
          />
          <template v-else>
            <line :x1="x(baked.from)" :x2="x(baked.to)" y1="42" y2="42" class="firm" data-testid="thread-firm" />
            <line v-for="at in twists" :key="at" :x1="at" :x2="at + 2.5" y1="44" y2="40" class="twist" />
          </template>
          <line v-if="run.status === 'baking'" :x1="x(baked.to)" :x2="x(baked.to)" y1="34" y2="50" class="front" />
        </template>
        <template v-if="signal.limit > 0 && signal.limit <= top">
          <line :x1="x(low)" :x2="x(high)" :y1="signalY(signal.limit)" :y2="signalY(signal.limit)" class="limit" />
          <text :x="x(high) + 34" :y="signalY(signal.limit) - 4" text-anchor="end" class="limit-text">
            {{ inWords(signal.limit, 2) }}
          </text>
        </template>
        <polyline v-if="curve" :points="curve" class="signal-line" />
        <g class="needle" :transform="`translate(${x(run.frame)} 0)`">
          <ellipse cx="0" cy="11" rx="3.25" ry="7.25" />
          <line x1="0" x2="0" y1="18" y2="112" />
          <path d="M-2 110 L0 118 L2 110Z" />
          <text x="8" y="15">{{ run.frame }}</text>
        </g>
      </svg>
    </div>
  </footer>
</template>

<style scoped>
.timeline {
  grid-area: timeline;
  display: grid;
  grid-template-columns: 360px 1fr;
  border-top: 1px solid var(--rule);
  background: var(--linen-1);
  min-width: 0;
}
.transport {
  position: relative;
}
.buttons {
  position: absolute;
  left: 12px;
  top: 16px;
  display: flex;
  align-items: center;
}
.play {
  width: 40px;
  height: 36px;
  border-radius: 3px;
  display: grid;
  place-items: center;
  background: var(--linen-0);
  box-shadow: inset 0 0 0 1px var(--edge);
  margin: 0 4px;
}
.frame {
  margin-left: 12px;
}
.frame b {
  font-size: 20px;
  line-height: 24px;
  font-weight: 600;
}
.range {
  position: absolute;
  left: 16px;
  bottom: 16px;
  display: flex;
  gap: 12px;
  align-items: center;
  white-space: nowrap;
}
.range :deep(input) {
  color: var(--ink-9);
}
.labels {
  position: absolute;
  right: 12px;
  top: 4px;
  display: flex;
  flex-direction: column;
  text-align: right;
}
.labels span {
  line-height: 16px;
  height: 28px;
}
.labels select {
  color: var(--ink-6);
  text-align: right;
  cursor: pointer;
}
.labels .signal {
  margin-top: 10px;
}
.track {
  border-left: 1px solid var(--rule);
  min-width: 0;
}
svg {
  display: block;
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
}
text {
  font-size: 12px;
  fill: var(--ink-6);
}
.pre-roll {
  fill: var(--linen-2);
  opacity: 0.45;
}
.tick line {
  stroke: var(--mark);
}
.rule {
  stroke: var(--rule);
}
.absent {
  stroke: var(--linen-2);
}
.firm {
  stroke: var(--woad);
  stroke-width: 5;
  stroke-linecap: round;
}
.twist {
  stroke: var(--linen-1);
  opacity: 0.7;
}
.stale {
  stroke: var(--woad);
  stroke-width: 2;
  stroke-dasharray: 8 4;
}
.front {
  stroke: var(--woad);
  stroke-width: 2;
}
.limit {
  stroke: var(--madder);
  stroke-dasharray: 6 4;
}
.limit-text {
  fill: var(--madder);
}
.signal-line {
  fill: none;
  stroke: var(--ink-6);
  stroke-width: 1.5;
}
.needle ellipse {
  fill: var(--linen-1);
  stroke: var(--weld);
  stroke-width: 1.5;
}
.needle line {
  stroke: var(--weld);
  stroke-width: 1.5;
}
.needle path {
  fill: var(--weld);
}
.needle text {
  font-weight: 600;
  fill: var(--ink-9);
  paint-order: stroke;
  stroke: var(--linen-1);
  stroke-width: 6px;
}
</style>
