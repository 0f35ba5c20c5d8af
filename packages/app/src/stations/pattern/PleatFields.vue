<script setup lang="ts">
import {
  formatQuantity,
  longestSide,
  pleatRow,
  pleatsProblem,
  pleatsSchema,
  quantitiesOf,
  suitablePleats,
  type Piece,
  type Pleats,
  type Quantity,
} from '@lumbra/core';
import { computed } from 'vue';
import { usePatternActs } from '../../acts/usePatternActs';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import QuantityField from '../../fields/QuantityField.vue';
import { usePatternStore, type CutCloth } from '../../stores/pattern';

// The pleats of a piece: they lie along one of its sides, folded where a run begins.

const props = defineProps<{ cloth: CutCloth; piece: Piece }>();
const pattern = usePatternStore();
const acts = usePatternActs();

const NUMBERS = quantitiesOf(pleatsSchema) as Record<'count' | 'depth' | 'room' | 'pressed', Quantity>;
const KINDS = [
  { id: 'none', label: 'None' },
  { id: 'knife', label: 'Knife' },
  { id: 'box', label: 'Box' },
  { id: 'rolled', label: 'Rolled' },
] as const;
type Kind = (typeof KINDS)[number]['id'];

const shown = computed(() =>
  (['count', 'depth', 'room', 'pressed'] as const).filter(
    (name) => name !== 'room' || props.piece.pleats?.kind !== 'rolled',
  ),
);
/** How wide the row lies: as long as the border that it is sewn to should be. */
const lies = computed(() => {
  const row = pleatsProblem(props.piece) ? null : pleatRow(props.piece);
  const cm = (value: number) => formatQuantity(value, 'cm', 3);
  return row && `${cm(row.length)} cm of cloth lie ${cm(row.profile.across)} cm wide.`;
});
/** The only selected side of the outline, where pleats could lie along it and do not. */
const otherSide = computed(() => {
  const [only, more] = pattern.sides;
  const isHere = only && !more && only.piece === props.piece.id && only.from !== props.piece.pleats?.side;
  return isHere && props.piece.outline.some(({ id }) => id === only.from) ? only.from : null;
});

function pick(kind: Kind): void {
  void acts.changePiece(props.cloth, props.piece, kind === 'none' ? 'no pleats' : `${kind} pleats`, (own) => {
    const side = own.pleats?.side ?? otherSide.value ?? longestSide(own);
    if (kind === 'none') own.pleats = null;
    else {
      // Another kind keeps what was set, as long as there is cloth for it.
      const kept = own.pleats && { ...own.pleats, kind };
      const suits = { ...suitablePleats(own, side, kind), pressed: own.pleats?.pressed ?? 1 };
      own.pleats = kept && !pleatsProblem({ ...own, pleats: kept }) ? kept : suits;
    }
  });
}

function lieAlong(side: string): void {
  void acts.changePiece(props.cloth, props.piece, 'side of pleats', (own) => {
    if (!own.pleats) return;
    own.pleats.side = side;
    delete own.pleats.to;
  });
}

function set<Name extends keyof Pleats>(name: Name, what: string, value: Pleats[Name]): void {
  void acts.changePiece(props.cloth, props.piece, what, (own) => {
    if (own.pleats) own.pleats[name] = value;
  });
}
</script>

<template>
  <ChoiceRow label="Pleats" wide :model-value="piece.pleats?.kind ?? 'none'" :options="KINDS" @pick="pick" />
  <template v-if="piece.pleats">
    <QuantityField
      v-for="name in shown"
      :key="name"
      :quantity="NUMBERS[name]"
      :model-value="piece.pleats[name]"
      lazy
      @change="(value) => set(name, `${NUMBERS[name].label.toLowerCase()} of pleats`, value)"
    />
    <p v-if="lies" class="small">{{ lies }}</p>
    <div v-if="otherSide" class="choices">
      <button type="button" class="choice" @click="lieAlong(otherSide)">Along the selected side</button>
    </div>
    <p v-else class="small">
      They lie along the side that was longest, or that you select where pieces are laid out flat.
    </p>
  </template>
</template>
