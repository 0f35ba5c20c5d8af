<script setup lang="ts">
import { useDropZone } from '@vueuse/core';
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { ADDABLE, useThingActs, type AddKind } from '../../acts/useThingActs';
import { usePatternActs } from '../../acts/usePatternActs';
import KeyQuestion from '../../fields/KeyQuestion.vue';
import { useDocumentStore } from '../../session/document';
import { STATIONS } from '../../stations';
import { useCueWhereStore } from '../../stores/cueWhere';
import { useFinishedStore } from '../../stores/finished';
import { useImportStore } from '../../stores/importing';
import { useKeyingStore } from '../../stores/keying';
import { usePatternStore } from '../../stores/pattern';
import { usePictureStore } from '../../stores/picture';
import { usePressureStore } from '../../stores/pressure';
import { useRetimed } from '../../stores/retimed';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';
import { useTakesStore } from '../../stores/takes';
import { useThemeStore } from '../../stores/theme';
import type { Scene } from '../../viewport/scene';
import SceneView from '../../viewport/SceneView.vue';
import { pullingHand } from '../../viewport/tools/pullingHand';
import { THING_TYPE } from '../../pointer/dragTypes';
import ViewPlates from './ViewPlates.vue';

// The viewport of the bench: the open shot at the frame that is looked at, with the layers and tools of the station.

const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();
const selection = useSelectionStore();
const keying = useKeyingStore();
const importing = useImportStore();
const theme = useThemeStore();
const picture = usePictureStore();
const finished = useFinishedStore();
const { retimed } = useRetimed();
const cueWhere = useCueWhereStore();
const pressure = usePressureStore();
const pattern = usePatternStore();
const acts = useThingActs();
const patternActs = usePatternActs();
const holder = ref<HTMLElement | null>(null);
const view = useTemplateRef<InstanceType<typeof SceneView>>('view');
const mark = ref<{ x: number; y: number } | null>(null);
const dropping = ref('');
const NONE: NonNullable<(typeof STATIONS)[number]['layers']> = [];

/** The shot as it is shown: with the values that wait for an answer whether to key them. */
const shot = computed(() => (document.shot ? keying.preview(document.shot) : null));
const positions = shallowRef(run.shownPositions());
const station = computed(() => STATIONS.find(({ id }) => id === selection.station)!);
const layers = computed(() => station.value.layers ?? NONE);
const tools = computed(() => [...(station.value.tools ?? []), pullingHand]);
/** Cloth that is judged is seen as it is, without stitches around it. */
const judged = computed(() => run.playing || station.value.judges === true);
const selected = computed<string[]>((before) => {
  const cloths = new Set(document.shot?.things.flatMap(({ role, id }) => (role === 'cloth' ? [id] : [])));
  const now = selection.allSelected().filter((id) => !judged.value || !cloths.has(id));
  // The same ones are the same list, so that nothing is drawn anew for them.
  return before && before.join() === now.join() ? before : now;
});
const scene = computed<Scene>(() => ({
  shot: shot.value!,
  assets: document.assets,
  frame: run.shownFrame,
  positions: positions.value,
  shown: finished.shown,
  mode: selection.viewMode,
  selected: selected.value,
  evening: theme.evening,
  quick: picture.quick,
}));
const asksHere = computed(
  () =>
    (selection.tool === 'move' || selection.tool === 'turn' || selection.tool === 'size') &&
    keying.question !== null &&
    keying.question.thing === (selection.station === 'hold' ? selection.cloth?.id : selection.thingId),
);

watch(
  [() => run.frame, () => takes.version, () => run.pose, () => takes.stale, shot, () => document.assets],
  () => (positions.value = run.shownPositions()),
);
/** Cloth is drawn finished but where it is worked on point by point, or moves live. */
const showsFinished = computed(
  () =>
    !finished.raw &&
    selection.viewMode === 'print' &&
    selection.station !== 'hold' &&
    cueWhere.shown === null &&
    pressure.found.size === 0 &&
    run.status !== 'live' &&
    run.status !== 'settling',
);
watch(
  [shot, positions, () => run.shownFrame, () => takes.version, showsFinished],
  () =>
    finished.show(
      shot.value && showsFinished.value
        ? { shot: shot.value, assets: document.assets, frame: run.shownFrame, places: retimed(positions.value) }
        : null,
    ),
  { immediate: true },
);
watch(() => selection.mark, placeMark);

function placeMark(): void {
  mark.value = selection.mark ? (view.value?.project(selection.mark.place) ?? null) : null;
}

/** Something new that lies outside of what is seen is brought in. */
let known = new Set(document.shot?.things.map(({ id }) => id));
watch(
  () => document.shot?.things,
  async (things = []) => {
    const added = things.filter(({ id }) => !known.has(id));
    known = new Set(things.map(({ id }) => id));
    if (added.length === 0) return;
    // Once it is in the scene.
    await nextTick();
    requestAnimationFrame(() => view.value?.bringIn(added.at(-1)!.id));
  },
);

/** The view that a person leaves a shot with is the one it opens with. */
function keepCamera(): void {
  const camera = view.value?.cameraNow();
  if (camera) document.keepCamera(camera);
}

/** Things from the Stage are dropped where they are to stand, files anywhere. */
const { isOverDropZone } = useDropZone(holder, {
  checkValidity: (items) => [...items].some(({ kind, type }) => kind === 'file' || type === THING_TYPE),
  onEnter: (_, { dataTransfer }) => {
    dropping.value = dataTransfer?.types.includes(THING_TYPE) ? 'Let go to put it here' : 'Let go to bring the file in';
  },
  onDrop: (files, event) => {
    const kind = event.dataTransfer?.getData(THING_TYPE) as AddKind | undefined;
    if (kind && ADDABLE.includes(kind)) acts.add(kind, view.value?.placeUnder(event));
    else if (files) void bringIn(files);
  },
});

/** Drawings are cut, all else is read as meshes. */
async function bringIn(files: File[]): Promise<void> {
  const drawings = files.filter(({ name }) => /\.svg$/i.test(name));
  const others = files.filter((file) => !drawings.includes(file));
  if (others.length > 0) importing.begin(others);
  for (const drawing of drawings) await patternActs.readDrawing(drawing);
}

defineExpose({
  keepCamera,
  centre: () => view.value?.centreOn(selection.thingId),
  picture: () => view.value?.picture(448, 320) ?? Promise.resolve(null),
});
</script>

<template>
  <section ref="holder" class="view" aria-label="Viewport">
    <SceneView
      v-if="shot"
      ref="view"
      :scene="scene"
      :camera="document.shot!.camera"
      :layers="layers"
      :tools="tools"
      :data-frame="run.arrived ?? ''"
      @pick="(id, add) => (id !== null || !add) && selection.select(id, add)"
      @drawn="placeMark"
      @looked="keepCamera"
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
    <div v-if="isOverDropZone" class="drop">
      <span class="plate">{{ dropping }}</span>
    </div>
    <component :is="station.flat" v-if="station.flat && pattern.flat && shot" />
    <ViewPlates v-else />
  </section>
</template>

<style scoped>
.view {
  position: relative;
  background: var(--ground);
  overflow: hidden;
  min-width: 0;
  height: 100%;
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
