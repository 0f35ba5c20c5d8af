<script setup lang="ts">
import type { RampLine } from './useRampTool';

// What the tools for points draw over the picture, in CSS pixels: a box or lasso, a ramp, the ring of the brush.

defineProps<{
  outline: readonly (readonly [number, number])[];
  brush: { x: number; y: number; pixels: number } | null;
  ramp: RampLine | null;
}>();
</script>

<template>
  <svg v-if="outline.length > 1" class="outline">
    <polygon :points="outline.map((corner) => corner.join(',')).join(' ')" />
  </svg>
  <svg v-if="ramp" class="outline">
    <circle v-if="ramp.round" :cx="ramp.from[0]" :cy="ramp.from[1]" :r="ramp.reach" />
    <line :x1="ramp.from[0]" :y1="ramp.from[1]" :x2="ramp.to[0]" :y2="ramp.to[1]" />
    <circle class="end" :cx="ramp.from[0]" :cy="ramp.from[1]" r="5" />
    <circle class="end" :cx="ramp.to[0]" :cy="ramp.to[1]" r="5" />
    <text :x="ramp.from[0] + 10" :y="ramp.from[1] - 8">{{ ramp.inverted ? 0 : 100 }} %</text>
    <text :x="ramp.to[0] + 10" :y="ramp.to[1] - 8">{{ ramp.inverted ? 100 : 0 }} %</text>
  </svg>
  <div
    v-if="brush"
    class="brush"
    :style="{
      left: `${brush.x - brush.pixels}px`,
      top: `${brush.y - brush.pixels}px`,
      width: `${2 * brush.pixels}px`,
      height: `${2 * brush.pixels}px`,
    }"
  />
</template>

<style scoped>
.outline {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.outline polygon {
  fill: color-mix(in srgb, var(--indigo) 10%, transparent);
  stroke: var(--indigo);
  stroke-width: 2;
  stroke-dasharray: 6 3;
}
.outline line {
  stroke: var(--weld);
  stroke-width: 2;
}
.outline circle {
  fill: none;
  stroke: var(--weld);
  stroke-width: 1.5;
  stroke-dasharray: 6 3;
}
.outline .end {
  fill: var(--linen-0);
  stroke-dasharray: none;
}
.outline text {
  font-size: 12px;
  font-weight: 600;
  fill: var(--ink-9);
  paint-order: stroke;
  stroke: var(--linen-0);
  stroke-width: 3px;
}
.brush {
  position: absolute;
  border: 1.5px solid var(--indigo);
  border-radius: 50%;
  pointer-events: none;
}
</style>
