<script setup lang="ts">
import { computed } from 'vue';
import { useDocumentStore } from '../stores/document';
import { useRunStore } from '../stores/run';
import { THREAD } from './rows';
import type { FrameScale } from './useFrameScale';

// The thread: a line of yarn that is solid where the shot is baked, dashed where the bake is stale.

const MIDDLE = (THREAD.top + THREAD.bottom) / 2;

const props = defineProps<{ scale: FrameScale }>();
const document = useDocumentStore();
const run = useRunStore();
const x = (frame: number) => props.scale.x(frame);

/** Where a time of the live run is on the timeline; beyond its end at its end. */
function checkpointX(time: number): number {
  const shot = document.shot!;
  return Math.min(x(props.scale.high), x(shot.firstFrame - shot.preRoll + time * shot.frameRate));
}

const baked = computed(() =>
  run.bakedUntil === null || run.stats.length === 0 ? null : { from: run.stats[0]!.frame, to: run.bakedUntil },
);
const twists = computed(() => {
  if (!baked.value || run.stale) return [];
  const marks: number[] = [];
  for (let at = x(baked.value.from) + 4; at < x(baked.value.to) - 2; at += 7) marks.push(at);
  return marks;
});
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
    <template v-if="baked">
      <line
        v-if="run.stale"
        :x1="x(baked.from)"
        :x2="x(baked.to)"
        :y1="MIDDLE"
        :y2="MIDDLE"
        class="stale"
        data-testid="thread-stale"
      />
      <template v-else>
        <line :x1="x(baked.from)" :x2="x(baked.to)" :y1="MIDDLE" :y2="MIDDLE" class="firm" data-testid="thread-firm" />
        <line v-for="at in twists" :key="at" :x1="at" :x2="at + 2.5" :y1="MIDDLE + 2" :y2="MIDDLE - 2" class="twist" />
      </template>
      <line
        v-if="run.status === 'baking'"
        :x1="x(baked.to)"
        :x2="x(baked.to)"
        :y1="MIDDLE - 8"
        :y2="MIDDLE + 8"
        class="front"
      />
    </template>
    <g v-for="time in run.status === 'live' ? run.checkpoints : []" :key="time" class="checkpoint">
      <path :d="`M${checkpointX(time)} ${THREAD.bottom - 3} v-18 l8 4 l-8 4`" />
      <title>Checkpoint at {{ time.toFixed(2) }} s of the live run</title>
    </g>
  </g>
</template>

<style scoped>
.absent {
  stroke: var(--linen-2);
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
