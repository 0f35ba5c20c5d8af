<script setup lang="ts">
import {
  lineSchema,
  newLine,
  quantitiesOf,
  slitProblem,
  slitToBorder,
  type PatternLine,
  type Piece,
} from '@lumbra/core';
import { Trash2 } from '@lucide/vue';
import { computed } from 'vue';
import { usePatternActs } from '../../acts/usePatternActs';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import QuantityField from '../../fields/QuantityField.vue';
import { vTip } from '../../fields/tip';
import { usePatternStore, type CutCloth } from '../../stores/pattern';

// The lines of a piece: creases, along which it folds, and slits, where it is cut open. They are drawn where the pieces are laid out flat.

const props = defineProps<{ cloth: CutCloth; piece: Piece }>();
const pattern = usePatternStore();
const acts = usePatternActs();
const { fold } = quantitiesOf(lineSchema);
const KINDS = [
  { id: 'crease', label: 'Crease' },
  { id: 'slit', label: 'Slit' },
] as const;

const chosen = computed(() => props.piece.lines.find(({ id }) => id === pattern.lineId) ?? null);

async function add(): Promise<void> {
  const line = newLine(props.piece);
  if (await acts.changePiece(props.cloth, props.piece, 'new line', (own) => void own.lines.push(line))) {
    pattern.selectLine(props.piece.id, line.id);
    pattern.flat = true;
  }
}

function change({ id }: PatternLine, what: string, recipe: (line: PatternLine) => void): void {
  void acts.changePiece(props.cloth, props.piece, what, (own) => {
    const line = own.lines.find((one) => one.id === id);
    if (line) recipe(line);
  });
}

/** Why the chosen slit cannot become part of the border. */
const unopened = computed(() => chosen.value && slitProblem(props.cloth.shape, props.piece, chosen.value));

/** Makes a slit part of the border, and selects its lips, so that they can be sewn. */
async function open({ id }: PatternLine): Promise<void> {
  let lips: ReturnType<typeof slitToBorder> = null;
  const done = await acts.changePiece(props.cloth, props.piece, 'slit as border', (own, shape) => {
    lips = slitToBorder(shape, own, id);
  });
  const made = lips as ReturnType<typeof slitToBorder>;
  if (done && made) pattern.sides = [made.from, made.tip].map((from) => ({ piece: props.piece.id, from }));
}

function remove({ id }: PatternLine): void {
  void acts.changePiece(props.cloth, props.piece, 'one line less', (own) => {
    own.lines = own.lines.filter((one) => one.id !== id);
  });
}
</script>

<template>
  <ul v-if="piece.lines.length > 0" class="lines" aria-label="Lines">
    <li v-for="(line, i) in piece.lines" :key="line.id">
      <button
        type="button"
        class="line"
        :aria-pressed="line.id === pattern.lineId"
        @click="line.id === pattern.lineId ? (pattern.lineId = null) : pattern.selectLine(piece.id, line.id)"
      >
        Line {{ i + 1 }}
        <span class="small">{{
          line.kind === 'slit'
            ? 'slit'
            : line.fold
              ? `crease, ${Math.round((line.fold * 180) / Math.PI)}°`
              : 'crease, flat'
        }}</span>
      </button>
      <button
        v-tip="'Delete the line (undoable)'"
        type="button"
        class="icon-button"
        :aria-label="`Delete line ${i + 1}`"
        @click="remove(line)"
      >
        <Trash2 :size="16" :stroke-width="1.5" />
      </button>
    </li>
  </ul>
  <template v-if="chosen">
    <div class="choices">
      <ChoiceRow
        label="Kind of line"
        :model-value="chosen.kind"
        :options="KINDS"
        @pick="(kind) => change(chosen!, kind, (line) => (line.kind = kind))"
      />
    </div>
    <QuantityField
      v-if="chosen.kind === 'crease'"
      :key="chosen.id"
      :quantity="fold!"
      :model-value="chosen.fold"
      lazy
      @change="(value) => change(chosen!, 'fold', (line) => (line.fold = value))"
    />
    <div v-else class="choices">
      <button
        v-tip="unopened ? `Not here: ${unopened}` : 'Both of its lips become sides that can be sewn (undoable)'"
        type="button"
        class="choice"
        :disabled="!!unopened"
        @click="open(chosen)"
      >
        Make it border
      </button>
    </div>
  </template>
  <div class="choices">
    <button type="button" class="choice" @click="add">New line</button>
  </div>
  <p v-if="piece.lines.length > 0" class="small">
    Drag its nodes where the pieces are laid out flat; near a border an end keeps to it. Double click it for one more.
  </p>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 0;
  padding: 0;
}
.lines li {
  display: flex;
  align-items: center;
}
.line {
  flex: 1;
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  height: 28px;
  padding: 0 4px;
  text-align: left;
  border-radius: 3px;
}
.line:hover,
.line[aria-pressed='true'] {
  background: var(--linen-2);
}
</style>
