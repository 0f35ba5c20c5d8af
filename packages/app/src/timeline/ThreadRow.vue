<script setup lang="ts">
import { computed } from 'vue';
import { useDocumentStore } from '../session/document';
import { useRunStore } from '../stores/run';
import { useTakesStore } from '../stores/takes';
import { THREAD } from './rows';
import type { FrameScale } from './useFrameScale';

// The thread: a line of yarn that is solid where the take that is looked at is baked, dashed where it is stale, with a gap marked where a
// frame could not be read back.

const MIDDLE = (THREAD.top + THREAD.bottom) / 2;

const props = defineProps<{ scale: FrameScale }>();
const document = useDocumentStore();
const run = useRunStore();
const takes = useTakesStore();
const x = (frame: number) => props.scale.x(frame);

/** Where a time of the live run is on the timeline; beyond its end at its end. */
function checkpointX(time: number): number {
  const shot = document.shot!;
  return Math.min(x(props.scale.high), x(shot.firstFrame - shot.preRoll + time * shot.frameRate));
}

const twists = computed(() => {
  const marks: number[] = [];
  for (const { from, to } of takes.thread.firm) {
    for (let at = x(from) + 4; at < x(to) - 2; at += 7) marks.push(at);
  }
  return marks;
});
const front = computed(() => run.progress?.frame ?? null);
</script>

<template>
  <g>
    <line
      :x1="x(document.shot!.firstFrame)"
      :x2="x(document.shot!.lastFrame)"
      :y1="MIDDLE"
      :y2="MIDDLE"
      class="absent"
    />
    <line
      v-for="{ from, to } in takes.thread.stale"
      :key="`stale ${from}`"
      :x1="x(from)"
      :x2="x(to)"
      :y1="MIDDLE"
      :y2="MIDDLE"
      class="stale"
      data-testid="thread-stale"
    />
    <line
      v-for="{ from, to } in takes.thread.firm"
      :key="`firm ${from}`"
      :x1="x(from)"
      :x2="Math.max(x(to), x(from) + 0.1)"
      :y1="MIDDLE"
      :y2="MIDDLE"
      class="firm"
      data-testid="thread-firm"
    />
    <line v-for="at in twists" :key="at" :x1="at" :x2="at + 2.5" :y1="MIDDLE + 2" :y2="MIDDLE - 2" class="twist" />
    <g v-for="{ from, to } in takes.thread.holes" :key="`hole ${from}`" class="hole" data-testid="thread-hole">
      <path :d="`M${x(from) - 3} ${MIDDLE - 5} V${MIDDLE + 5} H${x(to) + 3} V${MIDDLE - 5} Z`" />
      <title>
        {{ from === to ? `Frame ${from} is missing` : `Frames ${from} to ${to} are missing` }}; bake to fill it in
      </title>
    </g>
    <line
      v-if="run.status === 'baking' && front !== null"
      :x1="x(front)"
      :x2="x(front)"
      :y1="MIDDLE - 8"
      :y2="MIDDLE + 8"
      class="front"
    />
    <g v-for="time in run.status === 'live' ? run.checkpoints : []" :key="time" class="checkpoint">
      <path :d="`M${checkpointX(time)} ${THREAD.bottom - 3} v-18 l8 4 l-8 4`" />
      <title>Checkpoint at {{ time.toFixed(2) }} s of the live run</title>
    </g>
  </g>
</template>

<style scoped>
.absent {
  stroke: var(--mark);
  stroke-dasharray: 1 5;
}
.firm {
  stroke: var(--woad);
  stroke-width: 5;
  stroke-linecap: round;
}
.twist {
  stroke: var(--linen-1);
  opacity: 0.7;
}
.stale {
  stroke: var(--woad);
  stroke-width: 2;
  stroke-dasharray: 8 4;
}
.hole path {
  fill: var(--linen-1);
  stroke: var(--madder);
  stroke-width: 1.5;
}
.checkpoint path {
  fill: var(--weld);
  stroke: var(--weld);
  stroke-width: 1.5;
}
.front {
  stroke: var(--woad);
  stroke-width: 2;
}
</style>
