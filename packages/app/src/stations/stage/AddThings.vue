<script setup lang="ts">
import { readTypedLine, SHAPES, TYPED_EXAMPLE } from '@lumbra/core';
import { FileUp } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useDocumentStore } from '../../session/document';
import { useImportStore } from '../../stores/importing';
import { useSelectionStore } from '../../stores/selection';
import { ADDABLE, useStageActs, type AddKind } from './useStageActs';

// Bringing things to the stage: press a name, drag it into the viewport, type it with its size, or bring in a file.

const document = useDocumentStore();
const importing = useImportStore();
const selection = useSelectionStore();
const { add } = useStageActs();
const picker = ref<HTMLInputElement | null>(null);
const text = ref('');
const read = computed(() =>
  text.value.trim() === '' || !document.shot ? null : readTypedLine(text.value, document.shot),
);

const label = (kind: AddKind) => (kind === 'mount' ? 'Mount' : SHAPES[kind].label);

function drag(event: DragEvent, kind: AddKind): void {
  event.dataTransfer?.setData('application/x-lumbra-thing', kind);
}

function addTyped(): void {
  const line = read.value;
  if (!line?.ok) return;
  let made: string[] = [];
  if (!document.edit(`Add ${line.line.summary}`, (draft) => void (made = line.line.apply(draft)))) return;
  if (made.length > 0) selection.select(made.at(-1)!);
  text.value = '';
}

function picked(event: Event): void {
  const input = event.target as HTMLInputElement;
  importing.begin([...(input.files ?? [])]);
  input.value = '';
}
</script>

<template>
  <div class="section">
    <h2 class="grow">Add</h2>
    <button type="button" class="choice thing" title="Bring in OBJ, glTF, STL or PLY" @click="picker?.click()">
      <FileUp :size="14" :stroke-width="1.5" />Mesh file
    </button>
  </div>
  <div class="choices shapes">
    <button
      v-for="kind in ADDABLE"
      :key="kind"
      type="button"
      class="choice"
      draggable="true"
      title="Press to put it in the middle, or drag it to a place in the view"
      @click="add(kind)"
      @dragstart="drag($event, kind)"
    >
      {{ label(kind) }}
    </button>
    <input
      ref="picker"
      type="file"
      accept=".obj,.glb,.gltf,.stl,.ply,.bin"
      multiple
      hidden
      data-testid="mesh-file"
      @change="picked"
    />
  </div>
  <form class="typed" @submit.prevent="addTyped">
    <input
      v-model="text"
      class="text-input grow"
      type="text"
      aria-label="Type what to add"
      :placeholder="TYPED_EXAMPLE"
      @keydown.stop
    />
    <button type="submit" class="choice" :disabled="!read?.ok">Add</button>
  </form>
  <p v-if="read" class="small note" :class="{ problem: !read.ok }" data-testid="typed">
    {{ read.ok ? read.line.summary : read.reason }}
  </p>
</template>

<style scoped>
.thing {
  display: flex;
  align-items: center;
  gap: 4px;
}
.shapes .choice {
  padding: 0 6px;
}
.typed {
  display: flex;
  gap: 4px;
  margin-top: 8px;
}
.note {
  margin-top: 4px;
}
.note.problem {
  color: var(--madder);
}
</style>
