<script setup lang="ts">
import { ElSplitter, ElSplitterPanel } from 'element-plus';
import 'element-plus/es/components/splitter/style/css';
import 'element-plus/es/components/splitter-panel/style/css';
import { computed, defineAsyncComponent, onBeforeUnmount, ref, watch } from 'vue';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import { ensureDemo } from '../../storage/demo';
import { DEMO_FILES } from '../../workers/demoFiles';
import { savePicture } from '../../storage/shots';
import { storageProblem } from '../../storage/database';
import { useDocumentStore } from '../../session/document';
import { errorText, useNoticeStore } from '../../stores/notice';
import { useRunStore } from '../../stores/run';
import { useTakesStore } from '../../stores/takes';
import { useSelectionStore } from '../../stores/selection';
import Timeline from '../../timeline/Timeline.vue';
import BenchView from './BenchView.vue';
import ThingsPanel from './ThingsPanel.vue';
import StationRail from './StationRail.vue';
import { STATIONS } from '../../stations';
import TopBar from './TopBar.vue';
import { useLayout } from './useLayout';
import { useTurns } from './useTurns';
import { useBenchKeys } from '../../keys/useBenchKeys';
import { useImportStore } from '../../stores/importing';

// Loaded when they are first asked for.
const KeysDialog = defineAsyncComponent(() => import('../../keys/KeysDialog.vue'));
const ImportDialog = defineAsyncComponent(() => import('./ImportDialog.vue'));

const props = defineProps<{ id: string }>();
const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();
const selection = useSelectionStore();
const notice = useNoticeStore();
const router = useRouter();
const layout = useLayout();
const viewport = ref<InstanceType<typeof BenchView> | null>(null);
const importing = useImportStore();
const keysOpen = ref(false);
const keysAsked = ref(false);
const importAsked = ref(false);
watch(keysOpen, () => (keysAsked.value = true));
watch(
  () => importing.file,
  () => (importAsked.value = true),
);
const ready = ref(false);
/** The bench is put together in turns: the frame, the view, the panel, the list, the timeline. */
const turn = useTurns(ready, 5);
const problem = ref<string | null>(null);
/** The takes of a shot are waited for at most so many ms before the bench is shown. */
const READ_FIRST = 300;
/** The picture of a take is made so many ms after it has come to its end. */
const PICTURE_AFTER = 600;
const panel = computed(() => STATIONS.find(({ id }) => id === selection.station)!.panel);

async function open(): Promise<void> {
  try {
    await ensureDemo(DEMO_FILES);
    if (!(await document.open(props.id))) {
      // Left before it was open.
      if (left) return;
      problem.value = 'There is no such shot in this browser. It may have been deleted, or belongs to another browser.';
      return;
    }
    selection.select(document.shot!.things.find(({ role }) => role === 'cloth')?.id ?? null);
    selection.station = 'stage';
    notice.hint = null;
    // What is baked is read while the bench is put together, and before it where it comes at once.
    const opened = run.open();
    await Promise.race([opened, new Promise((resolve) => setTimeout(resolve, READ_FIRST))]);
    ready.value = true;
    await opened;
  } catch (error) {
    problem.value = storageProblem(error).includes('refused') ? errorText(error) : storageProblem(error);
  }
}
void open();

// A line of help belongs to the field that it is about.
watch(
  () => selection.station,
  () => (notice.hint = null),
);

useBenchKeys({
  centre: () => viewport.value?.centre(),
  showKeys: () => (keysOpen.value = true),
  play: () => {
    if (takes.bakedUntil !== null) run.playing = !run.playing;
  },
});

/** The bench is being left. */
let left = false;
// What has come out is pictured in the list of takes.
watch(
  () => run.status,
  async (now, before) => {
    const row = takes.take;
    if (now !== 'idle' || before !== 'baking' || !row || row.sum.frames === 0) return;
    await pictureOf(row.id);
  },
);
watch(
  () => takes.list[0]?.id,
  async (id, before) => {
    const row = takes.list[0];
    // A still that was just kept is what is shown now.
    if (row && id && before !== undefined && row.source !== 'bake' && !row.picture) await pictureOf(row.id);
  },
);

