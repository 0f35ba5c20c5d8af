<script setup lang="ts">
import {
  borderPoints,
  cornerPoints,
  createPinSet,
  grownPoints,
  newId,
  shapeMesh,
  shrunkPoints,
  sidePoints,
  type Shot,
  type Side,
} from '@lumbra/core';
import { SquareDashed, Trash2, X } from '@lucide/vue';
import { computed } from 'vue';
import { useDocumentStore } from '../../stores/document';
import { useSelectionStore } from '../../stores/selection';
import StationPanel from '../StationPanel.vue';

const SIDES: { id: Side; label: string }[] = [
  { id: 'top', label: 'Far side' },
  { id: 'bottom', label: 'Near side' },
  { id: 'start', label: 'Left side' },
  { id: 'end', label: 'Right side' },
];

const document = useDocumentStore();
const selection = useSelectionStore();

const cloth = computed(() => selection.cloth);
const mesh = computed(() => (cloth.value ? shapeMesh(cloth.value.shape, document.assets) : null));
const chosenSet = computed(() => cloth.value?.pinSets.find(({ id }) => id === selection.pinSetId) ?? null);

function find(draft: Shot) {
  const found = draft.things.find(({ id }) => id === cloth.value?.id);
  return found?.role === 'cloth' ? found : undefined;
}

function selectPoints(points: number[]): void {
  selection.points = points;
  selection.tool = 'look';
}

function pin(): void {
  if (!cloth.value || selection.points.length === 0) return;
  const id = newId();
  const points = [...selection.points];
  const taken = new Set(cloth.value.pinSets.map(({ name }) => name));
  let number = cloth.value.pinSets.length + 1;
  while (taken.has(`Pins ${number}`)) number++;
  const made = document.edit(`Pin ${points.length} points`, (draft) => {
    find(draft)?.pinSets.push(createPinSet({ id, name: `Pins ${number}`, points }));
  });
  if (!made) return;
  selection.pinSetId = id;
  selection.points = [];
}

function unpin(id: string): void {
  const set = cloth.value?.pinSets.find((candidate) => candidate.id === id);
  if (!set) return;
  document.edit(`Delete ${set.name}`, (draft) => {
    const target = find(draft);
    if (target) target.pinSets = target.pinSets.filter((candidate) => candidate.id !== id);
  });
  selection.pinSetId = null;
}

function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim();
  const id = chosenSet.value?.id;
  if (name === '' || !id) return;
  document.edit('Rename pin set', (draft) => {
    const set = find(draft)?.pinSets.find((candidate) => candidate.id === id);
    if (set) set.name = name;
  });
}
</script>

<template>
  <StationPanel title="Hold" help="Where it is held. Pinned points stay where they start.">
    <p v-if="!cloth || !mesh" class="small empty">There is no cloth yet. Add a sheet at the Stage.</p>
    <template v-else>
      <div class="section">
        <h2 class="grow">Select on {{ cloth.name }}</h2>
        <span class="small" data-testid="selected-count">{{ selection.points.length }} points</span>
        <button
          v-if="selection.points.length"
          type="button"
          class="icon-button"
          title="Select nothing"
          @click="selectPoints([])"
        >
          <X :size="16" :stroke-width="1.5" />
        </button>
      </div>
      <div class="choices">
        <button
          type="button"
          class="choice with-icon"
          :aria-pressed="selection.tool === 'box'"
          title="Draw a box around points in the viewport; with shift, add to the selection"
          @click="selection.tool = selection.tool === 'box' ? 'look' : 'box'"
        >
          <SquareDashed :size="14" :stroke-width="1.5" />Box
        </button>
        <button type="button" class="choice" @click="selectPoints(borderPoints(mesh))">Whole border</button>
        <template v-if="mesh.material">
          <button type="button" class="choice" @click="selectPoints(cornerPoints(mesh))">Corners</button>
          <button
            v-for="side in SIDES"
            :key="side.id"
            type="button"
            class="choice"
            @click="selectPoints(sidePoints(mesh, side.id))"
          >
            {{ side.label }}
          </button>
        </template>
        <template v-if="selection.points.length">
          <button
            type="button"
            class="choice"
            title="Take in the neighbours of what is selected"
            @click="selectPoints(grownPoints(mesh, selection.points))"
          >
            Grow
          </button>
          <button
            type="button"
            class="choice"
            title="Leave out the outermost points of what is selected"
            @click="selectPoints(shrunkPoints(mesh, selection.points))"
          >
            Shrink
          </button>
        </template>
      </div>
      <p class="small explain">
        {{
          selection.tool === 'box'
            ? 'Drag a box in the viewport. Shift adds to what is selected.'
            : 'Sides are those of the sheet as it is cut, seen from above.'
        }}
      </p>
      <div class="rule" />
      <div class="section"><h2>Pin sets</h2></div>
      <p v-if="cloth.pinSets.length === 0" class="small">Nothing is pinned. Select points above, then pin them.</p>
      <div v-for="set in cloth.pinSets" :key="set.id" class="set">
        <button
          type="button"
          class="row"
          :aria-current="set.id === selection.pinSetId"
          @click="selection.pinSetId = set.id"
        >
          <span class="head" />
          <span class="grow cut">{{ set.name }}</span>
          <span class="small">{{ set.points.length }} points, stay</span>
        </button>
      </div>
      <template v-if="chosenSet">
        <div class="section">
          <input
            class="text-input grow"
            type="text"
            aria-label="Pin set name"
            maxlength="120"
            :value="chosenSet.name"
            @change="rename"
            @keydown.stop
          />
          <button type="button" class="icon-button" title="Delete this pin set (undoable)" @click="unpin(chosenSet.id)">
            <Trash2 :size="16" :stroke-width="1.5" />
          </button>
        </div>
        <div class="choices">
          <button type="button" class="choice" @click="selectPoints([...chosenSet.points])">Select its points</button>
        </div>
      </template>
    </template>
    <template #action>
      <button type="button" class="primary" :disabled="selection.points.length === 0" @click="pin">
        {{ selection.points.length ? `Pin ${selection.points.length} points` : 'Select points to pin' }}
      </button>
    </template>
  </StationPanel>
</template>

<style scoped>
.with-icon {
  display: flex;
  align-items: center;
  gap: 4px;
}
.explain {
  margin-top: 8px;
}
.head {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--ink-9);
}
[aria-current='true'] .head {
  background: var(--indigo);
}
.empty {
  margin-top: 16px;
}
</style>
