<script setup lang="ts">
import { formatQuantity, keyedNumbers, numberQuantity, valueAt } from '@lumbra/core';
import {
  ChevronFirst,
  ChevronLast,
  ChevronLeft,
  ChevronRight,
  ChevronsDown,
  ChevronsUp,
  Pause,
  Play,
} from '@lucide/vue';
import { useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import InlineNumber from '../fields/InlineNumber.vue';
import SelectBox from '../fields/SelectBox.vue';
import { useDocumentStore } from '../session/document';
import { useRunStore } from '../stores/run';
import { useTakesStore } from '../stores/takes';
import { useSelectionStore, type SignalId } from '../stores/selection';
import CurveRow from './CurveRow.vue';
import { followDrag } from '../pointer/followDrag';
import KnotBar from './KnotBar.vue';
import KnotRow from './KnotRow.vue';
import { KNOTS, RULER, THREAD } from './rows';
import SignalRow from './SignalRow.vue';
import { signalsOf } from './signals';
import ThreadRow from './ThreadRow.vue';
import { useFrameScale } from './useFrameScale';
import { useKnots } from './useKnots';
import { usePlayback } from './usePlayback';
import { vTip } from '../fields/tip';

const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();
const selection = useSelectionStore();
const { toggle } = usePlayback();
const { owners } = useKnots();
const track = ref<HTMLElement | null>(null);
const { width } = useElementSize(track);
const scale = useFrameScale(width);
const x = (frame: number) => scale.value.x(frame);

const shot = computed(() => document.shot!);
const height = computed(() => (selection.tallTimeline ? 279 : 119));
const signals = computed(() => signalsOf(document.shot));
/** What a cue that is gone leaves is the first of them. */
const signal = computed(() => signals.value.find(({ id }) => id === selection.signal) ?? signals.value[0]!);
/** Keyed numbers of what is selected, for the list of curves. */
const keyed = computed(() =>
  owners.value.flatMap(({ id, owner }) =>
    keyedNumbers(owner).map((number) => ({ thing: id, number, label: numberQuantity(owner, number)!.label, owner })),
  ),
);
/** The number whose curve is drawn, while it is keyed and its owner is selected; else a number of the bake. */
const curve = computed(() => {
  const wanted = selection.curve;
  return (
    wanted && (keyed.value.find(({ thing, number }) => thing === wanted.thing && number === wanted.number) ?? null)
  );
});
const current = computed(() => {
  if (curve.value) {
    const { owner, number } = curve.value;
    const { unit } = numberQuantity(owner, number)!;
    return `${formatQuantity(valueAt(owner, number, run.frame), unit, 4)} ${unit}`.trim();
  }
  if (!run.currentStats) return '–';
  const { unit, value } = signal.value;
  return `${formatQuantity(value(run.currentStats), unit, 2)} ${unit}`.trim();
});

/** Numbers of the bake, then keyed numbers of what is selected. */
const curves = computed(() => [
  ...signals.value.map(({ id, label }) => ({ id: `signal:${id}`, name: label })),
  ...keyed.value.map(({ owner, label }, i) => ({
    id: `number:${i}`,
    name: `${owners.value.length > 1 && 'name' in owner ? `${owner.name}, ` : ''}${label.toLowerCase()}`,
  })),
]);

function chooseCurve(id: string): void {
  const at = id.indexOf(':');
  const [kind, value] = [id.slice(0, at), id.slice(at + 1)];
  if (kind === 'signal') {
    selection.signal = value as SignalId;
    selection.curve = null;
  } else {
    const { thing, number } = keyed.value[Number(value)]!;
    selection.curve = { thing, number };
  }
}

function scrub(event: PointerEvent): void {
  if (event.button !== 0) return;
  const { left } = track.value!.getBoundingClientRect();
  run.playing = false;
  const before = run.frame;
  const go = (at: PointerEvent) => run.goTo(scale.value.frameAt(at.clientX - left));
  go(event);
  followDrag(event, { move: (_dx, _dy, at) => go(at), end: () => undefined, cancel: () => run.goTo(before) });
}

/** The needle goes by frames, with shift by ten, and to either end. */
function onNeedleKey(event: KeyboardEvent): void {
  const by = event.shiftKey ? 10 : 1;
  const to: Record<string, number> = {
    ArrowLeft: run.frame - by,
    ArrowDown: run.frame - by,
    ArrowRight: run.frame + by,
    ArrowUp: run.frame + by,
    PageDown: run.frame - 10,
    PageUp: run.frame + 10,
    Home: run.firstFrame,
    End: run.lastFrame,
  };
  const frame = to[event.key];
  if (frame === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  run.goTo(frame);
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
        <button v-tip="'First frame'" type="button" class="icon-button" @click="run.goTo(run.firstFrame)">
          <ChevronFirst :size="16" :stroke-width="1.5" />
        </button>
        <button v-tip="'One frame back (left)'" type="button" class="icon-button" @click="run.goTo(run.frame - 1)">
          <ChevronLeft :size="16" :stroke-width="1.5" />
        </button>
        <button
          v-tip="
            takes.bakedUntil === null
              ? 'Nothing to play yet: bake first (B)'
              : run.playing
                ? 'Pause (space)'
                : 'Play (space)'
          "
          type="button"
          class="play"
          :aria-disabled="takes.bakedUntil === null"
          @click="toggle"
        >
          <component :is="run.playing ? Pause : Play" :size="16" :stroke-width="1.5" />
        </button>
        <button v-tip="'One frame on (right)'" type="button" class="icon-button" @click="run.goTo(run.frame + 1)">
          <ChevronRight :size="16" :stroke-width="1.5" />
        </button>
        <button v-tip="'Last frame'" type="button" class="icon-button" @click="run.goTo(run.lastFrame)">
          <ChevronLast :size="16" :stroke-width="1.5" />
        </button>
        <span class="frame"
          ><InlineNumber
            label="Current frame"
            data-testid="frame"
            :model-value="run.frame"
            :min="run.firstFrame"
            :max="run.lastFrame"
            whole
            @change="run.goTo($event)"
          />
          <span class="small">of {{ run.lastFrame }}</span></span
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
        <span>frame</span><span>thread</span><span>keys</span
        ><span class="signal"
          ><SelectBox
            class="curve"
            label="Curve"
            :model-value="curve ? `number:${keyed.indexOf(curve)}` : `signal:${signal.id}`"
            :options="curves"
            @pick="chooseCurve" /><b class="strong" data-testid="signal">{{ current }}</b>
          <button
            v-tip="selection.tallTimeline ? 'Lower the timeline' : 'Raise the timeline, to see curves large'"
            type="button"
            class="tall"
            @click="selection.tallTimeline = !selection.tallTimeline"
          >
            <component
              :is="selection.tallTimeline ? ChevronsDown : ChevronsUp"
              :size="12"
              :stroke-width="1.5"
            /></button
        ></span>
      </div>
    </div>
    <div ref="track" class="track">
      <svg width="100%" :height="height" role="group" aria-label="Frames and keys" @pointerdown="scrub">
        <rect v-if="shot.preRoll > 0" :x="0" y="0" :width="x(shot.firstFrame)" :height="height" class="pre-roll" />
        <g v-for="tick in scale.ticks" :key="tick" class="tick">
          <line :x1="x(tick)" :x2="x(tick)" :y1="RULER.bottom - 6" :y2="RULER.bottom" />
          <text
            v-if="x(tick) < x(run.frame) - 18 || x(tick) > x(run.frame) + 36"
            :x="x(tick)"
            y="14"
            text-anchor="middle"
          >
            {{ String(tick).replace('-', '−') }}
          </text>
        </g>
        <line
          v-for="row in [RULER, THREAD, KNOTS]"
          :key="row.bottom"
          x1="0"
          x2="100%"
          :y1="row.bottom + 0.5"
          :y2="row.bottom + 0.5"
          class="rule"
        />
        <ThreadRow :scale="scale" />
        <CurveRow v-if="curve" :scale="scale" :height="height" :thing="curve.thing" :number="curve.number" />
        <SignalRow v-else :scale="scale" :signal="signal" :height="height" />
        <g
          class="needle"
          role="slider"
          tabindex="0"
          aria-label="Frame"
          aria-orientation="horizontal"
          :aria-valuenow="run.frame"
          :aria-valuemin="run.firstFrame"
          :aria-valuemax="run.lastFrame"
          :transform="`translate(${x(run.frame)} 0)`"
          @keydown="onNeedleKey"
        >
          <rect class="focus" x="-12" y="2" width="24" :height="height - 4" rx="3" />
          <ellipse cx="0" cy="11" rx="3.25" ry="7.25" />
          <line x1="0" x2="0" y1="18" :y2="height - 7" />
          <path :d="`M-2 ${height - 9} L0 ${height - 1} L2 ${height - 9}Z`" />
          <text x="8" y="15">{{ run.frame }}</text>
        </g>
        <KnotRow :scale="scale" />
      </svg>
    </div>
    <KnotBar />
  </footer>
</template>

<style scoped>
.timeline {
  grid-area: timeline;
  position: relative;
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
.frame :deep(input) {
  width: 52px;
  height: 28px;
  font-size: 20px;
  line-height: 24px;
  font-weight: 600;
  color: var(--ink-9);
}
.range {
  position: absolute;
  left: 16px;
  top: 64px;
  display: flex;
  flex-wrap: wrap;
  width: 208px;
  gap: 4px 16px;
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
  height: 24px;
  line-height: 20px;
}
.labels .signal {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  height: auto;
  line-height: 16px;
}
.labels .curve {
  width: 128px;
}
.labels .curve :deep(.el-select__wrapper) {
  min-height: 24px;
}
.labels .tall {
  position: absolute;
  right: 132px;
  top: 76px;
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  color: var(--ink-6);
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
.needle ellipse {
  fill: var(--linen-1);
  stroke: var(--weld);
  stroke-width: 1.5;
}
.needle line {
  stroke: var(--weld);
  stroke-width: 1.5;
}
.needle {
  pointer-events: none;
  outline: none;
}
.focus {
  fill: none;
}
.needle:focus-visible .focus {
  stroke: var(--indigo);
  stroke-width: 2;
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
