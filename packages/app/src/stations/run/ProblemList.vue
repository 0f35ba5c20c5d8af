<script setup lang="ts">
import {
  findProblems,
  formatQuantity,
  PROBLEM_KINDS,
  problemFrames,
  problemTitle,
  type Problem,
  type ProblemKind,
} from '@lumbra/core';
import { computed } from 'vue';
import { useDocumentStore } from '../../session/document';
import { useRunStore } from '../../stores/run';
import { useTakesStore } from '../../stores/takes';
import { useSelectionStore, type SignalId } from '../../stores/selection';
import { vTip } from '../../fields/tip';

// What went wrong in the bake. A click goes to the worst frame, points the place out and draws the number's curve.

/** The curve that shows it. */
const SIGNALS: Record<ProblemKind, SignalId> = {
  crossing: 'crossings',
  pierced: 'pierced',
  pokeThrough: 'deepest',
  squeezed: 'squeezed',
  overStretch: 'maxStretch',
  speed: 'fastest',
};

const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();
const selection = useSelectionStore();
const problems = computed(() => findProblems(takes.account));
const shown = computed(() => problems.value.slice(0, 8));
/** How many kinds of problems there are, and in how many of the frames. */
const counted = computed(() => {
  const frames = formatQuantity(takes.account.length, '', 6);
  if (problems.value.length === 0) return `none in ${frames} frames`;
  const kinds = new Set(problems.value.map(({ kind }) => kind)).size;
  const bad = formatQuantity(problemFrames(takes.account), '', 6);
  return `${kinds} ${kinds === 1 ? 'kind' : 'kinds'}, in ${bad} of ${frames} frames`;
});

const nameOf = (id: string) => document.shot?.things.find((thing) => thing.id === id)?.name;

function framesOf({ from, to }: Problem): string {
  return from === to ? String(from) : `${from}–${to}`;
}

function look(problem: Problem): void {
  const { title, amount } = PROBLEM_KINDS[problem.kind];
  run.playing = false;
  run.goTo(problem.worst);
  selection.signal = SIGNALS[problem.kind];
  selection.mark = problem.place && { place: problem.place, text: `${title}, ${amount(problem.value)}` };
}
</script>

<template>
  <div class="section">
    <h2 class="grow">Problem finder</h2>
    <span class="small" data-testid="problem-count">
      {{ counted }}
    </span>
  </div>
  <p v-if="problems.length === 0" class="small clear">
    No crossings, nothing pokes or passes through, no stretch above 3 %.
  </p>
  <button
    v-for="problem in shown"
    :key="`${problem.kind}${problem.from}`"
    v-tip="`Goes to frame ${problem.worst}, where it is worst`"
    type="button"
    class="row"
    :aria-current="run.frame === problem.worst && selection.mark !== null"
    @click="look(problem)"
  >
    <span class="cross" :class="{ grave: problem.kind !== 'overStretch' }" aria-hidden="true">×</span>
    <span class="grow cut">{{ problemTitle(problem, nameOf) }}</span>
    <span class="small">{{ framesOf(problem) }}</span>
    <span class="value">{{ PROBLEM_KINDS[problem.kind].amount(problem.value) }}</span>
  </button>
  <p v-if="problems.length > shown.length" class="small clear">
    and {{ problems.length - shown.length }} more; all are in the bake report.
  </p>
</template>

<style scoped>
.cross {
  color: var(--weld);
  font-weight: 650;
  width: 12px;
}
.cross.grave {
  color: var(--madder);
}
.value {
  min-width: 56px;
  text-align: right;
}
.clear {
  margin-top: 4px;
}
</style>
