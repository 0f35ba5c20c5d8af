<script setup lang="ts">
import { formatQuantity, activeCloths, shapeMesh, bounds, size } from '@lumbra/core';
import { useElementSize } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useDocumentStore } from '../stores/document';
import { useRunStore } from '../stores/run';
import { useSelectionStore, type ViewMode } from '../stores/selection';
import { useThemeStore } from '../stores/theme';
import type { PinMarks } from './pinLayer';
import { STRETCH_LIMIT, stretchSteps } from './stretchColours';
import { StageView } from './stageView';

const MODES: { id: ViewMode; label: string }[] = [
  { id: 'print', label: 'Print' },
  { id: 'stretch', label: 'Stretch' },
  { id: 'mesh', label: 'Mesh' },
];
const CLICK_PIXELS = 4;

const document = useDocumentStore();
const run = useRunStore();
const selection = useSelectionStore();
const theme = useThemeStore();
const holder = ref<HTMLElement | null>(null);
const canvas = ref<HTMLCanvasElement | null>(null);
const failed = ref<string | null>(null);
const box = ref<{ left: number; top: number; right: number; bottom: number } | null>(null);
const mark = ref<{ x: number; y: number } | null>(null);
const { width, height } = useElementSize(holder);
let view: StageView | null = null;
let shown = new Map<string, Float32Array>();

const steps = stretchSteps();
const limit = `${formatQuantity(STRETCH_LIMIT, '%')} %`;
const selectedSize = computed(() => {
  const thing = selection.thing ?? selection.cloth;
  if (!thing || !('shape' in thing) || thing.shape.kind === 'ground') return null;
  const box = bounds(shapeMesh(thing.shape, document.assets).positions);
  if (!box) return null;
  const sides = size(box).filter((side) => side > 1e-6);
  return { name: thing.name, text: sides.map((side) => formatQuantity(side, 'm')).join(' × ') + ' m' };
});
const poseText = computed(() => {
  if (run.status === 'settling') return 'Settling';
  if (run.status === 'live') return 'Live';
  if (run.pose?.source === 'settle') return run.settle?.atRest ? 'Settled' : 'Settle stopped';
  return run.pose ? 'Live, stopped' : null;
});

function refreshShot(): void {
  if (!view || !document.shot) return;
  view.setShot(document.shot, document.assets, selection.viewMode);
  refreshPose();
}

function refreshPose(): void {
  if (!view || !document.shot) return;
  shown = run.shownPositions();
  view.setPositions(shown);
  view.moveThings(document.shot, run.pose?.frame ?? run.frame);
  refreshPins();
}

function refreshPins(): void {
  if (!view || !document.shot) return;
  const marks: PinMarks[] = [];
  const css = getComputedStyle(holder.value!);
  const colour = (name: string) => css.getPropertyValue(name).trim();
  const holding = selection.station === 'hold';
  for (const cloth of activeCloths(document.shot)) {
    const positions = shown.get(cloth.id);
    if (!positions || !cloth.visible) continue;
    const placesOf = (points: readonly number[]) =>
      points.flatMap((point) => [...positions.subarray(point * 3, point * 3 + 3)]);
    for (const set of cloth.pinSets) {
      const chosen = holding && set.id === selection.pinSetId;
      if (holding)
        marks.push({ places: placesOf(set.points), colour: colour(chosen ? '--indigo' : '--ink-9'), kind: 'pin' });
    }
    if (holding && cloth.id === selection.cloth?.id && selection.points.length > 0) {
      marks.push({ places: placesOf(selection.points), colour: colour('--weld'), kind: 'dot' });
    }
  }
  view.setPins(marks);
}

function placeMark(): void {
  mark.value = selection.mark && view ? view.project(selection.mark.place) : null;
}

onMounted(() => {
  try {
    view = new StageView(canvas.value!);
  } catch (error) {
    failed.value = `The viewport needs WebGL, which this browser does not offer (${String(error)}). Everything else works.`;
    return;
  }
  view.setEvening(theme.evening);
  const camera = document.shot!.camera;
  view.lookFrom(camera.position, camera.target);
  view.onDraw = () => {
    // Lets tests and the first paint be measured: how often the view was drawn.
    canvas.value!.dataset['draws'] = String(Number(canvas.value!.dataset['draws'] ?? 0) + 1);
    placeMark();
  };
  refreshShot();
  view.select(selection.thingId);
});
onBeforeUnmount(() => view?.dispose());

watch([width, height], ([w, h]) => view?.resize(w, h));
watch(() => [document.shot, document.assets, selection.viewMode], refreshShot);
watch(() => [run.frame, run.version, run.pose, run.stale], refreshPose);
watch(() => [selection.station, selection.pinSetId, selection.points], refreshPins);
watch(() => selection.mark, placeMark);
watch(
  () => selection.thingId,
  (id) => view?.select(id),
);
watch(
  () => theme.evening,
  (evening) => {
    view?.setEvening(evening);
    refreshShot();
  },
);
watch(
  () => selection.tool,
  (tool) => {
    if (view) view.controls.enabled = tool === 'look';
  },
);

