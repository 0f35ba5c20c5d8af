<script setup lang="ts">
import { Copy, Download, FolderOpen, Plus, RotateCcw, Trash2, Undo2 } from '@lucide/vue';
import { until, useDropZone, useEventListener, useFileDialog } from '@vueuse/core';
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { storageProblem, type ProductionRow, type ShotRow, type TakeRow } from '../../storage/database';
import { eraseDeleted, listDeleted, type Deleted } from '../../storage/deleted';
import { live } from '../../storage/live';
import { ensureDemo, restoreDemo, shippedPicture } from '../../storage/demo';
import { DEMO_FILES } from '../../workers/demoFiles';
import { addProduction, listProductions } from '../../storage/productions';
import { lastBake, listShots } from '../../storage/shots';
import { errorText, useNoticeStore } from '../../stores/notice';
import BrandMark from '../BrandMark.vue';
import ThemeButton from '../ThemeButton.vue';
import ConfirmAct from '../../fields/ConfirmAct.vue';
import NameField from '../../fields/NameField.vue';
import ShotCard from './ShotCard.vue';
import { useProductionActs } from '../../acts/useProductionActs';
import { vTip } from '../../fields/tip';

interface Card {
  row: ShotRow;
  picture: string | null;
  take: TakeRow | undefined;
  stale: boolean;
}

const notice = useNoticeStore();
const router = useRouter();
const acts = useProductionActs();
const chosen = ref<string | null>(null);
const kept = ref<string | null>(null);
const holder = ref<HTMLElement | null>(null);
const title = ref<InstanceType<typeof NameField> | null>(null);
const problem = ref<string | null>(null);

/** All that home shows, read again whenever any of it changes, also in other tabs. */
interface Kept {
  productions: ProductionRow[];
  shots: Map<string, { row: ShotRow; take: TakeRow | undefined }[]>;
  deleted: Deleted;
}

async function read(): Promise<Kept> {
  const rows = await listProductions();
  const shots = await Promise.all(
    rows.map(async ({ id }) => {
      const found = await listShots(id);
      return [id, await Promise.all(found.map(async (row) => ({ row, take: await lastBake(row) })))] as const;
    }),
  );
  return { productions: rows, shots: new Map(shots), deleted: await listDeleted() };
}

const home = live(read, (error) => {
  problem.value = `Lumbra cannot keep anything in this browser: ${errorText(error)} Allow it to store data, or use a window that is not private.`;
});
const productions = computed(() => home.value?.productions ?? []);
const production = computed(
  () => productions.value.find(({ id }) => id === chosen.value) ?? productions.value[0] ?? null,
);
const counts = computed(() => new Map([...(home.value?.shots ?? [])].map(([id, rows]) => [id, rows.length])));
const gone = computed(() => [...(home.value?.deleted.productions ?? []), ...(home.value?.deleted.shots ?? [])]);
const cards = shallowRef<Card[]>([]);

watch(
  () => home.value?.shots.get(production.value?.id ?? '') ?? [],
  (rows) => {
    releasePictures();
    cards.value = rows.map(({ row, take }) => ({
      row,
      take,
      stale: take !== undefined && row.inputsHash !== undefined && take.spans.at(-1)!.inputsHash !== row.inputsHash,
      picture: row.picture ? URL.createObjectURL(row.picture) : shippedPicture(row.id),
    }));
  },
);
watch(home, async () => {
  const estimate = await navigator.storage?.estimate?.();
  if (estimate?.usage !== undefined && estimate.quota)
    kept.value = `${(estimate.usage / 1e6).toFixed(0)} MB of ${(estimate.quota / 1e9).toFixed(0)} GB`;
});

function releasePictures(): void {
  for (const { picture } of cards.value) if (picture?.startsWith('blob:')) URL.revokeObjectURL(picture);
}
onBeforeUnmount(releasePictures);

async function begin(): Promise<void> {
  try {
    await ensureDemo(DEMO_FILES);
    await eraseDeleted();
  } catch {
    // What storage refuses is said when the productions are read.
  }
}
void begin();

function unpictured(item: Card): void {
  cards.value = cards.value.map((one) => (one === item ? { ...one, picture: null } : one));
}

/** The production that new shots go to: the chosen one, else the first, else a new one. */
async function target(): Promise<string> {
  return production.value?.id ?? (await addProduction('Own shots', 'Shots made in this browser.')).id;
}

