<script setup lang="ts">
import { Copy, Download, Trash2 } from '@lucide/vue';
import type { ShotRow, TakeRow } from '../../storage/database';
import NameField from '../../fields/NameField.vue';
import { useProductionActs } from '../../acts/useProductionActs';
import { vTip } from '../../fields/tip';

// A shot at home: its picture, how much of it is baked, its code and name, and what can be done with it.

const props = defineProps<{ row: ShotRow; take: TakeRow | undefined; stale: boolean; picture: string | null }>();
const emit = defineEmits<{ unpictured: [] }>();
const acts = useProductionActs();

const frames = () => props.row.shot.lastFrame - props.row.shot.firstFrame + 1;

function state(): string {
  const sum = props.take?.sum;
  const baked = !sum?.frames
    ? 'not baked'
    : props.stale
      ? 'stale'
      : sum.frames < frames()
        ? `baked to ${sum.last}`
        : 'baked';
  return `${frames()} frames · ${baked}`;
}

function share(): number {
  return Math.min(1, (props.take?.sum.frames ?? 0) / frames());
}

async function rename(name: string, code: string): Promise<void> {
  await acts.nameShot(props.row, name, code);
}

async function duplicate(): Promise<void> {
  await acts.duplicateShot(props.row);
}

async function remove(): Promise<void> {
  await acts.removeShot(props.row);
}
</script>

<template>
  <article class="card">
    <RouterLink :to="`/shot/${row.id}`" :aria-label="`Open ${row.shot.name}`">
      <img v-if="picture" :src="picture" alt="" width="224" height="160" @error="emit('unpictured')" />
      <span v-else class="blank small">No picture yet</span>
    </RouterLink>
    <div class="thread">
      <i :class="stale ? 'thread-stale' : 'thread-firm'" :style="{ width: `${share() * 100}%` }" />
    </div>
    <div class="title">
      <NameField
        class="code small"
        label="Code"
        placeholder="code"
        maxlength="20"
        may-be-empty
        :model-value="row.shot.code"
        @change="rename(row.shot.name, $event)"
      />
      <NameField
        class="name strong grow"
        label="Shot name"
        :model-value="row.shot.name"
        @change="rename($event, row.shot.code)"
      />
    </div>
    <div class="state small">
      <span class="grow">{{ state() }}</span>
      <button v-tip="`Duplicate ${row.shot.name}`" type="button" @click="duplicate">
        <Copy :size="14" :stroke-width="1.5" />
      </button>
      <button v-tip="`Save ${row.shot.name} as a file`" type="button" @click="acts.saveShotFile(row)">
        <Download :size="14" :stroke-width="1.5" />
      </button>
      <button v-tip="`Delete ${row.shot.name} (undoable)`" type="button" @click="remove">
        <Trash2 :size="14" :stroke-width="1.5" />
      </button>
    </div>
  </article>
</template>

<style scoped>
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
.card a:hover img,
.card a:hover .blank {
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
.title,
.state {
  display: flex;
  gap: 4px;
  align-items: center;
  height: 24px;
}
.title input {
  height: 24px;
  min-width: 0;
  padding: 0 4px;
  margin-left: -4px;
  border-radius: 3px;
}
.title input:hover,
.title input:focus {
  background: var(--linen-0);
  box-shadow: inset 0 0 0 1px var(--edge);
}
.title .code {
  width: 52px;
  color: var(--ink-6);
}
.title .name {
  font-weight: 600;
}
.state button {
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  color: var(--ink-6);
}
.state button:hover {
  color: var(--ink-9);
}
</style>
