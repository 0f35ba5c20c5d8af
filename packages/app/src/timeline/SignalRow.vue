<script setup lang="ts">
import { formatQuantity } from '@lumbra/core';
import { computed } from 'vue';
import { useTakesStore } from '../stores/takes';
import { CURVE_TOP } from './rows';
import type { Signal } from './signals';
import type { FrameScale } from './useFrameScale';

// A number of the bake along the timeline, with the limit above which it is a problem.

const props = defineProps<{ scale: FrameScale; signal: Signal; height: number }>();
const takes = useTakesStore();

/** What the full height of the track stands for: enough for the bake's largest value. */
const top = computed(() => Math.max(props.signal.top, ...takes.account.map(({ stats }) => props.signal.value(stats))));
const points = computed(() =>
  takes.account
    .map(({ frame, stats }) => `${props.scale.x(frame).toFixed(1)},${y(props.signal.value(stats)).toFixed(1)}`)
    .join(' '),
);
const limitText = computed(() =>
  `${formatQuantity(props.signal.limit, props.signal.unit, 2)} ${props.signal.unit}`.trim(),
);

function y(value: number): number {
  return props.height - 3 - (props.height - CURVE_TOP - 11) * Math.min(1, value / top.value);
}
</script>

<template>
  <g>
    <template v-if="signal.limit > 0 && signal.limit <= top">
      <line
        :x1="scale.x(scale.low)"
        :x2="scale.x(scale.high)"
        :y1="y(signal.limit)"
        :y2="y(signal.limit)"
        class="limit"
      />
      <text :x="scale.x(scale.high) + 34" :y="y(signal.limit) - 4" text-anchor="end">{{ limitText }}</text>
    </template>
    <polyline v-if="points" :points="points" />
  </g>
</template>

<style scoped>
.limit {
  stroke: var(--madder);
  stroke-dasharray: 6 4;
}
text {
  font-size: 12px;
  fill: var(--madder);
}
polyline {
  fill: none;
  stroke: var(--ink-6);
  stroke-width: 1.5;
}
</style>
