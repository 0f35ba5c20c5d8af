<script setup lang="ts">
import { formatQuantity, CONTACT_SHAPES, shapeMesh, type Collider, type Shot, type ContactShape } from '@lumbra/core';
import { computed, ref, watchEffect } from 'vue';
import KeyedField from '../../fields/KeyedField.vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { fitContactShape } from '../../workers/meshWork';

// How a collider meets cloth.

const props = defineProps<{ thing: Collider }>();
const document = useDocumentStore();
const selection = useSelectionStore();

const SIDES: { id: Collider['side']; label: string; help: string }[] = [
  { id: 'auto', label: 'By its shape', help: 'Outside of closed shapes, both sides of open ones.' },
  { id: 'outside', label: 'Outside', help: 'Cloth is always pushed out along its face normals.' },
  { id: 'inside', label: 'Inside', help: 'Cloth is kept within it.' },
  { id: 'both', label: 'Both sides', help: 'Cloth stays on the side where it is.' },
];
const LABELS: Record<ContactShape, string> = {
  exact: 'Its exact shape',
  'coarse hull': 'A coarse hull',
  box: 'A fitted box',
  ball: 'A fitted ball',
  cylinder: 'A fitted cylinder',
  capsule: 'A fitted capsule',
};
/** Shapes that the run meets exactly anyway need no simpler one. */
const fits = computed(
  () => ['mesh', 'ring', 'knot', 'tube', 'cone'].includes(props.thing.shape.kind) && !props.thing.motion,
);
/** What cloth meets, in words; being fitted, nothing. */
const faces = ref('');
watchEffect(() => void describe());

async function describe(): Promise<void> {
  const { shape, contactShape } = props.thing;
  faces.value = '';
  if (!fits.value || (shape.kind === 'mesh' && !document.assets.has(shape.asset))) return;
  const mesh = shapeMesh(shape, document.assets);
  const body = await fitContactShape(mesh, contactShape);
  if (props.thing.contactShape !== contactShape) return;
  faces.value =
    body.kind === 'mesh'
      ? `${formatQuantity(body.mesh.triangles.length / 3, '', 6)} faces are met.`
      : 'It is met exactly.';
}

function set(label: string, change: (collider: Collider) => void): void {
  document.edit(`${props.thing.name}, ${label}`, (draft: Shot) => {
    const found = draft.things.find(({ id }) => id === props.thing.id);
    if (found?.role === 'collider') change(found);
  });
}
</script>

<template>
  <div class="section">
    <h2 class="grow">Contact</h2>
    <label class="small show">
      <input v-model="selection.showContact" type="checkbox" />
      show what cloth meets
    </label>
  </div>
  <label v-if="fits" class="line">
    <span>Cloth meets</span>
    <select
      class="select"
      :value="thing.contactShape"
      @change="
        set(
          'what cloth meets',
          (found) => (found.contactShape = ($event.target as HTMLSelectElement).value as ContactShape),
        )
      "
      @keydown.stop
    >
      <option v-for="contactShape in CONTACT_SHAPES" :key="contactShape" :value="contactShape">
        {{ LABELS[contactShape] }}
      </option>
    </select>
  </label>
  <p v-if="fits" class="small note">{{ faces }}</p>
  <label class="line">
    <span>Side that counts</span>
    <select
      class="select"
      :value="thing.side"
      @change="
        set(
          'side that counts',
          (found) => (found.side = ($event.target as HTMLSelectElement).value as Collider['side']),
        )
      "
      @keydown.stop
    >
      <option v-for="side in SIDES" :key="side.id" :value="side.id">{{ side.label }}</option>
    </select>
  </label>
  <p class="small note">{{ SIDES.find(({ id }) => id === thing.side)?.help }}</p>
  <KeyedField
    v-for="number in ['clearance', 'friction', 'bounce']"
    :key="number"
    :thing="thing.id"
    :number="number"
    :subject="thing.name"
  />
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding-left: 16px;
  min-height: 28px;
  margin-top: 4px;
}
.note {
  margin: 4px 0 0 16px;
}
.show {
  display: flex;
  gap: 4px;
  align-items: center;
}
.show input {
  accent-color: var(--indigo);
}
</style>
