<script setup lang="ts">
import {
  formatQuantity,
  isStraight,
  pieceSchema,
  quantitiesOf,
  removePiece,
  setCurved,
  loopWith,
  nodeWith,
  setSideLength,
  sideLength,
  sidesOf,
  sizeOfPiece,
  unfoldPiece,
  type Piece,
  type Quantity,
} from '@lumbra/core';
import { Copy, FlipHorizontal2, Move3d, Rotate3d, Trash2 } from '@lucide/vue';
import { computed } from 'vue';
import { usePatternActs } from '../../acts/usePatternActs';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import FoldSection from '../../fields/FoldSection.vue';
import NameField from '../../fields/NameField.vue';
import QuantityField from '../../fields/QuantityField.vue';
import { vTip } from '../../fields/tip';
import { useDocumentStore } from '../../session/document';
import { usePatternStore, type CutCloth } from '../../stores/pattern';
import { useSelectionStore, type Tool } from '../../stores/selection';
import LineFields from './LineFields.vue';
import PleatFields from './PleatFields.vue';

// One piece: what is selected of its outline in figures, its grain, and its place in the stage.

const props = defineProps<{ cloth: CutCloth; piece: Piece }>();
const document = useDocumentStore();
const selection = useSelectionStore();
const pattern = usePatternStore();
const acts = usePatternActs();

const NUMBERS = quantitiesOf(pieceSchema);
const LIES = [
  { id: 'flat', label: 'Flat' },
  { id: 'round upright', label: 'Round, upright' },
  { id: 'round level', label: 'Round, level' },
] as const;
/** A piece that was cut between rods can be laid there again. */
const ways = computed(() => [...LIES, ...(props.piece.rails ? [{ id: 'between rails', label: 'Rods' } as const] : [])]);
const TOOLS: { id: Tool; label: string; icon: typeof Move3d }[] = [
  { id: 'move', label: 'Move the piece (M)', icon: Move3d },
  { id: 'turn', label: 'Turn the piece (T)', icon: Rotate3d },
];
const length = (label: string, help: string, min: number): Quantity => ({
  ...{ label, help, unit: 'cm', min, max: 500, default: 0, step: 0.001 },
});
const AXES = ['x', 'y', 'z'] as const;
const PLACES = AXES.map((axis) => ({
  ...length(`Place ${axis}`, 'In the axes of the cloth.', -500),
  unit: 'm' as const,
}));
const TURNS = AXES.map((axis): Quantity => ({
  ...{ label: `Turn ${axis}`, help: 'About the axes of the cloth.', unit: '°', min: -7, max: 7, default: 0 },
  step: Math.PI / 180,
}));
const PLACED = [
  { part: 'position', fields: PLACES },
  { part: 'rotation', fields: TURNS },
] as const;
const NODE = [
  length('Along u', 'Of the selected node, on the piece.', -500),
  length('Along v', 'Of the selected node, on the piece.', -500),
];
const SIDE = length('Side', 'Length of the selected side. A straight one is made longer by moving its end.', 0.0001);

const size = computed(() => sizeOfPiece(props.piece));
/** The only selected side, where it is one of this piece. */
const side = computed(() => {
  const [only, more] = pattern.sides;
  if (!only || more || only.piece !== props.piece.id) return null;
  const loop = loopWith(props.piece, only.from);
  const found = loop && sidesOf(loop)[loop.findIndex(({ id }) => id === only.from)];
  return found ? { from: only.from, side: found, isOuter: loop === props.piece.outline } : null;
});
const node = computed(() => (pattern.piece?.id === props.piece.id ? pattern.node : null));

const lineNote = computed(() => {
  const count = props.piece.lines.length;
  return count === 0 ? 'creases and slits' : count === 1 ? 'one' : String(count);
});
const pleatNote = computed(() =>
  props.piece.pleats ? `${props.piece.pleats.count} ${props.piece.pleats.kind}` : 'none',
);

function setNode(axis: 0 | 1, value: number): void {
  const { id } = node.value!;
  void acts.changePiece(props.cloth, props.piece, 'node', (own) => {
    const found = nodeWith(own, id);
    if (found) found.at = axis === 0 ? [value, found.at[1]] : [found.at[0], value];
  });
}

function placed(key: 'position' | 'rotation', axis: number, value: number, live: boolean): void {
  const next = [...props.piece[key]] as [number, number, number];
  next[axis] = value;
  acts.placePiece(props.cloth, props.piece, key === 'position' ? 'place' : 'turn', { [key]: next }, live);
}

function several(key: 'position' | 'rotation', from: number, values: number[]): void {
  const next = [...props.piece[key]] as [number, number, number];
  values.slice(0, 3).forEach((value, i) => (next[(from + i) % 3] = value));
  acts.placePiece(props.cloth, props.piece, key === 'position' ? 'place' : 'turn', { [key]: next });
}

function remove(): void {
  if (props.cloth.shape.pieces.length === 1) return;
  void acts.change(props.cloth, `Delete ${props.piece.name}`, (shape) => removePiece(shape, props.piece.id));
}
</script>

