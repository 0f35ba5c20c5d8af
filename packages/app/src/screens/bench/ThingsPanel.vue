<script setup lang="ts">
import { formatQuantity, pointCount, shapeMesh, type Role, type Thing } from '@lumbra/core';
import { Box, Crosshair, Eye, EyeOff, Mountain, TriangleAlert, Wind } from '@lucide/vue';
import { ElTree } from 'element-plus';
import 'element-plus/es/components/tree/style/css';
import { computed, ref } from 'vue';
import { useThingActs } from '../../acts/useThingActs';
import { useChecksStore } from '../../stores/checks';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { vTip } from '../../fields/tip';

const GROUPS: { role: Role; label: string }[] = [
  { role: 'cloth', label: 'Cloth' },
  { role: 'collider', label: 'Colliders' },
  { role: 'mount', label: 'Mounts' },
  { role: 'scenery', label: 'Scenery' },
  { role: 'air', label: 'Air' },
];
const ICONS = { collider: Box, mount: Crosshair, scenery: Mountain, air: Wind };
/** What takes part in a run by itself. */
const RUN: readonly Role[] = ['cloth', 'collider', 'air'];

/** A node of the tree, as far as it concerns us. */
interface TreeNode {
  data: object;
}
const rowOf = ({ data }: TreeNode) => data as Row;

/** A group of things, or a thing with those of its group that ride it. */
interface Row {
  id: string;
  label: string;
  thing: Thing | null;
  /** What it rides, where that stands in another group. */
  rides: string | null;
  children: Row[];
}

const document = useDocumentStore();
const selection = useSelectionStore();
const checks = useChecksStore();
const acts = useThingActs();
const things = computed(() => document.shot?.things ?? []);
/** Rises when the tree has changed its rows by itself, to draw what the shot has. */
const drawn = ref(0);
const rows = computed<Row[]>(() => {
  void drawn.value;
  const names = new Map(things.value.map(({ id, name }) => [id, name]));
  return GROUPS.map(({ role, label }) => {
    const group = things.value.filter((thing) => thing.role === role);
    return { id: `group:${role}`, label, thing: null, rides: null, children: rowsOf(group, names) };
  }).filter(({ children }) => children.length > 0);
});
const alsoSelected = computed(() => new Set(selection.others));
const flagged = computed(() => new Map(checks.findings.map(({ thing, text }) => [thing, text])));

/** Things of a group, each under what it rides. */
function rowsOf(group: readonly Thing[], names: ReadonlyMap<string, string>): Row[] {
  const made = new Map<string, Row>(
    group.map((thing) => [thing.id, { id: thing.id, label: thing.name, thing, rides: null, children: [] }]),
  );
  const top: Row[] = [];
  for (const { id, parent } of group) {
    const row = made.get(id)!;
    const under = parent === null ? undefined : made.get(parent);
    if (under) under.children.push(row);
    else {
      row.rides = parent === null ? null : (names.get(parent) ?? null);
      top.push(row);
    }
  }
  return top;
}

function press(event: MouseEvent | KeyboardEvent, row: Row): void {
  if (row.thing) selection.select(row.thing.id, event.shiftKey || event.ctrlKey || event.metaKey);
}

/** Keys on a row: the tree goes up and down by itself, enter and space select. */
function onKey(event: KeyboardEvent): void {
  if (event.key.startsWith('Arrow')) return event.stopPropagation();
  const id = (event.target as HTMLElement).closest<HTMLElement>('.el-tree-node')?.dataset['key'];
  if ((event.key !== 'Enter' && event.key !== ' ') || !id || (event.target as HTMLElement).matches('button')) return;
  event.preventDefault();
  event.stopPropagation();
  if (things.value.some((thing) => thing.id === id))
    selection.select(id, event.shiftKey || event.ctrlKey || event.metaKey);
}

/** Things are let go onto what they are to ride; onto a group they ride nothing. */
function mayDrop(_: TreeNode, onto: TreeNode, how: string): boolean {
  return how === 'inner' && !document.readOnly && rowOf(onto) !== undefined;
}

function mayDrag(node: TreeNode): boolean {
  return !document.readOnly && rowOf(node).thing !== null;
}

