<script setup lang="ts">
import { formatQuantity, type ClothDifference, type TakeDifference } from '@lumbra/core';
import { useFileDialog } from '@vueuse/core';
import { shallowRef } from 'vue';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';

// A cache that was written is read back and compared with the take that is looked at.

const props = defineProps<{ disabled: boolean; compare: (cache: File) => Promise<TakeDifference | null> }>();
const run = useRunStore();
const selection = useSelectionStore();
const found = shallowRef<{ name: string; difference: TakeDifference } | null>(null);
const { open, onChange, reset } = useFileDialog({ accept: '.usd,.usda,.usdc,.glb,.zip', multiple: false });

async function compareWith(file: File): Promise<void> {
  found.value = null;
  const difference = await props.compare(file);
  if (difference) found.value = { name: file.name, difference };
}
onChange((files) => {
  const file = files?.[0];
  reset();
  if (file) void compareWith(file);
});

/** Distances that files do not tell apart. */
const SAME = 1e-6;
const distance = (metres: number) => `${formatQuantity(metres, 'mm', 3)} mm`;
const words = ({ greatest, frame, mean }: ClothDifference) =>
  greatest < SAME ? 'the same' : `at most ${distance(greatest)} at frame ${frame}, ${distance(mean)} on average`;

function look({ frame, place, greatest }: ClothDifference): void {
  run.playing = false;
  run.goTo(frame);
  selection.mark = { place: [...place], text: `${distance(greatest)} from the cache` };
}
</script>

<template>
  <button type="button" class="secondary file" :disabled="disabled" @click="open()">
    Compare with a cache…<span class="small">how far apart</span>
  </button>
  <div v-if="found" class="found" role="status">
    <p class="small">
      {{ found.name }}: {{ found.difference.compared }} frames compared<template
        v-if="found.difference.frames[0] !== found.difference.frames[1]"
        >; {{ found.difference.frames[0] }} here, {{ found.difference.frames[1] }} in the cache</template
      >.
    </p>
    <ul aria-label="Differences from the cache">
      <li v-for="cloth in found.difference.cloths" :key="cloth.id">
        <button type="button" class="line small" @click="look(cloth)">{{ cloth.name }}: {{ words(cloth) }}</button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.file {
  margin-top: 4px;
  justify-content: space-between;
  flex: none;
}
.found {
  margin-top: 4px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.line {
  display: block;
  width: 100%;
  padding: 4px 0;
  text-align: left;
}
.line:hover {
  color: var(--ink-9);
}
</style>
