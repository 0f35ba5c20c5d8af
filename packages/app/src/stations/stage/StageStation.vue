<script setup lang="ts">
import { shapeMesh, type Clip, type Quantity, type Role } from '@lumbra/core';
import { Merge, Copy, Move3d, Rotate3d, Scaling, Trash2, UserRound } from '@lucide/vue';
import { computed, ref } from 'vue';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import FoldSection from '../../fields/FoldSection.vue';
import KeyTable from '../../fields/KeyTable.vue';
import PlaceFields from '../../fields/PlaceFields.vue';
import NameField from '../../fields/NameField.vue';
import QuantityField from '../../fields/QuantityField.vue';
import { useDocumentStore } from '../../session/document';
import { useKeyingStore } from '../../stores/keying';
import { useSelectionStore, type Tool } from '../../stores/selection';
import RunAction from '../RunAction.vue';
import StationPanel from '../StationPanel.vue';
import AddThings from './AddThings.vue';
import ArrangeActs from './ArrangeActs.vue';
import ContactFields from './ContactFields.vue';
import FillRow from './FillRow.vue';
import MotionFields from './MotionFields.vue';
import SizeFields from './SizeFields.vue';
import { useThingActs } from '../../acts/useThingActs';
import { vTip } from '../../fields/tip';

const ROLES: { id: Role; label: string }[] = [
  { id: 'cloth', label: 'Cloth' },
  { id: 'collider', label: 'Collider' },
  { id: 'scenery', label: 'Scenery' },
  { id: 'mount', label: 'Mount' },
];
const TOOLS: { id: Tool; label: string; icon: typeof Move3d }[] = [
  { id: 'move', label: 'Move (M)', icon: Move3d },
  { id: 'turn', label: 'Turn (T)', icon: Rotate3d },
  { id: 'size', label: 'Size (Y)', icon: Scaling },
];
const KEYED = [
  { label: 'Place', stem: 'position', unit: 'm' },
  { label: 'Turn', stem: 'rotation', unit: '°' },
] as const;
const DISTANCE: Quantity = {
  label: 'Distance',
  help: 'How far outside or inside the copy’s surface lies.',
  unit: 'mm',
  min: 0.0001,
  max: 1,
  default: 0.01,
  step: 0.0005,
};

const document = useDocumentStore();
const selection = useSelectionStore();
const keying = useKeyingStore();
const { addStart, remove, duplicate, rename, setRole, offsetCopy, makeOneMesh } = useThingActs();
const distance = ref(DISTANCE.default);

const thing = computed(() => selection.thing);
const count = computed(() => selection.allSelected().length);
const shaped = computed(() =>
  thing.value && 'shape' in thing.value && thing.value.shape.kind !== 'ground' ? thing.value : null,
);
const clips = computed<readonly Clip[]>(() => {
  if (!shaped.value) return [];
  try {
    return shapeMesh(shaped.value.shape, document.assets).motion?.clips ?? [];
  } catch {
    return [];
  }
});
const lost = computed(() => shaped.value?.shape.kind === 'mesh' && !document.assets.has(shaped.value.shape.asset));

const keysNote = computed(() => {
  const count = thing.value?.keys.length ?? 0;
  return count === 0 ? 'none' : count === 1 ? '1 number keyed' : `${count} numbers keyed`;
});
</script>

