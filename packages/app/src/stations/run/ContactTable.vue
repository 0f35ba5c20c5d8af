<script setup lang="ts">
import { activeCloths, contactOf, type Cloth, type Collider } from '@lumbra/core';
import { computed, ref } from 'vue';
import { vTip } from '../../fields/tip';
import { useDocumentStore } from '../../session/document';
import PairFields from './PairFields.vue';

// Who touches whom: a row for each thing that cloth can meet, a column for each cloth.

const document = useDocumentStore();
const chosen = ref<{ cloth: string; other: string } | null>(null);

type Solid = Cloth | Collider;
const cloths = computed(() => (document.shot ? activeCloths(document.shot) : []));
const rows = computed<Solid[]>(() => [
  ...cloths.value,
  ...(document.shot?.things ?? []).filter((thing): thing is Collider => thing.role === 'collider' && thing.enabled),
]);
const pair = computed(() => {
  const cloth = cloths.value.find(({ id }) => id === chosen.value?.cloth);
  const other = rows.value.find(({ id }) => id === chosen.value?.other);
  return cloth && other ? { cloth, other } : null;
});

/** Each pair of cloths stands once: below the diagonal. */
const stands = (row: number, column: number) => row >= cloths.value.length || column <= row;

function stateOf(cloth: Cloth, other: Solid): 'touch' | 'own' | 'pass' {
  if (cloth.id === other.id) {
    if (!cloth.selfContact.enabled) return 'pass';
    return cloth.selfContact.mask === null ? 'touch' : 'own';
  }
  const contact = contactOf(document.shot!, cloth.id, other.id);
  return !contact ? 'touch' : contact.touches ? 'own' : 'pass';
}

const LEGEND = { touch: 'touch', own: 'their own numbers', pass: 'pass' };
const WORDS = { touch: 'touch', own: 'touch, with numbers of their own', pass: 'pass through each other' };
function say(cloth: Cloth, other: Solid): string {
  const state = stateOf(cloth, other);
  if (cloth.id !== other.id) return `${cloth.name} and ${other.name} ${WORDS[state]}`;
  return `${cloth.name} ${{ touch: 'touches itself', own: 'touches itself where its mask says', pass: 'passes through itself' }[state]}`;
}

/** The cell that tab goes to: the chosen one, else the first. */
const isStop = (cloth: Cloth, other: Solid, row: number, column: number) =>
  pair.value ? pair.value.cloth.id === cloth.id && pair.value.other.id === other.id : row === 0 && column === 0;

const STEPS: Record<string, [row: number, column: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};
function onKey(event: KeyboardEvent, row: number, column: number): void {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  event.stopPropagation();
  const [r, c] = [row + step[0], column + step[1]];
  const [other, cloth] = [rows.value[r], cloths.value[c]];
  if (!other || !cloth || !stands(r, c)) return;
  chosen.value = { cloth: cloth.id, other: other.id };
  const table = (event.target as HTMLElement).closest('table');
  table?.querySelector<HTMLElement>(`[data-cell="${r}.${c}"]`)?.focus();
}
</script>

<template>
  <p v-if="cloths.length === 0" class="small">There is no cloth in the run.</p>
  <template v-else>
    <div class="scroll">
      <table aria-label="Who touches whom">
        <thead>
          <tr>
            <td />
            <th v-for="cloth in cloths" :key="cloth.id" v-tip="cloth.name" scope="col" :aria-label="cloth.name">
              <span class="swatch" :style="{ background: cloth.print.colour }" />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(other, row) in rows" :key="other.id">
            <th scope="row" class="cut">
              <span v-if="other.role === 'cloth'" class="swatch" :style="{ background: other.print.colour }" />
              {{ other.name }}
            </th>
            <td v-for="(cloth, column) in cloths" :key="cloth.id">
              <button
                v-if="stands(row, column)"
                v-tip="say(cloth, other)"
                type="button"
                class="cell"
                :class="stateOf(cloth, other)"
                :data-cell="`${row}.${column}`"
                :aria-label="say(cloth, other)"
                :aria-pressed="pair?.cloth.id === cloth.id && pair.other.id === other.id"
                :tabindex="isStop(cloth, other, row, column) ? 0 : -1"
                @click="chosen = { cloth: cloth.id, other: other.id }"
                @keydown="onKey($event, row, column)"
              >
                <i />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="small legend">
      <span v-for="(text, state) in LEGEND" :key="state"
        ><span class="cell" :class="state"><i /></span>{{ text }}</span
      >
    </p>
    <PairFields v-if="pair" :key="`${pair.cloth.id}.${pair.other.id}`" :cloth="pair.cloth" :other="pair.other" />
    <p v-else class="small">Press a mark to change how two things touch.</p>
  </template>
</template>

<style scoped>
.scroll {
  flex: none;
  max-height: 232px;
  overflow: auto;
  margin-top: 4px;
}
table {
  border-collapse: collapse;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--linen-1);
  padding: 4px 0;
}
tbody th {
  max-width: 160px;
  font-weight: 400;
  text-align: left;
  padding-right: 8px;
}
.swatch {
  display: inline-block;
  width: 12px;
  height: 12px;
  border-radius: 2px;
  box-shadow: inset 0 0 0 1px var(--edge);
  vertical-align: -1px;
}
td {
  padding: 0;
}
.cell {
  width: 28px;
  height: 24px;
  display: inline-grid;
  place-items: center;
  border-radius: 3px;
}
.cell i {
  width: 10px;
  height: 10px;
  border-radius: 50%;
}
.touch i {
  background: var(--ink-9);
}
.own i {
  background: var(--ink-9);
  outline: 1.5px solid var(--ink-9);
  outline-offset: 2px;
}
.pass i {
  border: 1.5px dashed var(--ink-6);
}
button.cell:hover {
  background: var(--linen-2);
}
button.cell[aria-pressed='true'] {
  box-shadow: inset 0 0 0 2px var(--indigo);
}
.legend {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
}
.legend .cell {
  width: 24px;
}
</style>
