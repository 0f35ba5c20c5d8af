<script setup lang="ts">
import {
  borderPoints,
  cornerPoints,
  everyNth,
  facesOfPoints,
  facesUpTo,
  foldedEdges,
  formatQuantity,
  grownPoints,
  pointCount,
  pointsOfEdges,
  pointsOfFaces,
  shapeMesh,
  shrunkPoints,
  sidePoints,
  spots,
  wholePieces,
  type Quantity,
  type Side,
} from '@lumbra/core';
import { Lasso, MousePointer2, Rows3, Spline, SquareDashed, X } from '@lucide/vue';
import { computed, ref } from 'vue';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import FoldSection from '../../fields/FoldSection.vue';
import InlineNumber from '../../fields/InlineNumber.vue';
import PickLine from '../../fields/PickLine.vue';
import QuantityField from '../../fields/QuantityField.vue';
import TickBox from '../../fields/TickBox.vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore, type Takes, type Tool } from '../../stores/selection';
import ToolRow from '../ToolRow.vue';
import SelectByBrightness from './SelectByBrightness.vue';
import { useHoldActs } from '../../acts/useHoldActs';
import { vTip } from '../../fields/tip';

// Which points: by tools in the viewport that take points, edges or faces, by the cloth's own borders and folds, or by where they are beside a thing.

const TOOLS: { id: Tool; label: string; icon: typeof Lasso; help: string }[] = [
  {
    id: 'point',
    label: 'Click',
    icon: MousePointer2,
    help: 'Click them one by one. With shift a click adds, with alt it takes away.',
  },
  { id: 'box', label: 'Box', icon: SquareDashed, help: 'Drag a box in the viewport. Shift adds, alt takes away.' },
  { id: 'lasso', label: 'Lasso', icon: Lasso, help: 'Draw around them in the viewport. Shift adds, alt takes away.' },
  {
    id: 'stretch',
    label: 'Stretch',
    icon: Spline,
    help: 'Click two places on the border: all between them is selected.',
  },
  {
    id: 'row',
    label: 'Row',
    icon: Rows3,
    help: 'Click an edge: all that goes straight on from it, to the border or all around. Shift adds, alt takes away.',
  },
];
const TAKES: { id: Takes; label: string }[] = [
  { id: 'points', label: 'Points' },
  { id: 'edges', label: 'Edges' },
  { id: 'faces', label: 'Faces' },
];
const FOLD: Quantity = {
  ...{ label: 'Folded', help: 'By how much faces are folded against each other in the shape that it starts with.' },
  ...{ unit: '°', min: 0, max: Math.PI, default: Math.PI / 6, step: Math.PI / 180 },
};
const SIDES: { id: Side; label: string }[] = [
  { id: 'top', label: 'Far side' },
  { id: 'bottom', label: 'Near side' },
  { id: 'start', label: 'Left side' },
  { id: 'end', label: 'Right side' },
];
const NEAR: Quantity = {
  label: 'Within',
  help: 'How near to the thing points are taken.',
  unit: 'mm',
  min: 0.0005,
  max: 10,
  default: 0.02,
  step: 0.001,
};

const SPOT: Quantity = {
  label: 'Spot radius',
  help: 'All points that are so near to a place are taken, as cut, and always the nearest one.',
  unit: 'mm',
  min: 0,
  max: 1,
  default: 0.01,
  step: 0.001,
};

const document = useDocumentStore();
const selection = useSelectionStore();
const { pointsBy } = useHoldActs();
const nth = ref(4);
const near = ref(NEAR.default);
const chosen = ref('');
const fold = ref(FOLD.default);
const columns = ref(4);
const rows = ref(3);
const spot = ref(SPOT.default);

const cloth = computed(() => selection.cloth!);
const mesh = computed(() => shapeMesh(cloth.value.shape, document.assets));
const help = computed(() => TOOLS.find(({ id }) => id === selection.tool)?.help);
/** Tools that take what is chosen: points, or all of edges or faces. */
const taking = computed(() => ['point', 'box', 'lasso'].includes(selection.tool));
const others = computed(() => (document.shot?.things ?? []).filter(({ id }) => id !== cloth.value.id));
const other = computed(() => others.value.find(({ id }) => id === chosen.value) ?? others.value[0]);

function inverted(): number[] {
  const taken = new Set(selection.points);
  return Array.from({ length: pointCount(mesh.value) }, (_, point) => point).filter((point) => !taken.has(point));
}

function by(how: Parameters<typeof pointsBy>[1]): void {
  if (other.value) selection.setPoints(pointsBy(other.value, how, near.value));
}
</script>