function ride(dragged: TreeNode, dropped: TreeNode): void {
  const [row, onto] = [rowOf(dragged), rowOf(dropped)];
  const all = selection.allSelected();
  const ids = all.includes(row.id) ? all : [row.id];
  const carrier = onto.thing?.id ?? null;
  if (carrier === null || !ids.includes(carrier)) acts.ride(ids, carrier);
  drawn.value++;
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
    <div class="list" @keydown="onKey">
      <p v-if="things.length === 0" class="small empty">No things yet. Add them at the Stage.</p>
      <ElTree
        v-else
        :data="rows"
        node-key="id"
        :indent="12"
        default-expand-all
        :expand-on-click-node="false"
        draggable
        :allow-drag="mayDrag"
        :allow-drop="mayDrop"
        aria-label="Things of the shot"
        @node-click="(row: Row, _node: unknown, _tree: unknown, event: MouseEvent) => press(event, row)"
        @node-drop="ride"
      >
        <template #default="{ data: { thing, label, rides, id } }: { data: Row }">
          <span v-if="!thing" class="group small">
            <span class="grow">{{ label }}</span><span v-if="id === 'group:cloth'">points</span>
          </span>
          <span
            v-else
            v-tip:cut="thing.name"
            class="thing stitched"
            :class="{ hidden: !thing.visible, also: alsoSelected.has(thing.id) }"
            :aria-current="thing.id === selection.thingId"
            data-testid="thing"
          >
            <span v-if="thing.role === 'cloth'" class="swatch" :style="{ background: thing.print.colour }" />
            <component :is="ICONS[thing.role]" v-else :size="16" :stroke-width="1.5" class="mark" />
            <span class="cut grow name">{{ thing.name }}</span>
            <TriangleAlert
              v-if="flagged.has(thing.id)"
              :size="14"
              :stroke-width="1.5"
              class="flag"
              role="img"
              :aria-label="flagged.get(thing.id)"
            />
            <span v-if="rides" class="small cut rides">on {{ rides }}</span>
            <span
              v-else-if="thing.role === 'cloth' && thing.given"
              v-tip="'It is not computed: its motion is given'"
              class="small"
              >follows</span
            >
            <span v-else class="small">{{ points(thing) }}</span>
            <button
              v-tip="thing.visible ? 'Hide' : 'Show'"
              type="button"
              class="tool"
              :aria-label="`Show ${thing.name}`"
              :aria-pressed="thing.visible"
              @click.stop="flip(thing, 'visible')"
            >
              <component :is="thing.visible ? Eye : EyeOff" :size="16" :stroke-width="1.5" />
            </button>
            <button
              v-if="RUN.includes(thing.role)"
              v-tip="thing.enabled ? 'In the run; press to leave out' : 'Left out; press to take in'"
              type="button"
              class="tool"
              :aria-label="`${thing.name} in the run`"
              :aria-pressed="thing.enabled"
              @click.stop="flip(thing, 'enabled')"
            >
              <i class="run" :class="{ on: thing.enabled }" />
            </button>
            <span v-else class="tool" />
          </span>
        </template>
      </ElTree>
    </div>
    <footer class="small"><i class="run on" />in the run<span class="grow" /><i class="run" />left out</footer>
  </aside>
</template>

<style scoped>
.things {
  height: 100%;
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
.list :deep(.el-tree) {
  --el-tree-node-content-height: 28px;
  --el-tree-node-hover-bg-color: color-mix(in srgb, var(--linen-0) 60%, transparent);
  --el-tree-text-color: var(--ink-9);
  background: none;
}
.list :deep(.el-tree-node:focus > .el-tree-node__content) {
  outline: 2px solid var(--indigo);
  outline-offset: -2px;
  background: none;
}
.list :deep(.el-tree-node__expand-icon) {
  padding: 2px;
  margin-left: 4px;
  color: var(--ink-6);
}
.list :deep(.el-tree-node__expand-icon.is-leaf) {
  color: transparent;
}
.list :deep(.el-tree-node.is-drop-inner > .el-tree-node__content) {
  box-shadow: inset 0 0 0 2px var(--indigo);
}
.list :deep(.is-drop-inner .thing),
.list :deep(.is-drop-inner .group) {
  color: inherit;
}
.group {
  display: flex;
  flex: 1;
  padding-right: 60px;
}
.thing {
  display: flex;
  gap: 8px;
  align-items: center;
  flex: 1;
  min-width: 0;
  height: 28px;
  padding-right: 8px;
}
.list :deep(.el-tree-node__content) {
  position: relative;
}
.thing.stitched {
  position: static;
}
.list :deep(.el-tree-node__content:has(> .thing[aria-current='true'])) {
  background: var(--linen-0);
}
.list :deep(.el-tree-node__content:has(> .thing.also)) {
  background: color-mix(in srgb, var(--linen-0) 80%, transparent);
}
.thing[aria-current='true'] .name,
.thing.also .name {
  font-weight: 600;
}
.flag {
  color: var(--weld);
  flex: none;
}
/* Where there is little room, the name has it: what a thing rides gives way. */
.thing .name {
  flex: 1 1 auto;
}
.rides {
  flex: 0 1000 auto;
  min-width: 24px;
  max-width: 64px;
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
  margin-left: -4px;
  display: grid;
  place-items: center;
  color: var(--ink-6);
  flex: none;
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
