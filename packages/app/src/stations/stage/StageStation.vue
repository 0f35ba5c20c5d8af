<script setup lang="ts">
import {
  createCollider,
  createCloth,
  createPeg,
  createScenery,
  colliderSchema,
  formatQuantity,
  quantityOf,
  SHAPES,
  sheetGrid,
  type Collider,
  type Role,
  type Shot,
  type Thing,
} from '@lumbra/core';
import { Copy, FileUp, Trash2 } from '@lucide/vue';
import { computed, ref } from 'vue';
import type { z } from 'zod';
import FoldSection from '../../fields/FoldSection.vue';
import PlaceFields from '../../fields/PlaceFields.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import { useDocumentStore } from '../../stores/document';
import { useSelectionStore } from '../../stores/selection';
import RunAction from '../RunAction.vue';
import StationPanel from '../StationPanel.vue';
import { useAddThing } from './addThing';

const ADD = [
  { kind: 'cloth', label: 'Sheet' },
  { kind: 'box', label: 'Box' },
  { kind: 'ball', label: 'Ball' },
  { kind: 'cylinder', label: 'Cylinder' },
  { kind: 'ring', label: 'Ring' },
  { kind: 'ground', label: 'Ground' },
  { kind: 'peg', label: 'Peg' },
] as const;
const ROLES: { id: Role; label: string }[] = [
  { id: 'cloth', label: 'Cloth' },
  { id: 'collider', label: 'Collider' },
  { id: 'scenery', label: 'Scenery' },
];

const SIDES: { id: Collider['side']; label: string; help: string }[] = [
  { id: 'auto', label: 'By its shape', help: 'Outside of closed shapes, both sides of open ones.' },
  { id: 'outside', label: 'Outside', help: 'Cloth is always pushed out along its face normals.' },
  { id: 'inside', label: 'Inside', help: 'Cloth is kept within it.' },
  { id: 'both', label: 'Both sides', help: 'Cloth stays on the side where it is.' },
];

const document = useDocumentStore();
const selection = useSelectionStore();
const { add, importMesh, remove, duplicate } = useAddThing();
const picker = ref<HTMLInputElement | null>(null);

const thing = computed(() => selection.thing);
const shape = computed(() => (thing.value && 'shape' in thing.value ? thing.value.shape : null));
const shapeSchema = computed(() => (shape.value ? SHAPES[shape.value.kind].schema : null));
const numbers = computed(() =>
  shapeSchema.value
    ? Object.entries(shapeSchema.value.shape)
        .filter(([, schema]) => quantityOf(schema as z.core.$ZodType) !== undefined)
        .map(([name]) => ({ name, value: (shape.value as unknown as Record<string, number>)[name]! }))
    : [],
);
const buys = computed(() => {
  if (shape.value?.kind !== 'sheet') return null;
  const { columns, rows } = sheetGrid(shape.value);
  const points = formatQuantity(columns * rows, '');
  return `${columns} × ${rows} = ${points} points; the smallest fold is about ${formatQuantity(shape.value.spacing * 4, 'mm')} mm.`;
});

function findThing(draft: Shot): Thing | undefined {
  return draft.things.find(({ id }) => id === thing.value?.id);
}
function findShape(draft: Shot): object | undefined {
  const found = findThing(draft);
  return found && 'shape' in found ? found.shape : undefined;
}

function rename(event: Event): void {
  const input = event.target as HTMLInputElement;
  const name = input.value.trim();
  if (name === '' || !thing.value) {
    input.value = thing.value?.name ?? '';
    return;
  }
  document.edit(`Rename ${thing.value.name}`, (draft) => {
    const found = findThing(draft);
    if (found) found.name = name;
  });
}

/** Another role keeps name, place, shape and whatever else both roles have. */
function setRole(role: Role): void {
  const old = thing.value;
  if (!old || old.role === role) return;
  const { id, name, visible, enabled, position, rotation, keys } = old;
  const base = { id, name, visible, enabled, position, rotation, keys };
  const kept = { ...base, ...('shape' in old && { shape: old.shape }) };
  const makers: Partial<Record<Role, () => Thing>> = {
    cloth: () => createCloth(kept),
    collider: () => createCollider(kept),
    scenery: () => createScenery(kept),
    peg: () => createPeg(base),
  };
  const next = makers[role]!();
  document.edit(`Make ${name} ${role}`, (draft) => {
    draft.things = draft.things.map((candidate) => (candidate.id === id ? next : candidate));
  });
}

