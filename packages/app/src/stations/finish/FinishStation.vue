<script setup lang="ts">
import { FINISH_KINDS, FINISH_STEPS, formatQuantity, pointCount, shapeMesh, type FinishEntry } from '@lumbra/core';
import { ChevronDown, ChevronUp, Trash2 } from '@lucide/vue';
import { storeToRefs } from 'pinia';
import { computed, ref } from 'vue';
import { useFinishActs } from '../../acts/useFinishActs';
import TickBox from '../../fields/TickBox.vue';
import { vTip } from '../../fields/tip';
import { useDocumentStore } from '../../session/document';
import { useFinishingStore } from '../../stores/finishing';
import { useFinishedStore } from '../../stores/finished';
import { useRetimed } from '../../stores/retimed';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';
import StationPanel from '../StationPanel.vue';
import StepFields from './StepFields.vue';

const document = useDocumentStore();
const selection = useSelectionStore();
const finished = useFinishedStore();
const run = useRunStore();
const acts = useFinishActs();
const { sourceOf } = useRetimed();

const cloth = computed(() => selection.cloth);
const { open } = storeToRefs(useFinishingStore());
const problem = computed(() => (cloth.value ? finished.problems.get(cloth.value.id) : undefined));
const shown = computed(() => {
  if (!cloth.value) return undefined;
  const made = finished.shown.get(cloth.value.id);
  if (made) return made;
  const positions = run.shownPositions().get(cloth.value.id);
  try {
    return positions && { mesh: shapeMesh(cloth.value.shape, document.assets), positions };
  } catch {
    return undefined;
  }
});
const facts = computed(() => {
  if (!cloth.value || !shown.value) return '';
  const { mesh } = shown.value;
  const count = `${formatQuantity(pointCount(mesh), '')} points, ${formatQuantity(mesh.triangles.length / 3, '')} faces`;
  const source = finished.raw ? null : sourceOf(cloth.value);
  return source === null ? count : `${count}; frame ${formatQuantity(source, '')} of the take`;
});

function add(kind: (typeof FINISH_KINDS)[number]): void {
  if (!cloth.value) return;
  const { positions, mesh } = shown.value ?? {};
  open.value = acts.add(cloth.value, kind, positions && mesh && { positions, triangles: mesh.triangles });
}

/** Steps are moved by dragging them, or by keys on their buttons. */
const dragged = ref<string | null>(null);
function drop(onto: FinishEntry): void {
  const entry = cloth.value?.finish.find(({ id }) => id === dragged.value);
  dragged.value = null;
  if (cloth.value && entry) acts.move(cloth.value, entry, cloth.value.finish.indexOf(onto));
}
</script>

<template>
  <StationPanel title="Finish" help="Makes cloth final without touching the bake.">
    <p v-if="!cloth" class="small">There is no cloth in the shot. Add a sheet at the Stage.</p>
    <template v-else>
      <div class="section">
        <h2 v-tip:cut="cloth.name" class="grow cut">{{ cloth.name }}</h2>
        <TickBox :ticked="finished.raw" @toggle="finished.raw = !finished.raw">As simulated</TickBox>
      </div>
      <p class="small">{{ facts }}</p>
      <p v-if="problem" class="small problem">{{ problem }}</p>
      <p v-if="cloth.finish.length === 0" class="small empty">
        Nothing is done to it yet: it is shown and handed over as it was simulated. Add a step.
      </p>
      <ol v-else class="steps" aria-label="Finish list">
        <li
          v-for="(entry, i) in cloth.finish"
          :key="entry.id"
          class="step"
          :class="{ off: !entry.on }"
          draggable="true"
          @dragstart="dragged = entry.id"
          @dragover.prevent
          @drop.prevent="drop(entry)"
        >
          <div class="line">
            <TickBox
              :label="`${FINISH_STEPS[entry.step.kind].label}, on`"
              :ticked="entry.on"
              @toggle="acts.turn(cloth, entry, !entry.on)"
            />
            <button
              type="button"
              class="title grow"
              :aria-expanded="open === entry.id"
              @click="open = open === entry.id ? null : entry.id"
            >
              {{ FINISH_STEPS[entry.step.kind].label }}
            </button>
            <button
              v-tip="'Earlier'"
              type="button"
              class="icon-button"
              :disabled="i === 0"
              @click="acts.move(cloth, entry, i - 1)"
            >
              <ChevronUp :size="16" :stroke-width="1.5" />
            </button>
            <button
              v-tip="'Later'"
              type="button"
              class="icon-button"
              :disabled="i === cloth.finish.length - 1"
              @click="acts.move(cloth, entry, i + 1)"
            >
              <ChevronDown :size="16" :stroke-width="1.5" />
            </button>
            <button v-tip="'Delete (undoable)'" type="button" class="icon-button" @click="acts.remove(cloth, entry)">
              <Trash2 :size="16" :stroke-width="1.5" />
            </button>
          </div>
          <StepFields v-if="open === entry.id" :cloth="cloth" :entry="entry" />
        </li>
      </ol>
      <div class="section"><h2 class="grow">Add a step</h2></div>
      <div class="choices">
        <button
          v-for="kind in FINISH_KINDS"
          :key="kind"
          v-tip="FINISH_STEPS[kind].help"
          type="button"
          class="choice"
          @click="add(kind)"
        >
          {{ FINISH_STEPS[kind].label }}
        </button>
      </div>
    </template>
    <template #action>
      <button
        type="button"
        class="primary"
        :disabled="!cloth || !shown"
        @click="cloth && shown && acts.keepAsMesh(cloth, shown, run.frame)"
      >
        Keep this frame as a mesh
      </button>
    </template>
  </StationPanel>
</template>

<style scoped>
.empty {
  margin-top: 12px;
}
.problem {
  color: var(--madder);
  margin-top: 4px;
}
.steps {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
.step {
  border-top: 1px solid var(--rule);
  padding: 4px 0;
}
.step:last-child {
  border-bottom: 1px solid var(--rule);
}
.line {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 32px;
}
.title {
  text-align: left;
  font-weight: 600;
  height: 28px;
}
.off .title {
  color: var(--ink-6);
  font-weight: 400;
}
</style>