async function pictureOf(take: string): Promise<void> {
  try {
    // The picture waits for all that is still being drawn; first the person is answered.
    await new Promise((resolve) => setTimeout(resolve, PICTURE_AFTER));
    const shown = run.pose?.still ?? (run.pose ? take : takes.take?.id);
    if (left || run.busy || shown !== take) return;
    const picture = await viewport.value?.picture();
    if (picture) await takes.change(take, { picture });
  } catch {
    // A take without a picture is still a take.
  }
}

/** What leaving was last warned of: asked for once more for the same reason, it is left all the same. */
let warned: string | null = null;

/** What would be lost by leaving, in a sentence; null where nothing would be. */
async function wouldBeLost(): Promise<string | null> {
  if (document.saving === 'lost') {
    return 'What is shown here is not kept, since the shot was changed or erased elsewhere. Keep it as a new shot first; to leave without it, leave once more.';
  }
  if (document.unsaved && !document.readOnly && !(await document.flush())) {
    return 'What was changed last could not be saved. Make room or save the shot as a file first; to leave without it, leave once more.';
  }
  if (run.refused && takes.unkept.length > 0) {
    return `${takes.unkept.length} frames are only in memory, since the browser has no room for them. Make room at Run or hand them off first; to leave without them, leave once more.`;
  }
  return null;
}

onBeforeRouteLeave(async () => {
  viewport.value?.keepCamera();
  const lost = await wouldBeLost();
  if (lost !== null && lost !== warned) {
    warned = lost;
    notice.problem(lost);
    return false;
  }
  left = true;
  run.stop();
  run.playing = false;
  try {
    const picture = await viewport.value?.picture();
    if (picture) await savePicture(props.id, picture);
  } catch {
    // A card without a new picture is no reason to keep the artist here.
  }
  // Home shows what is kept, and other tabs may have the shot then.
  run.leave();
  await document.close();
});
onBeforeUnmount(() => {
  run.leave();
  void document.close();
});
</script>

<template>
  <main v-if="ready" class="bench" :class="{ tall: selection.tallTimeline }">
    <TopBar @keys="keysOpen = true" />
    <StationRail />
    <ElSplitter class="middle" lazy>
      <ElSplitterPanel v-model:size="layout.panel" :min="256" :max="480">
        <component :is="panel" v-if="turn >= 3" :key="selection.station" />
      </ElSplitterPanel>
      <ElSplitterPanel :min="320">
        <BenchView v-if="turn >= 2" ref="viewport" />
      </ElSplitterPanel>
      <ElSplitterPanel v-model:size="layout.things" :min="180" :max="400" collapsible>
        <ThingsPanel v-if="turn >= 4" />
      </ElSplitterPanel>
    </ElSplitter>
    <Timeline v-if="turn >= 5" />
    <KeysDialog v-if="keysAsked" v-model="keysOpen" />
    <ImportDialog v-if="importAsked" />
  </main>
  <main v-else-if="problem" class="missing">
    <h1>This shot cannot be opened</h1>
    <p>{{ problem }}</p>
    <button type="button" class="secondary" @click="router.push('/')">Back to the productions</button>
  </main>
</template>

<style scoped>
.bench {
  display: grid;
  height: 100%;
  grid-template: var(--topbar) minmax(0, 1fr) var(--timeline) / var(--rail) minmax(0, 1fr);
  grid-template-areas: 'top top' 'rail middle' 'timeline timeline';
}
.bench.tall {
  --timeline: 280px;
}
.middle {
  grid-area: middle;
  min-width: 0;
}
.middle :deep(.el-splitter-panel) {
  overflow: hidden;
}
.missing {
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 16px;
  height: 100%;
}
</style>
