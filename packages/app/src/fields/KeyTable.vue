<script setup lang="ts">
import {
  formatQuantity,
  keyableNumbers,
  parseQuantity,
  deleteKnots,
  setKnot,
  trackValue,
  valueAt,
  type Thing,
  type Unit,
} from '@lumbra/core';
import { Trash2 } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useDocumentStore } from '../session/document';
import { useRunStore } from '../stores/run';
import { vTip } from './tip';

// The keys of three numbers that belong together, a place or a turn, in figures: a row a frame. Rows can be typed or pasted, “30  0 0.47 −0.34”.

const props = defineProps<{
  thing: Thing;
  /** Which numbers: their names end in “.x”, “.y” and “.z”. */
  groups: readonly { label: string; stem: string; unit: Unit }[];
}>();
const document = useDocumentStore();
const run = useRunStore();
const chosen = ref(0);
const typed = ref('');
const problem = ref<string | null>(null);

const group = computed(() => props.groups[chosen.value]!);
const numbers = computed(() => ['x', 'y', 'z'].map((axis) => `${group.value.stem}.${axis}`));
const unit = computed(() => group.value.unit);
const tracks = computed(() => props.thing.keys.filter(({ number }) => numbers.value.includes(number)));
const rows = computed(() => {
  const frames = [...new Set(tracks.value.flatMap(({ knots }) => knots.map(({ frame }) => frame)))].sort(
    (a, b) => a - b,
  );
  return frames.map((frame) => ({
    frame,
    cells: numbers.value.map((number) => {
      const track = tracks.value.find((one) => one.number === number);
      const keyed = track?.knots.some((knot) => knot.frame === frame) ?? false;
      return { number, keyed, value: track ? trackValue(track, frame) : valueAt(props.thing, number, frame) };
    }),
  }));
});

/** Rows of a frame and three values, apart by spaces, tabs or semicolons; several lines at once when pasted. */
function addRows(): void {
  problem.value = null;
  const lines = typed.value
    .split(/\n/)
    .map((line) => line.trim())
    .filter(Boolean);
  const read: { frame: number; values: number[] }[] = [];
  for (const line of lines) {
    const parts = line
      .replace(/−/g, '-')
      .replace(/[:;,](\s)/g, '$1')
      .split(/[\s;]+/);
    const frame = Number(parts[0]);
    const values = parts.slice(1).map((part) => parseQuantity(part, unit.value));
    if (!Number.isFinite(frame) || values.length !== 3 || values.some((value) => !value.ok)) {
      problem.value = `“${line}” is not a frame and three numbers.`;
      return;
    }
    read.push({ frame, values: values.map((value) => (value.ok ? value.value : 0)) });
  }
  const twice = read.find(({ frame }, i) => read.findIndex((other) => other.frame === frame) !== i);
  if (twice) {
    problem.value = `Frame ${twice.frame} is given twice.`;
    return;
  }
  const done = document.edit(`Key ${props.thing.name}`, (draft) => {
    for (const { frame, values } of read) {
      numbers.value.forEach((number, i) => setKnot(draft, { thing: props.thing.id, number, frame }, values[i]!));
    }
  });
  if (done) typed.value = '';
}

function setCell(number: string, frame: number, event: Event): void {
  const input = event.target as HTMLInputElement;
  const parsed = parseQuantity(input.value, unit.value);
  if (parsed.ok)
    document.edit(`Key ${props.thing.name}`, (draft) =>
      setKnot(draft, { thing: props.thing.id, number, frame }, parsed.value),
    );
  else problem.value = parsed.reason;
  input.value = formatQuantity(valueAt(props.thing, number, frame), unit.value, 4);
}

function removeRow(frame: number): void {
  document.edit(`Delete keys at ${frame}`, (draft) =>
    deleteKnots(
      draft,
      numbers.value.map((number) => ({ thing: props.thing.id, number, frame })),
    ),
  );
}
</script>

<template>
  <div v-if="keyableNumbers(thing)[numbers[0]!]" class="table">
    <div class="choices" role="group" aria-label="Keys of">
      <button
        v-for="(one, i) in groups"
        :key="one.stem"
        type="button"
        class="choice"
        :aria-pressed="chosen === i"
        @click="chosen = i"
      >
        {{ one.label }}
      </button>
    </div>
    <div v-if="rows.length" class="grid small">
      <span>frame</span><span>x</span><span>y</span><span>z, {{ unit }}</span
      ><span />
      <template v-for="row in rows" :key="row.frame">
        <button v-tip="'Go to this frame'" type="button" class="frame" @click="run.goTo(row.frame)">
          {{ row.frame }}
        </button>
        <input
          v-for="cell in row.cells"
          :key="cell.number"
          type="text"
          :class="{ keyed: cell.keyed }"
          :aria-label="`${group.label} ${cell.number.slice(-1)} at frame ${row.frame}`"
          :value="formatQuantity(cell.value, unit, 4)"
          @change="setCell(cell.number, row.frame, $event)"
          @keydown.stop
        />
        <button v-tip="'Delete these keys'" type="button" class="icon" @click="removeRow(row.frame)">
          <Trash2 :size="12" :stroke-width="1.5" />
        </button>
      </template>
    </div>
    <form @submit.prevent="addRows">
      <textarea
        v-model="typed"
        class="text-input grow"
        rows="1"
        aria-label="New keys"
        placeholder="frame  x  y  z"
        @keydown.stop
        @keydown.enter.exact.prevent="addRows"
      />
      <button type="submit" class="choice" :disabled="typed.trim() === ''">Key</button>
    </form>
    <p v-if="problem" class="small problem">{{ problem }}</p>
  </div>
  <p v-else class="small">Cloth is moved by what holds it, not by keys.</p>
</template>

<style scoped>
.table {
  padding-left: 16px;
}
.grid {
  display: grid;
  grid-template-columns: 40px 1fr 1fr 1fr 20px;
  gap: 2px 4px;
  align-items: center;
  margin-top: 4px;
}
.grid > span {
  text-align: right;
}
.grid input {
  height: 24px;
  min-width: 0;
  text-align: right;
  padding-right: 4px;
  color: var(--ink-6);
  background: var(--linen-0);
  border-radius: 3px;
}
.grid input.keyed {
  color: var(--ink-9);
  font-weight: 600;
}
.frame {
  text-align: right;
  color: var(--ink-9);
}
.frame:hover {
  color: var(--indigo);
}
.icon {
  color: var(--ink-6);
  display: grid;
  place-items: center;
}
.icon:hover {
  color: var(--madder);
}
form {
  display: flex;
  gap: 4px;
  margin-top: 4px;
}
textarea {
  resize: none;
  padding-block: 6px;
}
</style>
