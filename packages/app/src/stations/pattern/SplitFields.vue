<script setup lang="ts">
import {
  facesUpTo,
  formatQuantity,
  grownFaces,
  MOST_SHEET_POINTS,
  shrunkFaces,
  triangleCount,
  type Quantity,
} from '@lumbra/core';
import { Lasso, MousePointer2, Rows3, SquareDashed, X } from '@lucide/vue';
import { computed, onUnmounted, ref } from 'vue';
import { useSplitActs } from '../../acts/useSplitActs';
import QuantityField from '../../fields/QuantityField.vue';
import TickBox from '../../fields/TickBox.vue';
import TickLine from '../../fields/TickLine.vue';
import { vTip } from '../../fields/tip';
import { useFacesStore, type SolidThing } from '../../stores/faces';
import { useSelectionStore, type Tool } from '../../stores/selection';
import ToolRow from '../ToolRow.vue';
import WorkFold from './WorkFold.vue';

// Faces of a solid thing are selected and become cloth, whose border stays with what remains of the thing.

defineProps<{ thing: SolidThing }>();
const selection = useSelectionStore();
const faces = useFacesStore();
const { split } = useSplitActs();

const TOOLS: { id: Tool; label: string; icon: typeof Lasso; help: string }[] = [
  {
    id: 'point',
    label: 'Click',
    icon: MousePointer2,
    help: 'Click faces one by one. With shift a click adds, with alt it takes away.',
  },
  { id: 'box', label: 'Box', icon: SquareDashed, help: 'Drag a box in the viewport. Shift adds, alt takes away.' },
  { id: 'lasso', label: 'Lasso', icon: Lasso, help: 'Draw around faces in the viewport. Shift adds, alt takes away.' },
  {
    id: 'row',
    label: 'Row',
    icon: Rows3,
    help: 'Click an edge: the strip of faces across it, to the border or all around. Shift adds, alt takes away.',
  },
];
const LIMIT: Quantity = {
  ...{ label: 'Up to', help: 'Takes all faces that are reached over edges folded by no more than this.', unit: '°' },
  ...{ min: 0, max: Math.PI, default: Math.PI / 9, step: Math.PI / 180 },
};
const DIVIDED: Quantity = {
  label: 'Divided',
  help: 'How often each face is divided into four, so that the cloth has points to fold by. Its shape stays as it is.',
  ...{ unit: '', min: 0, max: 6, default: 0, step: 1, whole: true },
};

const limit = ref(LIMIT.default);
const help = computed(() => TOOLS.find(({ id }) => id === selection.tool)?.help);
const count = computed(() => (faces.mesh ? triangleCount(faces.mesh) : 0));
const all = () => Array.from({ length: count.value }, (_, face) => face);
const inverted = () => {
  const taken = new Set(faces.faces);
  return all().filter((face) => !taken.has(face));
};
/** Why it cannot be split now. */
const why = computed(() => {
  if (faces.faces.length === 0) return 'Select the faces that are to be cloth';
  if (faces.faces.length === count.value)
    return 'Leave at least one face; to make all of it cloth, change its role at the Stage';
  return faces.points > MOST_SHEET_POINTS ? 'That is more points than a cloth may have: divide it less often' : null;
});

function begin(): void {
  faces.working = !faces.working;
  if (faces.working && selection.tool === 'look') selection.tool = 'point';
}
onUnmounted(() => (faces.working = false));
</script>

<template>
  <WorkFold :title="`Split cloth off ${thing.name}`" :open="faces.working" @toggle="begin" />
  <template v-if="faces.working">
    <ToolRow :tools="TOOLS" />
    <p v-if="help" class="small">{{ help }}</p>
    <TickBox
      v-if="selection.tool === 'box' || selection.tool === 'lasso'"
      :ticked="selection.takesHidden"
      @toggle="selection.takesHidden = !selection.takesHidden"
    >
      also faces that are hidden
    </TickBox>
    <div class="section">
      <span class="grow" role="status" data-testid="face-count">
        {{ faces.faces.length }} of {{ count }} faces selected
      </span>
      <button
        v-if="faces.faces.length"
        v-tip="'Select nothing'"
        type="button"
        class="icon-button"
        @click="faces.faces = []"
      >
        <X :size="16" :stroke-width="1.5" />
      </button>
    </div>
    <div class="choices">
      <button type="button" class="choice" @click="faces.faces = all()">All</button>
      <button type="button" class="choice" @click="faces.faces = inverted()">Invert</button>
      <template v-if="faces.faces.length && faces.mesh">
        <button type="button" class="choice" @click="faces.faces = grownFaces(faces.mesh, faces.faces)">Grow</button>
        <button type="button" class="choice" @click="faces.faces = shrunkFaces(faces.mesh, faces.faces)">Shrink</button>
      </template>
    </div>
    <template v-if="faces.faces.length && faces.mesh">
      <QuantityField :quantity="LIMIT" :model-value="limit" @change="limit = $event" />
      <div class="choices">
        <button
          v-tip="'From those that are selected over edges that are folded less'"
          type="button"
          class="choice"
          @click="faces.faces = facesUpTo(faces.mesh, faces.faces, limit)"
        >
          All up to {{ formatQuantity(limit, '°') }}°
        </button>
      </div>
      <QuantityField :quantity="DIVIDED" :model-value="faces.times" @change="faces.divided = $event" />
      <p class="small">The cloth will have about {{ formatQuantity(faces.points, '') }} points.</p>
      <TickLine :ticked="faces.closes" @toggle="faces.closes = !faces.closes">
        close what remains where it is cut open
      </TickLine>
    </template>
    <div class="choices">
      <button
        v-tip="why ?? 'Its border stays with what remains, also while that moves'"
        type="button"
        class="choice"
        :disabled="why !== null"
        @click="split"
      >
        Split off as cloth
      </button>
    </div>
    <p v-if="why" class="small">{{ why }}.</p>
  </template>
</template>
