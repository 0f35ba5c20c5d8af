<script setup lang="ts">
import {
  CONTACT_SHAPES,
  formatQuantity,
  shapeMesh,
  SHAPES,
  type Collider,
  type Shot,
  type ContactShape,
} from '@lumbra/core';
import { computed, ref, watchEffect } from 'vue';
import KeyedField from '../../fields/KeyedField.vue';
import PickLine from '../../fields/PickLine.vue';
import TickBox from '../../fields/TickBox.vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { fitContactShape } from '../../workers/meshWork';

// How a collider meets cloth.

const props = defineProps<{ thing: Collider }>();
const document = useDocumentStore();
const selection = useSelectionStore();

const SIDES: { id: Collider['side']; name: string; help: string }[] = [
  { id: 'auto', name: 'By its shape', help: 'Outside of closed shapes, both sides of open ones.' },
  { id: 'outside', name: 'Outside', help: 'Cloth is always pushed out along its face normals.' },
  { id: 'inside', name: 'Inside', help: 'Cloth is kept within it.' },
  { id: 'both', name: 'Both sides', help: 'Cloth stays on the side where it is.' },
];
const LABELS: Record<ContactShape, string> = {
  exact: 'Its exact shape',
  'coarse hull': 'A coarse hull',
  box: 'A fitted box',
  ball: 'A fitted ball',
  cylinder: 'A fitted cylinder',
  capsule: 'A fitted capsule',
};
const SHAPES_MET = CONTACT_SHAPES.map((id) => ({ id, name: LABELS[id] }));
/** Shapes that the run meets exactly anyway need no simpler one. */
const fits = computed(() => !SHAPES[props.thing.shape.kind].body && !props.thing.motion);
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
    <TickBox :ticked="selection.showContact" @toggle="selection.showContact = !selection.showContact">
      show what cloth meets
    </TickBox>
  </div>
  <PickLine
    v-if="fits"
    label="Cloth meets"
    :model-value="thing.contactShape"
    :options="SHAPES_MET"
    @pick="set('what cloth meets', (found) => (found.contactShape = $event as ContactShape))"
  />
  <p v-if="fits" class="small note">{{ faces }}</p>
  <PickLine
    label="Side that counts"
    :model-value="thing.side"
    :options="SIDES"
    @pick="set('side that counts', (found) => (found.side = $event as Collider['side']))"
  />
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
.note {
  margin: 4px 0 0 16px;
}
</style>