function setSide(event: Event): void {
  const side = (event.target as HTMLSelectElement).value as Collider['side'];
  document.edit(`${thing.value!.name}, side that counts`, (draft) => {
    const found = findThing(draft);
    if (found?.role === 'collider') found.side = side;
  });
}

/** “place x and y over frames 8 to 100”. */
function keyedText({ keys }: Thing): string {
  const names = keys.map(({ number }) => number.replace('position.', 'place ').replace('rotation.', 'turn '));
  const frames = keys.flatMap(({ knots }) => knots.map(({ frame }) => frame));
  return `${names.join(', ')} over frames ${Math.min(...frames)} to ${Math.max(...frames)}`;
}

async function picked(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  for (const file of input.files ?? []) await importMesh(file);
  input.value = '';
}
</script>

<template>
  <StationPanel title="Stage" help="The things of the shot, at their real sizes.">
    <div class="section"><h2>Add</h2></div>
    <div class="choices">
      <button v-for="item in ADD" :key="item.kind" type="button" class="choice" @click="add(item.kind)">
        {{ item.label }}
      </button>
      <button type="button" class="choice file" @click="picker?.click()">
        <FileUp :size="14" :stroke-width="1.5" />Mesh file
      </button>
      <input ref="picker" type="file" accept=".obj,.glb" multiple hidden data-testid="mesh-file" @change="picked" />
    </div>
    <div class="rule" />

    <p v-if="document.shot?.things.length === 0" class="empty small">
      The stage is empty. Add a sheet to have cloth, and a ground or a box for it to fall on.
    </p>
    <p v-else-if="!thing" class="empty small">Click a thing in the viewport or in the cast to change it.</p>
    <template v-else>
      <div class="section">
        <input
          class="text-input grow strong"
          type="text"
          aria-label="Name"
          maxlength="120"
          :value="thing.name"
          @change="rename"
          @keydown.stop
        />
        <button type="button" class="icon-button" title="Duplicate" @click="duplicate(thing.id)">
          <Copy :size="16" :stroke-width="1.5" />
        </button>
        <button type="button" class="icon-button" title="Delete (undoable)" @click="remove(thing.id)">
          <Trash2 :size="16" :stroke-width="1.5" />
        </button>
      </div>
      <div v-if="shape && shape.kind !== 'ground'" class="choices" role="group" aria-label="Role">
        <button
          v-for="role in ROLES"
          :key="role.id"
          type="button"
          class="choice"
          :aria-pressed="thing.role === role.id"
          @click="setRole(role.id)"
        >
          {{ role.label }}
        </button>
      </div>
      <template v-if="shape && shapeSchema && numbers.length > 0">
        <div class="section">
          <h2>{{ SHAPES[shape.kind].label }}</h2>
        </div>
        <ThingQuantity
          v-for="number in numbers"
          :key="`${thing.id}.${number.name}`"
          :schema="shapeSchema"
          :name="number.name"
          :model-value="number.value"
          :find="findShape"
          :subject="thing.name"
          lazy
        />
        <p v-if="buys" class="small note">{{ buys }}</p>
      </template>
      <template v-if="thing.role === 'collider'">
        <div class="section"><h2>Contact</h2></div>
        <ThingQuantity
          :schema="colliderSchema"
          name="clearance"
          :model-value="thing.clearance"
          :find="findThing"
          :subject="thing.name"
        />
        <ThingQuantity
          :schema="colliderSchema"
          name="friction"
          :model-value="thing.friction"
          :find="findThing"
          :subject="thing.name"
        />
        <label class="line">
          <span>Side that counts</span>
          <select class="select" :value="thing.side" @change="setSide" @keydown.stop>
            <option v-for="side in SIDES" :key="side.id" :value="side.id">{{ side.label }}</option>
          </select>
        </label>
        <p class="small note">{{ SIDES.find(({ id }) => thing!.role === 'collider' && id === thing!.side)?.help }}</p>
      </template>
      <p v-if="thing.keys.length > 0" class="small note" data-testid="keyed">
        It moves: {{ keyedText(thing) }}. Its numbers below hold where it is not keyed.
      </p>
      <FoldSection title="Place and turn" :open="true"><PlaceFields :key="thing.id" :thing="thing" /></FoldSection>
    </template>
    <template #action><RunAction label="Settle" /></template>
  </StationPanel>
</template>

<style scoped>
.file {
  display: flex;
  align-items: center;
  gap: 4px;
}
.empty {
  margin-top: 16px;
}
.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding-left: 16px;
  min-height: 28px;
  margin-top: 4px;
}
.note {
  margin: 8px 0 0 16px;
}
</style>
