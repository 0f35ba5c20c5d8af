<script setup lang="ts">
import { formatQuantity, keyOwner, numberQuantity, setKnot, trackOf, trackValue, type Knot } from '@lumbra/core';
import { computed } from 'vue';
import { useDocumentStore } from '../session/document';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';
import { followDrag } from '../pointer/followDrag';
import { CURVE_TOP } from './rows';
import type { FrameScale } from './useFrameScale';
import { useKnots } from './useKnots';

// The curve of one keyed number. Its knots are dragged sideways to other frames and up and down to other values.

const props = defineProps<{ scale: FrameScale; height: number; thing: string | null; number: string }>();
const document = useDocumentStore();
const run = useRunStore();
const selection = useSelectionStore();
const { isSelected, select, inRange, move, draggedBy } = useKnots();

const owner = computed(() => (document.shot ? keyOwner(document.shot, props.thing) : undefined));
const track = computed(() => (owner.value ? trackOf(owner.value, props.number) : undefined));
const quantity = computed(() => (owner.value ? numberQuantity(owner.value, props.number) : undefined));
const span = computed(() => {
  const values = track.value?.knots.map(({ value }) => value) ?? [0];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  // A number that stands still is drawn in the middle.
  const room = high - low > 1e-9 ? (high - low) * 0.08 : Math.max(1e-3, Math.abs(high) * 0.5);
  return { low: low - room, high: high + room };
});
const points = computed(() => {
  if (!track.value) return '';
  const { x, low, high, pixelsPerFrame } = props.scale;
  const step = Math.max(0.1, 2 / pixelsPerFrame);
  const found: string[] = [];
  for (let frame = low; frame < high; frame += step)
    found.push(`${x(frame).toFixed(1)},${y(trackValue(track.value, frame)).toFixed(1)}`);
  found.push(`${x(high).toFixed(1)},${y(trackValue(track.value, high)).toFixed(1)}`);
  return found.join(' ');
});
const text = (value: number) => `${formatQuantity(value, quantity.value!.unit, 3)} ${quantity.value!.unit}`.trim();

function y(value: number): number {
  const { low, high } = span.value;
  return props.height - 4 - ((value - low) / (high - low)) * (props.height - CURVE_TOP - 8);
}

const placeOf = ({ frame }: Knot) =>
  props.scale.x(frame + (isSelected({ thing: props.thing, number: props.number, frame }) ? draggedBy.value : 0));

/** Keys on a point of the curve: up and down change its value by a fiftieth of the curve, left and right its frame; with shift ten times. */
function onKey(event: KeyboardEvent, knot: Knot): void {
  if (!quantity.value) return;
  const place = { thing: props.thing, number: props.number, frame: knot.frame };
  const many = event.shiftKey ? 10 : 1;
  const [up, along] = [
    { ArrowUp: 1, ArrowDown: -1 }[event.key as 'ArrowUp'] ?? 0,
    { ArrowLeft: -1, ArrowRight: 1 }[event.key as 'ArrowLeft'] ?? 0,
  ];
  if (event.key === 'Enter' || event.key === ' ') {
    select([place], event.shiftKey);
    run.goTo(knot.frame);
  } else if (up !== 0) {
    const { min, max, label } = quantity.value;
    const step = ((span.value.high - span.value.low) / 50) * many;
    const value = Number(Math.min(max, Math.max(min, knot.value + up * step)).toPrecision(4));
    document.edit(`Key ${label.toLowerCase()}`, (draft) => setKnot(draft, place, value));
  } else if (along !== 0) {
    select([place], false);
    move(inRange(along * many), event.ctrlKey || event.metaKey);
  } else return;
  event.preventDefault();
  event.stopPropagation();
}

function press(event: PointerEvent, knot: Knot): void {
  if (event.button !== 0 || !quantity.value) return;
  const place = { thing: props.thing, number: props.number, frame: knot.frame };
  if (!isSelected(place) || event.shiftKey || selection.knots.length > 1) select([place], event.shiftKey);
  const { min, max } = quantity.value;
  const from = { value: knot.value, perPixel: (span.value.high - span.value.low) / (props.height - CURVE_TOP - 8) };
  // Up and down or sideways, as the drag began: never a little of the other.
  let along: 'frame' | 'value' | null = null;
  const merge = `knot.${props.number}.${knot.frame}`;
  followDrag(event, {
    move: (dx, dy) => {
      along ??= Math.abs(dx) > Math.abs(dy) ? 'frame' : 'value';
      if (along === 'frame') draggedBy.value = inRange(dx / props.scale.pixelsPerFrame);
      else {
        const value = Number(Math.min(max, Math.max(min, from.value - dy * from.perPixel)).toPrecision(4));
        document.edit(`Key ${quantity.value!.label.toLowerCase()}`, (draft) => setKnot(draft, place, value), merge);
      }
    },
    end: (moved, at) => {
      if (along === 'frame') move(draggedBy.value, at.ctrlKey || at.metaKey);
      document.endMerge();
      if (!moved) run.goTo(knot.frame);
    },
    cancel: () => {
      draggedBy.value = 0;
      document.giveUp(merge);
    },
  });
}
</script>

<template>
  <g v-if="track && quantity" data-testid="curve">
    <polyline :points="points" />
    <text :x="scale.x(scale.high) + 34" :y="CURVE_TOP + 14" text-anchor="end">{{ text(span.high) }}</text>
    <text :x="scale.x(scale.high) + 34" :y="height - 4" text-anchor="end">{{ text(span.low) }}</text>
    <g
      v-for="(knot, i) in track.knots"
      :key="i"
      class="mark"
      role="button"
      tabindex="0"
      :aria-label="`Key of ${quantity.label} at frame ${knot.frame}: ${text(knot.value)}`"
      @pointerdown.stop="press($event, knot)"
      @keydown="onKey($event, knot)"
    >
      <title>{{ `Frame ${knot.frame}: ${text(knot.value)}, ${knot.ease}` }}</title>
      <circle class="reach" :cx="placeOf(knot)" :cy="y(knot.value)" r="12" />
      <circle
        class="knot"
        :class="{ chosen: isSelected({ thing, number, frame: knot.frame }) }"
        :cx="placeOf(knot)"
        :cy="y(knot.value)"
        r="4.5"
      />
    </g>
  </g>
</template>

<style scoped>
polyline {
  fill: none;
  stroke: var(--weld);
  stroke-width: 1.5;
}
text {
  font-size: 12px;
  fill: var(--ink-6);
  paint-order: stroke;
  stroke: var(--linen-1);
  stroke-width: 4px;
}
.reach {
  fill: transparent;
  cursor: move;
}
.mark {
  outline: none;
}
.mark:focus-visible .reach {
  stroke: var(--indigo);
  stroke-width: 2;
}
.knot {
  fill: var(--linen-1);
  stroke: var(--weld);
  stroke-width: 2;
  pointer-events: none;
}
.knot.chosen {
  fill: var(--weld);
}
</style>
