<script setup lang="ts">
import { formatQuantity, pointCount, shapeMesh, type Role, type Thing } from '@lumbra/core';
import { Box, Crosshair, Eye, EyeOff, Mountain } from '@lucide/vue';
import { computed } from 'vue';
import { useDocumentStore } from '../stores/document';
import { useSelectionStore } from '../stores/selection';

const GROUPS: { role: Role; label: string }[] = [
  { role: 'cloth', label: 'Cloth' },
  { role: 'collider', label: 'Colliders' },
  { role: 'peg', label: 'Pegs' },
  { role: 'scenery', label: 'Scenery' },
];
const ICONS = { collider: Box, peg: Crosshair, scenery: Mountain };

const document = useDocumentStore();
const selection = useSelectionStore();
const things = computed(() => document.shot?.things ?? []);
const groups = computed(() =>
  GROUPS.map((group) => ({ ...group, things: things.value.filter(({ role }) => role === group.role) })).filter(
    (group) => group.things.length > 0,
  ),
);

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
  <aside class="cast" aria-label="Cast">
    <header>
      <h2 class="grow">Cast</h2>
      <span class="small">{{ things.length }} {{ things.length === 1 ? 'thing' : 'things' }}</span>
    </header>
    <div class="list">
      <p v-if="things.length === 0" class="small empty">No things yet. Add them at the Stage.</p>
      <template v-for="group in groups" :key="group.role">
        <div class="group small">
          <span class="grow">{{ group.label }}</span><span v-if="group.role === 'cloth'">points</span>
        </div>
        <div
          v-for="thing in group.things"
          :key="thing.id"
          class="thing stitched"
          :class="{ hidden: !thing.visible }"
          :aria-current="thing.id === selection.thingId"
        >
          <button type="button" class="name" @click="selection.select(thing.id)">
            <span v-if="thing.role === 'cloth'" class="swatch" :style="{ background: thing.print.colour }" />
            <component :is="ICONS[thing.role]" v-else :size="16" :stroke-width="1.5" class="mark" />
            <span class="cut grow">{{ thing.name }}</span>
            <span class="small">{{ points(thing) }}</span>
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
    </div>
    <footer class="small"><i class="run on" />in the run<span class="grow" /><i class="run" />left out</footer>
  </aside>
</template>

<style scoped>
.cast {
  grid-area: cast;
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