<template>
  <StationPanel title="Stage" help="The things of the shot, at their real sizes.">
    <AddThings />
    <div class="rule" />

    <template v-if="document.shot?.things.length === 0">
      <p class="empty small">
        The stage is empty. Add a sheet to have cloth, and a ground or a box for it to fall on; or drop a mesh file into
        the view.
      </p>
      <div class="choices">
        <button type="button" class="choice" @click="addStart">Start with a sheet over a box</button>
      </div>
    </template>
    <p v-else-if="!thing" class="empty small">Click a thing in the viewport or in Things to change it.</p>
    <template v-else>
      <div class="section">
        <NameField
          :key="thing.id"
          class="text-input grow strong"
          label="Name"
          :model-value="thing.name"
          @change="rename(thing.id, $event)"
        />
        <button
          v-tip="count > 1 ? `Duplicate ${count} things` : 'Duplicate'"
          type="button"
          class="icon-button"
          @click="duplicate"
        >
          <Copy :size="16" :stroke-width="1.5" />
        </button>
        <button v-if="count > 1" v-tip="'Make one mesh'" type="button" class="icon-button" @click="makeOneMesh">
          <Merge :size="16" :stroke-width="1.5" />
        </button>
        <button
          v-tip="count > 1 ? `Delete ${count} things (undoable)` : 'Delete (undoable)'"
          type="button"
          class="icon-button"
          @click="remove"
        >
          <Trash2 :size="16" :stroke-width="1.5" />
        </button>
      </div>
      <p v-if="count > 1" class="small">{{ count }} things are selected; the numbers are those of the last one.</p>
      <FillRow />
      <ChoiceRow
        v-if="shaped"
        class="role"
        label="Role"
        wide
        :model-value="thing.role"
        :options="ROLES"
        @pick="setRole(thing.id, $event)"
      />
      <p v-if="lost" class="small problem">
        Its mesh is not in the shot any more. Delete it, or undo what took the mesh away.
      </p>
      <SizeFields v-else-if="shaped" :key="thing.id" :thing="shaped" />
      <div class="section">
        <h2 class="grow">Place and turn</h2>
        <button
          v-for="tool in TOOLS.filter(({ id }) => id !== 'size' || shaped)"
          :key="tool.id"
          v-tip="tool.label"
          type="button"
          class="icon-button"
          :aria-pressed="selection.tool === tool.id"
          @click="selection.tool = selection.tool === tool.id ? 'look' : tool.id"
        >
          <component :is="tool.icon" :size="16" :stroke-width="1.5" />
        </button>
        <button
          v-tip="'A figure of 1.75 m for scale'"
          type="button"
          class="icon-button"
          :aria-pressed="selection.silhouette"
          @click="selection.silhouette = !selection.silhouette"
        >
          <UserRound :size="16" :stroke-width="1.5" />
        </button>
      </div>
      <p v-if="keying.goingOn?.thing === thing.id" class="small going">
        Every change of its keyed numbers keys.
        <button type="button" class="choice" @click="keying.goingOn = null">Stop keying</button>
      </p>
      <PlaceFields :key="`${thing.id}.place`" :thing="thing" />
      <ArrangeActs :key="`${thing.id}.arrange`" :thing="thing" />
      <template v-if="!lost">
        <ContactFields v-if="thing.role === 'collider'" :key="`${thing.id}.contact`" :thing="thing" />
        <MotionFields v-if="clips.length && 'motion' in thing" :thing="thing" :clips="clips" />
      </template>
      <FoldSection title="Keys in figures" :note="keysNote">
        <KeyTable :key="`${thing.id}.keys`" :thing="thing" :groups="KEYED" />
      </FoldSection>
      <FoldSection v-if="shaped && !lost" title="Inner or outer copy">
        <QuantityField :quantity="DISTANCE" :model-value="distance" @change="distance = $event" />
        <div class="choices indented">
          <button type="button" class="choice" @click="offsetCopy(shaped, distance)">Outer copy</button>
          <button type="button" class="choice" @click="offsetCopy(shaped, -distance)">Inner copy</button>
        </div>
      </FoldSection>
    </template>
    <template #action><RunAction label="Settle" /></template>
  </StationPanel>
</template>

<style scoped>
.empty {
  margin-top: 16px;
}
.role {
  margin-top: 4px;
}
.indented {
  margin-left: 16px;
}
.going {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 4px;
  padding-left: 8px;
  border-left: 2px solid var(--weld);
}
</style>