<template>
  <div class="section">
    <NameField
      class="text-input grow strong"
      label="Name of the piece"
      :model-value="piece.name"
      @change="acts.changePiece(cloth, piece, 'name', (own) => (own.name = $event))"
    />
    <button
      v-tip="'Duplicate the piece'"
      type="button"
      class="icon-button"
      @click="acts.copyPiece(cloth, piece, false)"
    >
      <Copy :size="16" :stroke-width="1.5" />
    </button>
    <button
      v-tip="'A copy seen in a mirror'"
      type="button"
      class="icon-button"
      @click="acts.copyPiece(cloth, piece, true)"
    >
      <FlipHorizontal2 :size="16" :stroke-width="1.5" />
    </button>
    <button
      v-tip="
        cloth.shape.pieces.length > 1
          ? 'Delete the piece (undoable)'
          : 'The last piece stays; delete the cloth in Things'
      "
      type="button"
      class="icon-button"
      :disabled="cloth.shape.pieces.length === 1"
      @click="remove"
    >
      <Trash2 :size="16" :stroke-width="1.5" />
    </button>
  </div>
  <p class="small">
    {{ formatQuantity(size.width, 'cm', 4) }} × {{ formatQuantity(size.height, 'cm', 4) }} cm,
    {{ size.area.toFixed(3) }} m²<template v-if="piece.holes.length">
      without its {{ piece.holes.length === 1 ? 'hole' : `${piece.holes.length} holes` }}</template
    >
  </p>
  <template v-if="node">
    <QuantityField
      v-for="(quantity, axis) in NODE"
      :key="`${node.id}.${axis}`"
      :quantity="quantity"
      :model-value="node.at[axis]!"
      lazy
      @change="setNode(axis as 0 | 1, $event)"
    />
    <div class="choices">
      <button
        type="button"
        class="choice"
        @click="
          acts.changePiece(cloth, piece, 'curve', (own) => setCurved(own, node!.id, !(node!.before || node!.after)))
        "
      >
        {{ node.before || node.after ? 'Make it a corner' : 'Make it a curve' }}
      </button>
    </div>
  </template>
  <template v-else-if="side">
    <QuantityField
      :key="side.from"
      :quantity="SIDE"
      :model-value="sideLength(side.side)"
      :disabled="!isStraight(side.side)"
      lazy
      @change="acts.changePiece(cloth, piece, 'side', (own) => setSideLength(own, side!.from, $event))"
    />
    <div v-if="isStraight(side.side) && side.isOuter" class="choices">
      <button
        v-tip="'The piece is half of a whole: opens it along this side'"
        type="button"
        class="choice"
        @click="acts.changePiece(cloth, piece, 'opened', (_, shape) => unfoldPiece(shape, piece.id, side!.from))"
      >
        Open along this side
      </button>
    </div>
  </template>
  <QuantityField
    :quantity="NUMBERS['grain']!"
    :model-value="piece.grain"
    lazy
    @change="acts.changePiece(cloth, piece, 'grain', (own) => (own.grain = $event))"
  />
  <FoldSection :key="`lines ${piece.id}`" title="Lines" :note="lineNote" :open="piece.lines.length > 0">
    <LineFields :cloth="cloth" :piece="piece" />
  </FoldSection>
  <FoldSection :key="`pleats ${piece.id}`" title="Pleats" :note="pleatNote" :open="piece.pleats !== null">
    <PleatFields :cloth="cloth" :piece="piece" />
  </FoldSection>
  <div class="section">
    <h2 class="grow">Place of the piece</h2>
    <button
      v-for="tool in TOOLS"
      :key="tool.id"
      v-tip="tool.label"
      type="button"
      class="icon-button"
      :aria-pressed="selection.tool === tool.id"
      @click="selection.tool = selection.tool === tool.id ? 'look' : tool.id"
    >
      <component :is="tool.icon" :size="16" :stroke-width="1.5" />
    </button>
  </div>
  <div class="choices">
    <ChoiceRow
      label="How the piece lies"
      :model-value="piece.lies"
      :options="ways"
      @pick="acts.placePiece(cloth, piece, 'how it lies', { lies: $event })"
    />
  </div>
  <QuantityField
    v-if="piece.lies === 'round upright' || piece.lies === 'round level'"
    :quantity="NUMBERS['radius']!"
    :model-value="piece.radius"
    @change="(value, live) => acts.placePiece(cloth, piece, 'radius', { radius: value }, live)"
    @settled="document.endMerge()"
  />
  <template v-for="{ part, fields } in PLACED" :key="part">
    <QuantityField
      v-for="(quantity, axis) in fields"
      :key="quantity.label"
      :quantity="quantity"
      :model-value="piece[part][axis]!"
      takes-several
      @change="(value, live) => placed(part, axis, value, live)"
      @several="several(part, axis, $event)"
      @settled="document.endMerge()"
    />
  </template>
</template>