async function newShot(): Promise<void> {
  const into = await target();
  const id = await acts.newShot(into, counts.value.get(into) ?? 0);
  if (id) await router.push(`/shot/${id}`);
}

async function openFiles(files: Iterable<File>): Promise<void> {
  const all = [...files];
  for (const file of all) {
    const opened = await acts.openFile(file, target);
    // One shot is opened to work on it.
    if (opened?.shot && all.length === 1) return void router.push(`/shot/${opened.shot}`);
    if (opened?.production) chosen.value = opened.production;
  }
}

const { open: pickFiles, onChange } = useFileDialog({ accept: '.lumbra,.json', multiple: true, reset: true });
onChange((files) => void openFiles(files ?? []));
const { isOverDropZone: dropping } = useDropZone(holder, { onDrop: (files) => void openFiles(files ?? []) });

async function newProduction(): Promise<void> {
  const made = await acts.newProduction();
  if (!made) return;
  chosen.value = made.id;
  // Once it is shown, its name is typed at once.
  await until(() => production.value?.id === made.id).toBe(true, { timeout: 2000 });
  await nextTick();
  title.value?.select();
}

async function rename(name: string): Promise<void> {
  if (production.value) await acts.nameProduction(production.value, name);
}

async function duplicate(row: ProductionRow): Promise<void> {
  const made = await acts.duplicateProduction(row);
  if (made) chosen.value = made.id;
}

async function bringBack(row: ProductionRow | ShotRow): Promise<void> {
  await acts.bringBack(row);
  chosen.value = 'shot' in row ? row.production : row.id;
}

async function erase(): Promise<void> {
  try {
    await eraseDeleted({ all: true });
  } catch (error) {
    notice.problem(storageProblem(error));
  }
}

async function openDemo(): Promise<void> {
  try {
    const missing = await restoreDemo(DEMO_FILES);
    chosen.value = 'night-ferry';
    if (missing.length > 0)
      notice.problem(
        `${missing.join(', ')} could not be read. Is Lumbra still being served? Open the demo again then.`,
      );
  } catch (error) {
    notice.problem(storageProblem(error));
  }
}

useEventListener(window, 'keydown', (event) => {
  if ((event.target as HTMLElement).matches('input')) return;
  if ((event.ctrlKey || event.metaKey) && !event.shiftKey && event.key.toLowerCase() === 'z') {
    event.preventDefault();
    void acts.undo();
  }
});
</script>