<template>
  <div class="section">
    <h2 class="grow">Select on {{ cloth.name }}</h2>
    <span class="small" data-testid="selected-count"
      >{{ selection.points.length }} {{ selection.points.length === 1 ? 'point' : 'points' }}</span
    >
    <button
      v-if="selection.points.length"
      v-tip="'Select nothing'"
      type="button"
      class="icon-button"
      @click="selection.setPoints([])"
    >
      <X :size="16" :stroke-width="1.5" />
    </button>
  </div>
  <ToolRow :tools="TOOLS" />
  <ChoiceRow
    v-if="taking"
    class="takes"
    label="What the tool takes"
    wide
    :model-value="selection.takes"
    :options="TAKES"
    @pick="selection.takes = $event"
  />
  <p v-if="help" class="small explain">{{ help }}</p>
  <TickBox v-if="help" :ticked="selection.takesHidden" @toggle="selection.takesHidden = !selection.takesHidden">
    also what is hidden
  </TickBox>
  <div class="choices">
    <button type="button" class="choice" @click="selection.setPoints(borderPoints(mesh))">Whole border</button>
    <button type="button" class="choice" @click="selection.setPoints(Array(pointCount(mesh)).keys())">All</button>
    <template v-if="mesh.material">
      <button type="button" class="choice" @click="selection.setPoints(cornerPoints(mesh))">Corners</button>
      <button
        v-for="side in SIDES"
        :key="side.id"
        v-tip="'As the sheet is cut, seen from above'"
        type="button"
        class="choice"
        @click="selection.setPoints(sidePoints(mesh, side.id))"
      >
        {{ side.label }}
      </button>
    </template>
  </div>
  <div v-if="selection.points.length" class="choices">
    <button
      v-tip="'Take in the neighbours of what is selected'"
      type="button"
      class="choice"
      @click="selection.setPoints(grownPoints(mesh, selection.points))"
    >
      Grow
    </button>
    <button
      v-tip="'Leave out the outermost points of what is selected'"
      type="button"
      class="choice"
      @click="selection.setPoints(shrunkPoints(mesh, selection.points))"
    >
      Shrink
    </button>
    <button
      v-tip="'All that hangs together with what is selected'"
      type="button"
      class="choice"
      @click="selection.setPoints(wholePieces(mesh, selection.points))"
    >
      Whole piece
    </button>
    <button type="button" class="choice" @click="selection.setPoints(inverted())">Invert</button>
    <span class="small every"
      ><button
        v-tip="'Of those on the border in its order'"
        type="button"
        class="choice"
        @click="selection.setPoints(everyNth(mesh, selection.points, nth))"
      >
        Every
      </button>
      <InlineNumber
        label="Every so many points"
        :model-value="nth"
        :min="2"
        :max="1000"
        whole
        @change="nth = $event"
      />th</span
    >
  </div>
  <FoldSection v-if="mesh.material" title="In even rows">
    <form @submit.prevent="selection.setPoints(spots(mesh, columns, rows, spot))">
      <p class="small even">
        <InlineNumber label="Columns" :model-value="columns" :min="1" :max="40" whole @change="columns = $event" />
        columns,
        <InlineNumber label="Rows" :model-value="rows" :min="1" :max="40" whole @change="rows = $event" />
        rows
        <button
          v-tip="'Eyelets, buttons, quilting: half a gap from the sides'"
          type="submit"
          class="choice"
          aria-label="Select in rows"
        >
          Select
        </button>
      </p>
    </form>
    <QuantityField :quantity="SPOT" :model-value="spot" @change="spot = $event" />
  </FoldSection>
  <FoldSection title="By its folds">
    <QuantityField :quantity="FOLD" :model-value="fold" @change="fold = $event" />
    <div class="choices indented">
      <button
        v-tip="'Edges at which its shape is folded by more than that: the hem of a box, the rim of a bowl'"
        type="button"
        class="choice"
        @click="selection.setPoints(pointsOfEdges(mesh, foldedEdges(mesh, fold)))"
      >
        Edges folded more
      </button>
      <button
        v-tip="
          selection.points.length
            ? `From the faces that are selected over edges folded by no more than ${formatQuantity(fold, '°')}°`
            : 'Select something first: it goes on from there'
        "
        type="button"
        class="choice"
        :disabled="selection.points.length === 0"
        @click="selection.setPoints(pointsOfFaces(mesh, facesUpTo(mesh, facesOfPoints(mesh, selection.points), fold)))"
      >
        All up to it
      </button>
    </div>
  </FoldSection>
  <SelectByBrightness :key="`${cloth.id}.brightness`" />
  <FoldSection v-if="others.length" title="By a thing">
    <PickLine label="Thing" name="Select by" :model-value="other?.id ?? ''" :options="others" @pick="chosen = $event" />
    <QuantityField :quantity="NEAR" :model-value="near" @change="near = $event" />
    <div class="choices indented">
      <button type="button" class="choice" @click="by('near')">Within</button>
      <button v-if="other && 'shape' in other" type="button" class="choice" @click="by('inside')">Inside</button>
      <button type="button" class="choice" @click="by('above')">Above</button>
      <button type="button" class="choice" @click="by('below')">Below</button>
    </div>
  </FoldSection>
</template>

<style scoped>
.explain,
.takes {
  margin-top: 8px;
}
.every {
  display: flex;
  align-items: center;
  gap: 4px;
}
.even {
  display: flex;
  align-items: center;
  gap: 4px;
  margin: 4px 0 0 16px;
}
.indented {
  margin-left: 16px;
}
</style>
