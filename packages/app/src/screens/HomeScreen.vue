<script setup lang="ts">
import { createCollider, createCloth, createShot, newId, readShotFile } from '@lumbra/core';
import { FolderOpen, Plus, RotateCcw, Trash2 } from '@lucide/vue';
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { database, storageProblem, type BakeRow, type ProductionRow, type ShotRow } from '../storage/database';
import { ensureDemo, restoreDemo } from '../storage/demo';
import { listProductions } from '../storage/productions';
import { addShot, deleteShot, listShots } from '../storage/shots';
import { errorText, useNoticeStore } from '../stores/notice';
import { inputsHash, runInputs } from '@lumbra/core';
import BrandMark from './BrandMark.vue';
import ThemeButton from './ThemeButton.vue';

const OWN = 'own-shots';

interface Card {
  row: ShotRow;
  picture: string | null;
  bake: BakeRow | undefined;
  stale: boolean;
}

const notice = useNoticeStore();
const router = useRouter();
const productions = shallowRef<ProductionRow[]>([]);
const counts = ref<Record<string, number>>({});
const chosen = ref<string | null>(null);
const cards = shallowRef<Card[]>([]);
const confirming = ref<string | null>(null);
const kept = ref<string | null>(null);
const picker = ref<HTMLInputElement | null>(null);
const dropping = ref(false);
const problem = ref<string | null>(null);
const production = computed(() => productions.value.find(({ id }) => id === chosen.value) ?? null);

function releasePictures(): void {
  for (const { picture } of cards.value) if (picture?.startsWith('blob:')) URL.revokeObjectURL(picture);
}
onBeforeUnmount(releasePictures);

async function refresh(select?: string): Promise<void> {
  try {
    await ensureDemo();
    productions.value = await listProductions();
    chosen.value = select ?? chosen.value ?? productions.value[0]?.id ?? null;
    const all = await Promise.all(productions.value.map(async ({ id }) => [id, await listShots(id)] as const));
    counts.value = Object.fromEntries(all.map(([id, rows]) => [id, rows.length]));
    const rows = all.find(([id]) => id === chosen.value)?.[1] ?? [];
    const made = await Promise.all(rows.map(card));
    releasePictures();
    cards.value = made;
    const estimate = await navigator.storage?.estimate?.();
    if (estimate?.usage !== undefined && estimate.quota) {
      kept.value = `${(estimate.usage / 1e6).toFixed(0)} MB of ${(estimate.quota / 1e9).toFixed(0)} GB`;
    }
  } catch (error) {
    problem.value = `Lumbra cannot keep anything in this browser: ${errorText(error)} Allow it to store data, or use a window that is not private.`;
  }
}
void refresh();

async function card(row: ShotRow): Promise<Card> {
  const bake = await database.bakes.get(row.id);
  const assets = await database.assets.where('shot').equals(row.id).toArray();
  const hash = inputsHash(runInputs(row.shot, new Map(assets.map((asset) => [asset.id, asset.mesh]))));
  const shipped = row.shot.code ? `/demo/${row.shot.code}.png` : null;
  return {
    row,
    bake,
    stale: bake !== undefined && bake.inputsHash !== hash,
    picture: row.picture ? URL.createObjectURL(row.picture) : row.production === 'night-ferry' ? shipped : null,
  };
}

function state({ row, bake, stale }: Card): string {
  const frames = row.shot.lastFrame - row.shot.firstFrame + 1;
  return `${frames} frames · ${bake ? (stale ? 'stale' : bake.frames.length < frames ? `baked to ${bake.frames.at(-1)!.frame}` : 'baked') : 'not baked'}`;
}

function share({ row, bake }: Card): number {
  return bake ? Math.min(1, bake.frames.length / (row.shot.lastFrame - row.shot.firstFrame + 1)) : 0;
}

async function ownProduction(): Promise<string> {
  const target = production.value && production.value.id !== 'night-ferry' ? production.value.id : OWN;
  if (!(await database.productions.get(target))) {
    await database.productions.put({ id: OWN, name: 'Own shots', note: 'Shots made in this browser.' });
  }
  return target;
}

async function newShot(): Promise<void> {
  try {
    const target = await ownProduction();
    const number = (counts.value[target] ?? 0) + 1;
    const shot = createShot({
      name: `Shot ${number}`,
      things: [
        createCloth({ name: 'Sheet', position: [0, 0.8, 0] }),
        createCollider({ name: 'Ground', shape: { kind: 'ground' }, friction: 0.5, clearance: 0.002 }),
      ],
    });
    await addShot(target, shot, new Map());
    await router.push(`/shot/${shot.id}`);
  } catch (error) {
    notice.problem(storageProblem(error));
  }
}

