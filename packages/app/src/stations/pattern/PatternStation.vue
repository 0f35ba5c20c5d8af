<script setup lang="ts">
import { useFileDialog } from '@vueuse/core';
import { computed } from 'vue';
import { PIECE_KINDS, usePatternActs } from '../../acts/usePatternActs';
import { useDocumentStore } from '../../session/document';
import { isSolidIn, useFacesStore, type SolidThing } from '../../stores/faces';
import { usePatternStore, type PatternWork } from '../../stores/pattern';
import { useSelectionStore } from '../../stores/selection';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import TickBox from '../../fields/TickBox.vue';
import RunAction from '../RunAction.vue';
import StationPanel from '../StationPanel.vue';
import MeshFields from './MeshFields.vue';
import PieceFields from './PieceFields.vue';
import SeamList from './SeamList.vue';
import SheetFields from './SheetFields.vue';
import SkinFields from './SkinFields.vue';
import SplitFields from './SplitFields.vue';

// Cutting and sewing: the pieces of a cloth, how they are meshed, and the seams between them.

const document = useDocumentStore();
const selection = useSelectionStore();
const pattern = usePatternStore();
const acts = usePatternActs();
const faces = useFacesStore();
const { open, onChange } = useFileDialog({ accept: '.svg', multiple: false, reset: true });
onChange((files) => {
  if (files?.[0]) void acts.readDrawing(files[0]);
});

const WORKS: { id: PatternWork; label: string }[] = [
  { id: 'pieces', label: 'Pieces' },
  { id: 'seams', label: 'Seams' },
  { id: 'mesh', label: 'Mesh' },
];
/** Selected things that could be rods. */
const solids = computed(() => {
  const ids = selection.allSelected();
  return (document.shot?.things ?? []).filter(
    (thing): thing is SolidThing => ids.includes(thing.id) && isSolidIn(thing, document.assets),
  );
});
const cloth = computed(() => selection.cloth);
const cut = computed(() => pattern.cloth);
const cloths = computed(() => document.shot?.things.filter(({ role }) => role === 'cloth').length ?? 0);
</script>

<template>
  <StationPanel title="Pattern" help="What the cloth is cut from, how finely it is meshed, and its seams.">
    <SkinFields v-if="solids.length > 0" :things="solids" />
    <SplitFields v-if="faces.thing" :key="faces.thing.id" :thing="faces.thing" />
    <template v-if="cloth">
      <div class="section">
        <h2 class="grow cut">{{ cloth.name }}</h2>
        <TickBox v-if="cut" :ticked="pattern.flat" @toggle="pattern.flat = !pattern.flat">Laid out flat (F)</TickBox>
      </div>
      <p v-if="cloths > 1 && selection.thing?.role !== 'cloth'" class="small">
        Choose another cloth in Things to work on that one.
      </p>
    </template>
    <ChoiceRow
      v-if="cut"
      label="Work"
      wide
      class="work"
      :model-value="pattern.work"
      :options="WORKS"
      @pick="pattern.work = $event"
    />
    <template v-if="cut && pattern.work === 'pieces'">
      <ul class="pieces" aria-label="Pieces">
        <li v-for="piece in cut.shape.pieces" :key="piece.id">
          <button
            type="button"
            class="name cut"
            :aria-pressed="piece.id === pattern.pieceId"
            @click="pattern.selectPiece(piece.id)"
          >
            {{ piece.name }}
          </button>
        </li>
      </ul>
    </template>
    <SheetFields v-else-if="cloth && !cut" :key="cloth.id" :cloth="cloth" />
    <p v-else-if="!cloth" class="small">
      There is no cloth yet. Begin one with a piece, or with the outlines of a drawing.
    </p>
    <div v-if="!cloth || (cut && pattern.work === 'pieces')" class="choices" role="group" aria-label="New piece">
      <button v-for="kind in PIECE_KINDS" :key="kind.id" type="button" class="choice" @click="acts.addPiece(kind.id)">
        {{ kind.label }}
      </button>
      <button type="button" class="choice" @click="open()">From SVG…</button>
    </div>
    <template v-if="cut">
      <PieceFields
        v-if="pattern.work === 'pieces' && pattern.piece"
        :key="pattern.piece.id"
        :cloth="cut"
        :piece="pattern.piece"
      />
      <SeamList v-else-if="pattern.work === 'seams'" :cloth="cut" />
      <MeshFields v-else-if="pattern.work === 'mesh'" :cloth="cut" />
    </template>
    <template #action><RunAction label="Settle" /></template>
  </StationPanel>
</template>

<style scoped>
.work {
  margin: 4px 0 8px;
}
.pieces {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 140px;
  overflow-y: auto;
  flex: none;
  scrollbar-width: thin;
}
.name {
  display: block;
  width: 100%;
  height: 28px;
  padding: 0 8px;
  text-align: left;
  border-radius: 3px;
}
.name:hover {
  background: var(--linen-2);
}
.name[aria-pressed='true'] {
  background: var(--linen-2);
  font-weight: 600;
  box-shadow: inset 2px 0 0 var(--indigo);
}
</style>
