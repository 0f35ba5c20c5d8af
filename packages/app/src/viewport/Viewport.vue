<script setup lang="ts">
import { activeCloths, holdsOf, maskBytes, maskValues, shapeMesh, type Cloth } from '@lumbra/core';
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import KeyQuestion from '../fields/KeyQuestion.vue';
import { ADDABLE, useStageActs, type AddKind } from '../stations/stage/useStageActs';
import { useDocumentStore } from '../session/document';
import { useImportStore } from '../stores/importing';
import { useKeyingStore } from '../stores/keying';
import { useRunStore } from '../stores/run';
import { useTakesStore } from '../stores/takes';
import { POINT_TOOLS, useSelectionStore } from '../stores/selection';
import { useThemeStore } from '../stores/theme';
import type { PinMarks } from './pinLayer';
import type { PlaceMode } from './placeTool';
import { StageView } from './stageView';
import { tieLines } from './tieLines';
import { usePinHandles } from './usePinHandles';
import { usePointTools } from './usePointTools';
import { usePullingHand } from './usePullingHand';
import ViewPlates from './ViewPlates.vue';

const CLICK_PIXELS = 4;
const THING_TYPE = 'application/x-lumbra-thing';

const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();
const selection = useSelectionStore();
const keying = useKeyingStore();
const importing = useImportStore();
const theme = useThemeStore();
const acts = useStageActs();
const holder = ref<HTMLElement | null>(null);
const canvas = ref<HTMLCanvasElement | null>(null);
const failed = ref<string | null>(null);
const mark = ref<{ x: number; y: number } | null>(null);
const dropping = ref<string | null>(null);
const { width, height } = useElementSize(holder);
let view: StageView | null = null;
let shown = new Map<string, Float32Array>();
let pending = 0;
const tools = usePointTools(
  () => view,
  () => shown,
  () => frame.value,
);
const { outline, brushAt, rampLine } = tools;
const hand = usePullingHand(() => view);

/** The shot as it is shown: with the values that wait for an answer whether to key them. */
const shot = computed(() => (document.shot ? keying.preview(document.shot) : null));
const frame = computed(() => run.shownFrame);
const pinHandles = usePinHandles(() => frame.value);
const placeMode = computed<PlaceMode | null>(() => {
  const { tool } = selection;
  const places = tool === 'move' || tool === 'turn' || tool === 'size';
  const stage = selection.station === 'stage' || (selection.station === 'hold' && pinHandles.chosen() !== null);
  return stage && places && !document.readOnly ? tool : null;
});
const asksHere = computed(
  () =>
    placeMode.value !== null &&
    keying.question?.thing === (selection.station === 'hold' ? selection.cloth?.id : selection.thingId),
);

/** Changes are shown in the next frame, so that what changes the document need not wait for the picture. */
function showChanges(): void {
  pending ||= requestAnimationFrame(refreshShot);
}

function refreshShot(): void {
  pending = 0;
  if (!view || !shot.value) return;
  view.setShot(shot.value, document.assets, selection.viewMode, frame.value);
  refreshPose();
  refreshMask();
}

function refreshPose(): void {
  if (!view || !shot.value) return;
  shown = run.shownPositions();
  view.setPositions(shown);
  // While a frame is being read, the last one stays.
  canvas.value!.dataset['frame'] = run.arrived === null ? '' : String(run.arrived);
  view.moveThings(shot.value, frame.value);
  refreshPins();
  refreshTool();
}

function refreshTool(): void {
  if (!view || !shot.value) return;
  const { thing } = selection;
  const endless = thing && 'shape' in thing && thing.shape.kind === 'ground' && placeMode.value === 'size';
  const unsized = placeMode.value === 'size' && thing?.role === 'mount';
  if (selection.station === 'hold') view.setToolAt(placeMode.value, pinHandles.poseNow()?.pose ?? null);
  else view.setTool(endless || unsized ? null : placeMode.value, shot.value, selection.thingId, frame.value);
  const collider = selection.showContact && thing?.role === 'collider' ? thing : null;
  view.showContact(shot.value, collider, document.assets, frame.value);
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
    for (const set of holdsOf(cloth)) {
      const chosen = holding && set.id === selection.holdId;
      if (holding)
        marks.push({ places: placesOf(set.points), colour: colour(chosen ? '--indigo' : '--ink-9'), kind: 'pin' });
    }
    if (holding && cloth.id === selection.cloth?.id && selection.points.length > 0) {
      marks.push({ places: placesOf(selection.points), colour: colour('--weld'), kind: 'dot' });
    }
  }
  view.setPins(marks);
  const lines = holding && selection.showTies ? tieLines(document.shot, document.assets, shown, frame.value) : [];
  view.setTies(lines, colour('--madder'));
}