function place(event: PointerEvent): { x: number; y: number } {
  const frame = canvas.value!.getBoundingClientRect();
  return { x: event.clientX - frame.left, y: event.clientY - frame.top };
}

function onPointerDown(event: PointerEvent): void {
  if (event.button !== 0 || !view) return;
  const start = place(event);
  const target = canvas.value!;
  const move = (at: PointerEvent) => {
    if (selection.tool !== 'box') return;
    const now = place(at);
    box.value = {
      left: Math.min(start.x, now.x),
      right: Math.max(start.x, now.x),
      top: Math.min(start.y, now.y),
      bottom: Math.max(start.y, now.y),
    };
  };
  const end = (at: PointerEvent) => {
    target.removeEventListener('pointermove', move);
    const now = place(at);
    if (selection.tool === 'box') {
      if (box.value && selection.cloth) {
        const found = view!.pointsIn(selection.cloth.id, box.value);
        const base = at.shiftKey ? selection.points : [];
        selection.points = [...new Set([...base, ...found])].sort((a, b) => a - b);
      }
      box.value = null;
    } else if (Math.hypot(now.x - start.x, now.y - start.y) < CLICK_PIXELS) {
      selection.select(view!.thingAt(now.x, now.y));
    }
  };
  if (selection.tool === 'box') target.setPointerCapture(event.pointerId);
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', end, { once: true });
}

/** The camera as it is, so that the shot opens with it. */
function cameraNow(): { position: [number, number, number]; target: [number, number, number] } | null {
  if (!view) return null;
  return { position: view.camera.position.toArray(), target: view.controls.target.toArray() };
}

defineExpose({
  cameraNow,
  centre: () => view?.centreOn(selection.thingId),
  picture: () => view?.picture(448, 320) ?? Promise.resolve(null),
});
</script>

<template>
  <section ref="holder" class="view" aria-label="Viewport">
    <canvas
      ref="canvas"
      :class="{ drawing: selection.tool === 'box' }"
      data-testid="viewport"
      @pointerdown="onPointerDown"
    />
    <p v-if="failed" class="failed problem">{{ failed }}</p>
    <div
      v-if="box"
      class="box"
      :style="{
        left: `${box.left}px`,
        top: `${box.top}px`,
        width: `${box.right - box.left}px`,
        height: `${box.bottom - box.top}px`,
      }"
    />
    <div
      v-if="mark && selection.mark"
      class="mark"
      :style="{ left: `${mark.x}px`, top: `${mark.y}px` }"
      data-testid="mark"
    >
      <span class="plate">{{ selection.mark.text }}</span>
    </div>
    <div class="plate modes" role="group" aria-label="View">
      <button
        v-for="mode in MODES"
        :key="mode.id"
        type="button"
        :aria-pressed="selection.viewMode === mode.id"
        @click="selection.viewMode = mode.id"
      >
        {{ mode.label }}
      </button>
    </div>
    <div v-if="poseText" class="plate pose" data-testid="pose">
      <span>{{ poseText }}</span>
      <button v-if="!run.busy" type="button" class="link" @click="run.startFromPose()">
        Start the shot from this pose
      </button>
      <button v-if="!run.busy" type="button" class="link" @click="run.leavePose()">Back to the timeline</button>
    </div>
    <div v-if="selection.viewMode === 'stretch'" class="plate legend">
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
      <span v-if="document.shot?.gravity.enabled"
        ><i>Gravity</i>{{ formatQuantity(document.shot.gravity.strength, 'm/s²') }} m/s² ↓</span
      >
      <span v-else><i>Gravity</i>off</span>
      <span v-if="document.shot?.wind.enabled"
        ><i>Wind</i>{{ formatQuantity(document.shot.wind.speed, 'm/s') }} m/s to
        {{ formatQuantity(document.shot.wind.heading, '°', 2) }}°</span
      >
      <span v-else><i>No wind</i></span>
    </div>
  </section>
</template>

<style scoped>
.view {
  grid-area: view;
  position: relative;
  background: var(--ground);
  overflow: hidden;
  min-width: 0;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
canvas.drawing {
  cursor: crosshair;
}
.failed {
  position: absolute;
  inset: 40% 32px auto;
  text-align: center;
}
.box {
  position: absolute;
  border: 2px dashed var(--indigo);
  pointer-events: none;
}
.mark {
  position: absolute;
  width: 56px;
  height: 56px;
  margin: -28px 0 0 -28px;
  border: 1.5px solid var(--madder);
  border-radius: 50%;
  pointer-events: none;
}
.mark .plate {
  left: 52px;
  top: -16px;
  padding: 0 8px;
  color: var(--ink-9);
}
.modes {
  left: 12px;
  top: 12px;
}
.modes button {
  height: 28px;
  padding: 0 12px;
  color: var(--ink-6);
}
.modes button:hover {
  color: var(--ink-9);
}
.modes button[aria-pressed='true'] {
  color: var(--ink-9);
  font-weight: 600;
  box-shadow: inset 0 -2px 0 var(--indigo);
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
.steps i {
  flex: 1;
  height: 8px;
}
</style>
