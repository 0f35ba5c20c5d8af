<script setup lang="ts">
import { formatQuantity, pointCount, shapeMesh, type Role, type Thing } from '@lumbra/core';
import { Box, Crosshair, Eye, EyeOff, Mountain, TriangleAlert } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useStageActs } from '../stations/stage/useStageActs';
import { useChecksStore } from '../stores/checks';
import { useDocumentStore } from '../session/document';
import { useSelectionStore } from '../stores/selection';

const GROUPS: { role: Role; label: string }[] = [
  { role: 'cloth', label: 'Cloth' },
  { role: 'collider', label: 'Colliders' },
  { role: 'mount', label: 'Mounts' },
  { role: 'scenery', label: 'Scenery' },
];
const ICONS = { collider: Box, mount: Crosshair, scenery: Mountain };
const RIDER_TYPE = 'application/x-lumbra-rider';

interface Row {
  thing: Thing;
  /** How deep it stands under what it rides, within its group. */
  depth: number;
  /** What it rides, where that stands in another group. */
  rides: string | null;
}

const document = useDocumentStore();
const selection = useSelectionStore();
const checks = useChecksStore();
const acts = useStageActs();
const things = computed(() => document.shot?.things ?? []);
const groups = computed(() =>
  GROUPS.map((group) => ({ ...group, rows: rowsOf(things.value.filter(({ role }) => role === group.role)) })).filter(
    (group) => group.rows.length > 0,
  ),
);
const alsoSelected = computed(() => new Set(selection.others));
const flagged = computed(() => new Map(checks.findings.map(({ thing, text }) => [thing, text])));
/** Ids that are dragged onto what they are to ride, and the row that they are over; null is no row. */
const dragged = ref<string[]>([]);
const over = ref<string | null>(null);

/** Things of a group, each under what it rides. */
function rowsOf(group: Thing[]): Row[] {
  const inGroup = new Set(group.map(({ id }) => id));
  const rows: Row[] = [];
  const add = (thing: Thing, depth: number) => {
    const far = thing.parent !== null && !inGroup.has(thing.parent);
    rows.push({ thing, depth, rides: far ? (things.value.find(({ id }) => id === thing.parent)?.name ?? null) : null });
    for (const rider of group) if (rider.parent === thing.id) add(rider, depth + 1);
  };
  for (const thing of group) if (thing.parent === null || !inGroup.has(thing.parent)) add(thing, 0);
  return rows;
}

function press(event: MouseEvent, thing: Thing): void {
  selection.select(thing.id, event.shiftKey || event.ctrlKey || event.metaKey);
}

function startDrag(event: DragEvent, thing: Thing): void {
  const all = selection.allSelected();
  dragged.value = all.includes(thing.id) ? all : [thing.id];
  event.dataTransfer?.setData(RIDER_TYPE, thing.id);
}

function overRow(event: DragEvent, id: string): void {
  if (dragged.value.length === 0 || dragged.value.includes(id)) return;
  event.preventDefault();
  over.value = id;
}

function dropOn(carrier: string | null): void {
  const ids = dragged.value;
  endDrag();
  if (ids.length > 0 && (carrier === null || !ids.includes(carrier))) acts.ride(ids, carrier);
}

function endDrag(): void {
  dragged.value = [];
  over.value = null;
}

function points(thing: Thing): string {
  if (thing.role !== 'cloth') return '';
  try {
    return formatQuantity(pointCount(shapeMesh(thing.shape, document.assets)), '');
  } catch {
    return 'no mesh';
  }
}

function flip(thing: Thing, key: 'visible' | 'enabled'): void {
  const words = { visible: ['Show', 'Hide'], enabled: ['Switch on', 'Leave out'] }[key];
  document.edit(`${thing[key] ? words[1] : words[0]} ${thing.name}`, (draft) => {
    const target = draft.things.find(({ id }) => id === thing.id);
    if (target) target[key] = !target[key];
  });
}
</script>

