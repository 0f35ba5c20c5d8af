<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, effectScope, onBeforeUnmount, onMounted, ref, shallowRef, watch, type EffectScope } from 'vue';
import { cardPicture } from './cardPicture';
import { takeDrawing } from './keptDrawing';
import { pixelRatio } from './pixelRatio';
import type { Scene } from './scene';
import { StageView } from './stageView';
import type { CanvasPlace, UseViewTool, ViewLayer, ViewTool } from './viewPart';

// A viewport: draws a scene, lets it be turned and looked at, and gives the pointer to tools. It knows nothing of what the scene is of.

/** A press that moves less than so many CSS pixels is a click. */
const CLICK_PIXELS = 4;

const props = defineProps<{
  scene: Scene;
  /** From where the scene is looked at when it opens, in m. */
  camera: { position: readonly number[]; target: readonly number[] };
  layers?: readonly ViewLayer[];
  tools?: readonly UseViewTool[];
}>();
const emit = defineEmits<{
  /** A thing, or nothing, was clicked; `add` besides those that are selected. */
  pick: [id: string | null, add: boolean];
  drawn: [];
  /** The view was turned, shifted or brought nearer, by hand or for something. */
  looked: [];
}>();

const holder = ref<HTMLElement | null>(null);
const canvas = shallowRef<HTMLCanvasElement | null>(null);
const failed = ref<string | null>(null);
const { width, height } = useElementSize(holder);
const stage = shallowRef<StageView | null>(null);
const active = shallowRef<readonly ViewTool[]>([]);
const hasButton = computed(() => active.value.some((tool) => tool.hasButton?.() === true));
const cursor = computed(() => (hasButton.value ? 'crosshair' : undefined));
const left = new AbortController();
let parts: EffectScope | null = null;
let pending = 0;

onMounted(() => {
  try {
    const { quick } = props.scene;
    const ratio = pixelRatio(quick);
    const { clientWidth, clientHeight } = holder.value!;
    const drawing = takeDrawing(Math.floor(clientWidth * ratio), Math.floor(clientHeight * ratio), !quick);
    holder.value!.prepend(drawing.canvas);
    canvas.value = drawing.canvas;
    // Before the view's own: tools take the pointer first.
    const { signal } = left;
    drawing.canvas.addEventListener('pointerdown', onPointerDown, { signal });
    drawing.canvas.addEventListener('pointermove', onPointerMove, { signal });
    drawing.canvas.addEventListener('pointerleave', onPointerLeave, { signal });
    stage.value = new StageView(drawing);
  } catch (error) {
    failed.value = `The viewport needs WebGL, which this browser does not offer (${String(error)}). Everything else works.`;
    return;
  }
  const { scene, camera } = props;
  stage.value.setEvening(scene.evening);
  stage.value.setQuick(scene.quick);
  stage.value.lookFrom(camera.position, camera.target);
  stage.value.onDraw = () => {
    // Lets tests and the first paint be measured: how often the view was drawn.
    canvas.value!.dataset['draws'] = String(Number(canvas.value!.dataset['draws'] ?? 0) + 1);
    emit('drawn');
  };
  stage.value.controls.addEventListener('end', () => emit('looked'));
  stage.value.resize(holder.value!.clientWidth, holder.value!.clientHeight);
  void fill();
});

/** Puts the scene into the view piece by piece, so that large cloth does not hold up the page. */
async function fill(): Promise<void> {
  const turn = () => new Promise((resolve) => setTimeout(resolve));
  await turn();
  showShot();
  await turn();
  stage.value?.select(props.scene.selected);
  setUpParts();
  stage.value?.prepare();
}

/** Layers and tools come and go with the station; each has its watchers in the scope. */
function setUpParts(): void {
  parts?.stop();
  parts = null;
  const view = stage.value;
  if (!view) return;
  parts = effectScope(true);
  parts.run(() => {
    const context = { stage: view, scene: () => props.scene };
    for (const layer of props.layers ?? []) layer(context);
    active.value = (props.tools ?? []).map((use) => use(context));
  });
}

/** Changes are shown in the next frame, so that what changes the document need not wait for the picture. */
function showChanges(): void {
  pending ||= requestAnimationFrame(showShot);
}