<template>
  <main ref="holder" class="home">
    <header class="top">
      <BrandMark />
      <span class="grow" />
      <button v-if="acts.last" type="button" class="undo small" @click="acts.undo()">
        <Undo2 :size="16" :stroke-width="1.5" />Undo: {{ acts.last.label }}
      </button>
      <ThemeButton />
    </header>
    <aside>
      <div class="heading">
        <h2 class="grow">Productions</h2>
        <button v-tip="'New production'" type="button" class="icon-button" @click="newProduction">
          <Plus :size="16" :stroke-width="1.5" />
        </button>
      </div>
      <div class="productions">
        <button
          v-for="item in productions"
          :key="item.id"
          type="button"
          class="row"
          :aria-current="item.id === chosen"
          @click="chosen = item.id"
        >
          <span class="grow cut">{{ item.name }}</span>
          <span class="small">{{ counts.get(item.id) ?? 0 }} {{ counts.get(item.id) === 1 ? 'shot' : 'shots' }}</span>
        </button>
      </div>
      <span class="grow" />
      <section v-if="gone.length" class="gone" aria-label="Deleted lately">
        <div class="heading">
          <h2 class="grow">Deleted lately</h2>
          <ConfirmAct question="Erase all of it for good? This cannot be undone." act="Erase for good" @confirm="erase">
            <button type="button" class="choice">Erase</button>
          </ConfirmAct>
        </div>
        <p class="small">Kept for a day.</p>
        <div v-for="row in gone.slice(0, 5)" :key="row.id" class="line">
          <span class="grow cut">{{ 'shot' in row ? row.shot.name : `${row.name} (production)` }}</span>
          <button type="button" class="choice" @click="bringBack(row)">Bring back</button>
        </div>
        <p v-if="gone.length > 5" class="small">and {{ gone.length - 5 }} more</p>
      </section>
      <p v-if="kept" class="small kept">
        <span>Kept in this browser</span><span>{{ kept }}</span>
      </p>
      <button type="button" class="secondary" @click="pickFiles()">
        <FolderOpen :size="16" :stroke-width="1.5" />Open a file
      </button>
      <button type="button" class="secondary" @click="openDemo">
        <RotateCcw :size="16" :stroke-width="1.5" />Open the demo
      </button>
      <button type="button" class="primary" @click="newShot">New shot</button>
    </aside>
    <section class="shots" :class="{ dropping }">
      <p v-if="problem" class="problem">{{ problem }}</p>
      <header v-if="production">
        <h1>
          <NameField
            ref="title"
            :key="production.id"
            class="title"
            label="Name of the production"
            :model-value="production.name"
            :size="Math.max(8, production.name.length)"
            @change="rename"
          />
        </h1>
        <p class="small">{{ production.note }}</p>
        <span class="grow" />
        <button v-tip="'Duplicate the production'" type="button" class="icon-button" @click="duplicate(production)">
          <Copy :size="16" :stroke-width="1.5" />
        </button>
        <button
          v-tip="'Save the production as a file'"
          type="button"
          class="icon-button"
          @click="acts.saveProductionFile(production)"
        >
          <Download :size="16" :stroke-width="1.5" />
        </button>
        <button
          v-tip="'Delete the production (undoable)'"
          type="button"
          class="icon-button"
          @click="acts.removeProduction(production)"
        >
          <Trash2 :size="16" :stroke-width="1.5" />
        </button>
        <span class="legend small"><i class="thread-firm" />baked<i class="thread-stale" />stale</span>
      </header>
      <h1 v-else-if="!problem" class="small">There is no production. Make one with the plus sign, or open the demo.</h1>
      <div class="cards">
        <ShotCard v-for="item in cards" :key="item.row.id" v-bind="item" @unpictured="unpictured(item)" />
        <button v-if="production" type="button" class="new" @click="newShot">
          <span><Plus :size="24" :stroke-width="1.5" /></span>
          <b class="strong">New shot</b>
          <span class="small">or drop a shot or production file here</span>
        </button>
      </div>
    </section>
  </main>
</template>

<style scoped>
.home {
  height: 100%;
  display: grid;
  grid-template: 40px minmax(0, 1fr) / 264px minmax(0, 1fr);
  grid-template-areas: 'top top' 'side shots';
}
.top {
  grid-area: top;
  display: flex;
  align-items: center;
  padding: 0 12px 0 16px;
  border-bottom: 1px solid var(--rule);
}
aside {
  grid-area: side;
  border-right: 1px solid var(--rule);
  padding: 28px 16px 16px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
aside .row {
  height: 32px;
}
.heading {
  display: flex;
  align-items: center;
  min-height: 28px;
}
.undo {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 28px;
  padding: 0 12px;
  border-radius: 3px;
}
.undo:hover {
  background: var(--linen-0);
}
.line {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
}
input.title {
  height: 32px;
  padding: 0 8px;
  margin-left: -8px;
  font-size: 20px;
  font-weight: 600;
  border-radius: 3px;
}
input.title:hover,
input.title:focus {
  background: var(--linen-0);
  box-shadow: inset 0 0 0 1px var(--edge);
}
.kept {
  display: flex;
  justify-content: space-between;
}
aside .secondary,
aside .primary {
  flex: none;
  height: 36px;
}
.shots {
  grid-area: shots;
  padding: 24px 32px;
  overflow-y: auto;
}
.shots.dropping {
  outline: 2px dashed var(--indigo);
  outline-offset: -8px;
}
.shots header {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-bottom: 16px;
}
.legend {
  display: flex;
  align-items: center;
  gap: 8px;
}
.legend i {
  width: 28px;
  margin-left: 8px;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, 224px);
  gap: 28px 21px;
}
.new {
  display: flex;
  flex-direction: column;
  text-align: left;
}
.new > span:first-child {
  aspect-ratio: 7 / 5;
  width: 100%;
  display: grid;
  place-items: center;
  border: 2px dashed var(--mark);
  border-radius: 3px;
  color: var(--ink-6);
  margin-bottom: 16px;
}
.new:hover > span:first-child {
  border-color: var(--indigo);
  color: var(--indigo);
}
</style>