function refreshMask(): void {
  const cloth = selection.station === 'hold' ? selection.cloth : null;
  if (!view || !cloth) return view?.setMask(null, null);
  view.setMask(cloth.id, selection.maskDraft ?? shownMask(cloth));
}

/** The chosen mask as it is at the frame that is shown, a byte a point. */
function shownMask(cloth: Cloth): Uint8Array | null {
  const mask = cloth.masks.find(({ id }) => id === selection.maskId);
  const known = cloth.shape.kind !== 'mesh' || document.assets.has(cloth.shape.asset);
  if (!mask || !known) return null;
  return maskBytes(maskValues(cloth, mask, shapeMesh(cloth.shape, document.assets), frame.value));
}

function placeMark(): void {
  mark.value = selection.mark && view ? view.picking.project(selection.mark.place) : null;
}

function makeView(): StageView {
  // At its size from the start: changing it afterwards makes a driver wait for all that it was given before.
  const ratio = Math.min(window.devicePixelRatio, 2);
  canvas.value!.width = Math.floor(holder.value!.clientWidth * ratio);
  canvas.value!.height = Math.floor(holder.value!.clientHeight * ratio);
  return new StageView(canvas.value!, {
    dragging: (on) => {
      if (!on) document.endMerge();
    },
    placed: (pose, mode) => {
      const { thing } = selection;
      if (selection.station === 'hold') return pinHandles.placed(pose, mode);
      if (!thing) return;
      const moves = mode === 'move';
      acts.moveTo(thing, pose, moves ? 'position' : 'rotation', `${moves ? 'Move' : 'Turn'} ${thing.name}`, true);
    },
    sized: (by, done) => {
      const { thing } = selection;
      if (selection.station === 'hold') {
        if (done) pinHandles.gathered(by);
        return;
      }
      if (!thing) return;
      view!.previewSize(thing.id, done ? [1, 1, 1] : by);
      if (done) acts.resize(thing, by);
    },
  });
}

onMounted(() => {
  try {
    view = makeView();
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
  view.resize(holder.value!.clientWidth, holder.value!.clientHeight);
  void fill();
});

/** Puts the shot into the view piece by piece, so that large cloth does not hold up the page. */
async function fill(): Promise<void> {
  const turn = () => new Promise((resolve) => setTimeout(resolve));
  await turn();
  refreshShot();
  await turn();
  view?.select(selection.allSelected());
  await view?.prepare();
}
onBeforeUnmount(() => {
  cancelAnimationFrame(pending);
  view?.dispose();
  view = null;
});

watch([width, height], ([w, h]) => view?.resize(w, h));
watch(() => [shot.value, document.assets, selection.viewMode], showChanges);
watch(() => [run.frame, takes.version, run.pose, takes.stale], refreshPose);
watch(() => [selection.station, selection.holdId, selection.points], refreshPins);
watch(() => [placeMode.value, selection.thingId, selection.showContact, selection.holdId], refreshTool);
watch(() => selection.mark, placeMark);
watch(
  () => [selection.thingId, selection.others],
  () => view?.select(selection.allSelected()),
);
watch(
  () => selection.silhouette,
  (on) => view?.showSilhouette(on),
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
    // The tools that take the pointer leave the left button to themselves; the others still move the view.
    if (view) view.setPointing(POINT_TOOLS.includes(tool));
    tools.forgetStretch();
  },
);
watch(() => [selection.station, selection.maskId, selection.maskDraft, selection.cloth, frame.value], refreshMask);
watch(() => [selection.showTies, selection.station], refreshPins);
for (const name of ['keydown', 'keyup'] as const) {
  useEventListener(window, name, (event) => view?.setSteps(event.ctrlKey || event.metaKey));
}

function place(event: MouseEvent): { x: number; y: number } {
  const frame = canvas.value!.getBoundingClientRect();
  return { x: event.clientX - frame.left, y: event.clientY - frame.top };
}

function onPointerDown(event: PointerEvent): void {
  if (event.button !== 0 || !view) return;
  if (tools.active()) return tools.press(event, place);
  if (run.status === 'live' && hand.press(event, place)) return;
  // The handles of the tool take their own drags.
  if (view.toolEngaged) return;
  const start = place(event);
  const end = (at: PointerEvent) => {
    const now = place(at);
    if (Math.hypot(now.x - start.x, now.y - start.y) >= CLICK_PIXELS) return;
    const id = view!.picking.thingAt(now.x, now.y);
    const add = at.shiftKey || at.ctrlKey || at.metaKey;
    if (id !== null || !add) selection.select(id, add);
  };
  canvas.value!.addEventListener('pointerup', end, { once: true });
}