<template>
  <aside class="things" aria-label="Things">
    <header>
      <h2 class="grow">Things</h2>
      <span class="small">{{ things.length }} {{ things.length === 1 ? 'thing' : 'things' }}</span>
    </header>
    <div class="list" @dragover="dragged.length > 0 && $event.preventDefault()" @drop.prevent="dropOn(null)">
      <p v-if="things.length === 0" class="small empty">No things yet. Add them at the Stage.</p>
      <template v-for="group in groups" :key="group.role">
        <div class="group small">
          <span class="grow">{{ group.label }}</span><span v-if="group.role === 'cloth'">points</span>
        </div>
        <div
          v-for="{ thing, depth, rides } in group.rows"
          :key="thing.id"
          class="thing stitched"
          :class="{ hidden: !thing.visible, also: alsoSelected.has(thing.id), over: over === thing.id }"
          :aria-current="thing.id === selection.thingId"
          draggable="true"
          @dragstart="startDrag($event, thing)"
          @dragend="endDrag"
          @dragover="overRow($event, thing.id)"
          @dragleave="over = null"
          @drop.prevent.stop="dropOn(thing.id)"
        >
          <button
            type="button"
            class="name"
            :style="{ paddingLeft: `${12 + depth * 12}px` }"
            :title="`${thing.name}${rides ? `, rides ${rides}` : ''}. Drag it onto what it is to ride`"
            @click="press($event, thing)"
          >
            <span v-if="thing.role === 'cloth'" class="swatch" :style="{ background: thing.print.colour }" />
            <component :is="ICONS[thing.role]" v-else :size="16" :stroke-width="1.5" class="mark" />
            <span class="cut grow">{{ thing.name }}</span>
            <TriangleAlert
              v-if="flagged.has(thing.id)"
              :size="14"
              :stroke-width="1.5"
              class="flag"
              :aria-label="flagged.get(thing.id)"
            />
            <span v-if="rides" class="small cut rides">on {{ rides }}</span>
            <span v-else class="small">{{ points(thing) }}</span>
          </button>
          <button
            type="button"
            class="tool"
            :title="thing.visible ? 'Hide' : 'Show'"
            :aria-pressed="thing.visible"
            @click="flip(thing, 'visible')"
          >
            <component :is="thing.visible ? Eye : EyeOff" :size="16" :stroke-width="1.5" />
          </button>
          <button
            v-if="thing.role === 'cloth' || thing.role === 'collider'"
            type="button"
            class="tool"
            :title="thing.enabled ? 'In the run; click to leave out' : 'Left out; click to take in'"
            :aria-pressed="thing.enabled"
            @click="flip(thing, 'enabled')"
          >
            <i class="run" :class="{ on: thing.enabled }" />
          </button>
          <span v-else class="tool" />
        </div>
      </template>
      <p v-if="dragged.length > 0" class="small empty">Let go on a thing to ride it, or here to ride nothing.</p>
    </div>
    <footer class="small"><i class="run on" />in the run<span class="grow" /><i class="run" />left out</footer>
  </aside>
</template>

<style scoped>
.things {
  grid-area: things;
  border-left: 1px solid var(--rule);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
header {
  display: flex;
  align-items: center;
  height: 40px;
  padding: 0 12px;
  flex: none;
}
.list {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
}
.empty {
  padding: 8px 12px;
}
.group {
  display: flex;
  padding: 12px 12px 4px;
}
.thing {
  display: grid;
  grid-template-columns: 1fr 24px 24px;
  align-items: center;
  height: 28px;
  padding: 0 8px 0 0;
  position: relative;
}
.thing:hover {
  background: color-mix(in srgb, var(--linen-0) 60%, transparent);
}
.thing[aria-current='true'] {
  background: var(--linen-0);
}
.thing[aria-current='true'] .name > span:nth-child(2) {
  font-weight: 600;
}
.thing.also {
  background: color-mix(in srgb, var(--linen-0) 80%, transparent);
}
.thing.also .name > span:nth-child(2) {
  font-weight: 600;
}
.thing.over {
  box-shadow: inset 0 0 0 2px var(--indigo);
}
.flag {
  color: var(--weld);
  flex: none;
}
.rides {
  max-width: 72px;
}
.name {
  display: flex;
  gap: 8px;
  align-items: center;
  height: 28px;
  min-width: 0;
  text-align: left;
  padding: 0 4px 0 12px;
}
.hidden .name {
  color: var(--ink-6);
}
.swatch {
  width: 16px;
  height: 16px;
  border-radius: 2px;
  flex: none;
  box-shadow: inset 0 0 0 1px rgb(31 36 48 / 22%);
}
.mark {
  color: var(--ink-6);
  flex: none;
}
.tool {
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  color: var(--ink-6);
}
.run {
  width: 12px;
  height: 12px;
  border-radius: 50%;
  box-shadow: inset 0 0 0 1.5px var(--mark);
  display: inline-block;
}
.run.on {
  background: var(--woad);
  box-shadow: none;
}
footer {
  display: flex;
  gap: 8px;
  align-items: center;
  height: 40px;
  padding: 0 12px;
  border-top: 1px solid var(--rule);
  flex: none;
}
</style>
