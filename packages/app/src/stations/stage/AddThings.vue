<script setup lang="ts">
import { offersFor, readTypedLine, SHAPES, TYPED_EXAMPLE } from '@lumbra/core';
import { FileUp } from '@lucide/vue';
import { useFileDialog, useMutationObserver } from '@vueuse/core';
import { ElAutocomplete } from 'element-plus';
import 'element-plus/es/components/autocomplete/style/css';
import { computed, onMounted, ref } from 'vue';
import { ADDABLE, useThingActs, type AddKind } from '../../acts/useThingActs';
import FoldSection from '../../fields/FoldSection.vue';
import { vTip } from '../../fields/tip';
import { THING_TYPE } from '../../pointer/dragTypes';
import { useDocumentStore } from '../../session/document';
import { useImportStore } from '../../stores/importing';
import { useSelectionStore } from '../../stores/selection';

// Bringing things to the stage: type it with its size, press a name or drag it into the viewport, or bring in a file.

const document = useDocumentStore();
const importing = useImportStore();
const selection = useSelectionStore();
const { add } = useThingActs();
const { open, onChange } = useFileDialog({
  accept: '.obj,.glb,.gltf,.stl,.ply,.usda,.usdc,.usd,.bin,.zip',
  multiple: true,
  reset: true,
});
const text = ref('');
const read = computed(() =>
  text.value.trim() === '' || !document.shot ? null : readTypedLine(text.value, document.shot, document.assets),
);
const line = ref<HTMLElement | null>(null);
// While none of what is offered is chosen, the component names a line that is not there.
useMutationObserver(
  line,
  (changes) => {
    for (const { target } of changes) {
      const active = target instanceof Element ? target.getAttribute('aria-activedescendant') : null;
      if (active?.endsWith('--1')) (target as Element).removeAttribute('aria-activedescendant');
    }
  },
  { subtree: true, attributes: true, childList: true },
);
onMounted(() => line.value?.querySelector('input')?.removeAttribute('aria-activedescendant'));
const wasEmpty = document.shot?.things.length === 0;

const label = (kind: AddKind) => (kind === 'mount' ? 'Mount' : SHAPES[kind].label);

onChange((files) => {
  if (files) importing.begin([...files]);
});

function drag(event: DragEvent, kind: AddKind): void {
  event.dataTransfer?.setData(THING_TYPE, kind);
}

interface Offer {
  value: string;
  offered: boolean;
}

function offer(typed: string, show: (lines: Offer[]) => void): void {
  show(typed.trim() === '' ? [] : offersFor(typed).map((value) => ({ value, offered: true })));
}

/** Enter takes the line that is chosen among those offered; with none chosen it adds what is typed. */
function taken(line: Partial<Offer>): void {
  if (!line.offered) addTyped();
}

function addTyped(): void {
  const typed = read.value;
  if (!typed?.ok) return;
  let made: string[] = [];
  if (!document.edit(`Add ${typed.line.summary}`, (draft) => void (made = typed.line.apply(draft)))) return;
  if (made.length > 0) selection.select(made.at(-1)!);
  text.value = '';
}
</script>

<template>
  <form ref="line" class="typed" @submit.prevent="addTyped">
    <ElAutocomplete
      v-model="text"
      class="grow"
      size="small"
      aria-label="Type what to add"
      :placeholder="TYPED_EXAMPLE"
      :fetch-suggestions="offer"
      :trigger-on-focus="false"
      :debounce="60"
      :show-arrow="false"
      :offset="4"
      popper-class="select-list"
      append-to="#overlays"
      select-when-unmatched
      @select="taken($event as Partial<Offer>)"
      @keydown.stop
    />
    <button type="submit" class="choice" :disabled="!read?.ok">Add</button>
  </form>
  <p v-if="read" class="small note" :class="{ problem: !read.ok }" data-testid="typed">
    {{ read.ok ? read.line.summary : read.reason }}
  </p>
  <FoldSection title="Shapes and files" :open="wasEmpty">
    <div class="choices shapes">
      <button
        v-for="kind in ADDABLE"
        :key="kind"
        v-tip="'Press to put it in the middle, or drag it to a place in the view'"
        type="button"
        class="choice"
        draggable="true"
        @click="add(kind)"
        @dragstart="drag($event, kind)"
      >
        {{ label(kind) }}
      </button>
      <button v-tip="'Bring in OBJ, glTF, STL or PLY'" type="button" class="choice file" @click="open()">
        <FileUp :size="14" :stroke-width="1.5" />Mesh file
      </button>
    </div>
  </FoldSection>
</template>

<style scoped>
.file {
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
  margin-top: 4px;
}
.typed .choice {
  flex: none;
}
.note {
  margin-top: 4px;
}
.note.problem {
  color: var(--madder);
}
</style>