async function openFiles(files: Iterable<File>): Promise<void> {
  for (const file of files) {
    try {
      const { shot, assets } = await readShotFile(new Uint8Array(await file.arrayBuffer()));
      // A file opened twice becomes two shots; nothing that is here is written over.
      const fresh = (await database.shots.get(shot.id)) ? { ...shot, id: newId() } : shot;
      const target = await ownProduction();
      await addShot(target, fresh, assets);
      notice.say(`${file.name} is opened as “${fresh.name}”.`);
      await refresh(target);
    } catch (error) {
      notice.problem(`${file.name} was not opened; nothing was changed. ${errorText(error)}`);
    }
  }
}

async function picked(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  await openFiles([...(input.files ?? [])]);
  input.value = '';
}

async function remove(id: string): Promise<void> {
  if (confirming.value !== id) {
    confirming.value = id;
    return;
  }
  confirming.value = null;
  try {
    await deleteShot(id);
  } catch (error) {
    notice.problem(storageProblem(error));
  }
  await refresh();
}

async function openDemo(): Promise<void> {
  await restoreDemo();
  await refresh('night-ferry');
}
</script>

<template>
  <main
    class="home"
    @dragover.prevent="dropping = true"
    @dragleave="dropping = false"
    @drop.prevent="((dropping = false), openFiles($event.dataTransfer?.files ?? []))"
  >
    <header class="top">
      <BrandMark />
      <span class="grow" />
      <ThemeButton />
    </header>
    <aside>
      <h2>Productions</h2>
      <div class="productions">
        <button
          v-for="item in productions"
          :key="item.id"
          type="button"
          class="row"
          :aria-current="item.id === chosen"
          @click="refresh(item.id)"
        >
          <span class="grow cut">{{ item.name }}</span>
          <span class="small">{{ counts[item.id] ?? 0 }} {{ counts[item.id] === 1 ? 'shot' : 'shots' }}</span>
        </button>
      </div>
      <span class="grow" />
      <p v-if="kept" class="small kept">
        <span>Kept in this browser</span><span>{{ kept }}</span>
      </p>
      <button type="button" class="secondary" @click="picker?.click()">
        <FolderOpen :size="16" :stroke-width="1.5" />Open a shot file
      </button>
      <input ref="picker" type="file" accept=".lumbra,.json" multiple hidden data-testid="shot-file" @change="picked" />
      <button type="button" class="secondary" @click="openDemo">
        <RotateCcw :size="16" :stroke-width="1.5" />Open the demo
      </button>
      <button type="button" class="primary" @click="newShot">New shot</button>
    </aside>
    <section class="shots" :class="{ dropping }">
      <p v-if="problem" class="problem">{{ problem }}</p>
      <header v-if="production">
        <h1>{{ production.name }}</h1>
        <p class="small">{{ production.note }}</p>
        <span class="grow" />
        <span class="legend small"><i class="firm" />baked<i class="stale" />stale</span>
      </header>
      <div class="cards">
        <article v-for="item in cards" :key="item.row.id" class="card">
          <RouterLink :to="`/shot/${item.row.id}`" :aria-label="`Open ${item.row.shot.name}`">
            <img v-if="item.picture" :src="item.picture" alt="" width="224" height="160" @error="item.picture = null" />
            <span v-else class="blank small">No picture yet</span>
          </RouterLink>
          <div class="thread">
            <i :class="item.stale ? 'stale' : 'firm'" :style="{ width: `${share(item) * 100}%` }" />
          </div>
          <div class="title">
            <span class="small">{{ item.row.shot.code }}</span><b class="strong grow cut">{{ item.row.shot.name }}</b>
            <button
              type="button"
              class="delete"
              :title="'Delete this shot'"
              @click="remove(item.row.id)"
              @blur="confirming = null"
            >
              <template v-if="confirming === item.row.id">Delete for good?</template>
              <Trash2 v-else :size="14" :stroke-width="1.5" />
            </button>
          </div>
          <p class="small">{{ state(item) }}</p>
        </article>
        <button type="button" class="new" @click="newShot">
          <span><Plus :size="24" :stroke-width="1.5" /></span>
          <b class="strong">New shot</b>
          <span class="small">or drop a shot file here</span>
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
  align-items: baseline;
  gap: 16px;
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
.card img,
.blank {
  width: 100%;
  aspect-ratio: 7 / 5;
  height: auto;
  object-fit: cover;
  display: grid;
  place-items: center;
  border-radius: 3px;
  background: var(--ground);
}
.card a:hover img {
  box-shadow: 0 0 0 2px var(--indigo);
}
.thread {
  height: 16px;
  display: flex;
  align-items: center;
  position: relative;
}
.thread::before {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  height: 1px;
  background: var(--linen-2);
}
i.firm,
i.stale {
  display: block;
  position: relative;
}
i.firm {
  height: 5px;
  border-radius: 3px;
  background: var(--woad);
}
i.stale {
  height: 2px;
  background: repeating-linear-gradient(90deg, var(--woad) 0 8px, transparent 8px 12px);
}
.title {
  display: flex;
  gap: 8px;
  align-items: baseline;
  height: 20px;
}
.delete {
  color: var(--ink-6);
  font-size: 12px;
}
.delete:hover {
  color: var(--madder);
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