function showShot(): void {
  pending = 0;
  const { shot, assets, mode, frame } = props.scene;
  stage.value?.setShot(shot, assets, mode, frame);
  showPositions();
}

function showPositions(): void {
  // A changed shot brings its positions along.
  if (pending !== 0) return;
  const { shot, positions, shown, frame } = props.scene;
  stage.value?.setPositions(positions, shown);
  stage.value?.moveThings(shot, frame);
}

watch([width, height], ([w, h]) => stage.value?.resize(w, h));
// Each by itself: the scene is another one whenever any of it changes.
watch([() => props.scene.shot, () => props.scene.assets, () => props.scene.mode], showChanges);
watch([() => props.scene.positions, () => props.scene.shown, () => props.scene.frame], showPositions);
watch(
  () => props.scene.selected,
  (ids) => stage.value?.select(ids),
);
watch(
  () => props.scene.evening,
  (evening) => {
    stage.value?.setEvening(evening);
    showShot();
  },
);
watch(
  () => props.scene.quick,
  (quick) => stage.value?.setQuick(quick),
);
watch([() => props.layers, () => props.tools], setUpParts);
// The tools that take the pointer leave the left button to themselves; else it turns the view.
watch(hasButton, (on) => stage.value?.setPointing(on));
for (const name of ['keydown', 'keyup'] as const) {
  useEventListener(window, name, (event) => stage.value?.handles.setSteps(event.ctrlKey || event.metaKey));
}
onBeforeUnmount(() => {
  left.abort();
  cancelAnimationFrame(pending);
  parts?.stop();
  stage.value?.dispose();
  stage.value = null;
});

function place(event: MouseEvent): CanvasPlace {
  const frame = canvas.value!.getBoundingClientRect();
  return { x: event.clientX - frame.left, y: event.clientY - frame.top };
}

function onPointerDown(event: PointerEvent): void {
  const view = stage.value;
  if (event.button !== 0 || !view) return;
  if (active.value.some((tool) => tool.press(event, place))) return;
  const start = place(event);
  const end = (at: PointerEvent) => {
    const now = place(at);
    if (Math.hypot(now.x - start.x, now.y - start.y) >= CLICK_PIXELS) return;
    emit('pick', view.picking.thingAt(now.x, now.y), at.shiftKey || at.ctrlKey || at.metaKey);
  };
  canvas.value!.addEventListener('pointerup', end, { once: true });
}

function onPointerMove(event: PointerEvent): void {
  const at = place(event);
  for (const tool of active.value) tool.hover?.(at);
}

function onPointerLeave(): void {
  for (const tool of active.value) tool.leave?.();
}

defineExpose({
  /** The camera as it is: place and target in m. */
  cameraNow: (): { position: [number, number, number]; target: [number, number, number] } | null =>
    stage.value && {
      position: stage.value.camera.position.toArray(),
      target: stage.value.controls.target.toArray(),
    },
  centreOn: (id: string | null) => {
    stage.value?.centreOn(id);
    emit('looked');
  },
  /** Brings a thing into the view when it is outside of it, gently. */
  bringIn: (id: string) => stage.value?.bringIn(id, () => emit('looked')),
  /** A small picture of the view for the shot's card; null where nothing can be drawn. */
  picture: async (wide: number, high: number) => {
    const whole = await stage.value?.picture();
    return whole ? cardPicture(whole, wide, high) : null;
  },
  /** Where a place in m is on the canvas, and the place under a place of the canvas. */
  project: (at: readonly [number, number, number]) => stage.value?.picking.project(at) ?? null,
  placeUnder: (event: MouseEvent) => {
    const { x, y } = place(event);
    return stage.value?.picking.placeAt(x, y);
  },
});
</script>

<template>
  <div ref="holder" class="scene" :style="{ cursor }">
    <p v-if="failed" class="failed problem">{{ failed }}</p>
    <template v-for="(tool, i) in active" :key="i">
      <component :is="tool.overlay" v-if="tool.overlay" />
    </template>
  </div>
</template>

<style scoped>
.scene {
  position: absolute;
  inset: 0;
}
.scene > :deep(canvas) {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.failed {
  position: absolute;
  inset: 40% 32px auto;
  text-align: center;
}
</style>