function onPointerMove(event: PointerEvent): void {
  if (selection.tool === 'brush') tools.hover(place(event));
}

function onDragOver(event: DragEvent): void {
  const types = event.dataTransfer?.types ?? [];
  const thing = types.includes(THING_TYPE);
  if (!thing && !types.includes('Files')) return;
  event.preventDefault();
  dropping.value = thing ? 'Let go to put it here' : 'Let go to bring the mesh in';
}

function leaveDrag(event: DragEvent): void {
  if (!holder.value?.contains(event.relatedTarget as Node | null)) dropping.value = null;
}

function onDrop(event: DragEvent): void {
  dropping.value = null;
  const data = event.dataTransfer;
  if (!data) return;
  event.preventDefault();
  const kind = data.getData(THING_TYPE);
  if (ADDABLE.includes(kind as AddKind) && view) {
    const { x, y } = place(event);
    acts.add(kind as AddKind, view.picking.placeAt(x, y));
  } else if (data.files.length > 0) importing.begin(data.files);
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
  <section ref="holder" class="view" aria-label="Viewport" @dragover="onDragOver" @dragleave="leaveDrag" @drop="onDrop">
    <canvas
      ref="canvas"
      :class="{ drawing: POINT_TOOLS.includes(selection.tool) }"
      data-testid="viewport"
      @pointerdown="onPointerDown"
      @pointermove="onPointerMove"
      @pointerleave="brushAt = null"
    />
    <p v-if="failed" class="failed problem">{{ failed }}</p>
    <svg v-if="outline.length > 1" class="outline">
      <polygon :points="outline.map((corner) => corner.join(',')).join(' ')" />
    </svg>
    <svg v-if="rampLine" class="outline">
      <circle v-if="rampLine.round" :cx="rampLine.from[0]" :cy="rampLine.from[1]" :r="rampLine.reach" />
      <line :x1="rampLine.from[0]" :y1="rampLine.from[1]" :x2="rampLine.to[0]" :y2="rampLine.to[1]" />
      <circle class="end" :cx="rampLine.from[0]" :cy="rampLine.from[1]" r="5" />
      <circle class="end" :cx="rampLine.to[0]" :cy="rampLine.to[1]" r="5" />
      <text :x="rampLine.from[0] + 10" :y="rampLine.from[1] - 8">{{ rampLine.inverted ? 0 : 100 }} %</text>
      <text :x="rampLine.to[0] + 10" :y="rampLine.to[1] - 8">{{ rampLine.inverted ? 100 : 0 }} %</text>
    </svg>
    <div
      v-if="brushAt"
      class="brush"
      :style="{
        left: `${brushAt.x - brushAt.pixels}px`,
        top: `${brushAt.y - brushAt.pixels}px`,
        width: `${2 * brushAt.pixels}px`,
        height: `${2 * brushAt.pixels}px`,
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
    <div v-if="asksHere" class="plate ask"><KeyQuestion /></div>
    <p v-if="importing.busy === 'reading'" class="plate reading" data-testid="reading">
      Reading {{ importing.file?.name }}
      <button type="button" class="choice" @click="importing.cancel()">Stop</button>
    </p>
    <div v-if="dropping" class="drop">
      <span class="plate">{{ dropping }}</span>
    </div>
    <ViewPlates />
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
.outline {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.outline polygon {
  fill: color-mix(in srgb, var(--indigo) 10%, transparent);
  stroke: var(--indigo);
  stroke-width: 2;
  stroke-dasharray: 6 3;
}
.outline line {
  stroke: var(--weld);
  stroke-width: 2;
}
.outline circle {
  fill: none;
  stroke: var(--weld);
  stroke-width: 1.5;
  stroke-dasharray: 6 3;
}
.outline .end {
  fill: var(--linen-0);
  stroke-dasharray: none;
}
.outline text {
  font-size: 12px;
  font-weight: 600;
  fill: var(--ink-9);
  paint-order: stroke;
  stroke: var(--linen-0);
  stroke-width: 3px;
}
.brush {
  position: absolute;
  border: 1.5px solid var(--indigo);
  border-radius: 50%;
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
.ask,
.reading {
  left: 50%;
  translate: -50% 0;
  bottom: 56px;
  height: auto;
  padding: 4px 12px 4px 0;
  z-index: 1;
}
.reading {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 4px 12px;
}
.drop {
  position: absolute;
  inset: 8px;
  border: 2px dashed var(--indigo);
  border-radius: 3px;
  pointer-events: none;
}
.drop .plate {
  left: 50%;
  top: 50%;
  translate: -50% -50%;
  padding: 0 16px;
}
</style>
