<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';
import { followDrag } from '../pointer/followDrag';
import { KNOTS } from './rows';
import type { FrameScale } from './useFrameScale';
import { useKnots, type KnotMark } from './useKnots';

// The keys of what is selected: one knot for all numbers keyed at a frame. Press, drag a range, drag to move, with ctrl to copy.

const MIDDLE = (KNOTS.top + KNOTS.bottom) / 2;

const props = defineProps<{ scale: FrameScale }>();
const run = useRunStore();
const selection = useSelectionStore();
const { owners, marks, isSelected, select, inRange, move, draggedBy } = useKnots();
const range = ref<{ from: number; to: number } | null>(null);
const copying = ref(false);
const x = (frame: number) => props.scale.x(frame);

const chosen = (mark: KnotMark) => mark.places.some(isSelected);
/** Where the number goes on from one knot to the next; nothing is drawn where it stands still. */
const spans = computed(() =>
  marks.value.slice(0, -1).flatMap((mark, i) => {
    const holds = mark.eases.length === 1 && mark.eases[0] === 'hold';
    return holds ? [] : [{ from: mark.frame, to: marks.value[i + 1]!.frame, smooth: mark.eases.includes('smooth') }];
  }),
);

function press(event: PointerEvent, mark: KnotMark): void {
  if (event.button !== 0) return;
  const add = event.shiftKey;
  if (!chosen(mark) || add) select(mark.places, add);
  run.playing = false;
  followDrag(event, {
    move: (dx, _dy, at) => {
      draggedBy.value = selection.knots.length > 0 ? inRange(dx / props.scale.pixelsPerFrame) : 0;
      copying.value = at.ctrlKey || at.metaKey;
    },
    end: (moved) => {
      if (moved) move(draggedBy.value, copying.value);
      else {
        if (!add) select(mark.places, false);
        run.goTo(mark.frame);
      }
      copying.value = false;
    },
    cancel: () => {
      draggedBy.value = 0;
      copying.value = false;
    },
  });
}

/** How far around a knot a press takes it, in CSS pixels: as far as its neighbours leave it. */
function reach(i: number): number {
  const gap = (other: KnotMark | undefined) =>
    other ? Math.abs(x(other.frame) - x(marks.value[i]!.frame)) / 2 : Infinity;
  return Math.max(5, Math.min(12, gap(marks.value[i - 1]), gap(marks.value[i + 1])));
}

/** Keys on a knot: enter or space select it and go there, left and right take what is selected with it to other frames. */
function onKey(event: KeyboardEvent, mark: KnotMark): void {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
  if (event.key === 'Enter' || event.key === ' ') {
    select(mark.places, event.shiftKey);
    run.goTo(mark.frame);
  } else if (by !== 0) {
    if (!chosen(mark)) select(mark.places, false);
    move(inRange(by * (event.shiftKey ? 10 : 1)), event.ctrlKey || event.metaKey);
  } else return;
  event.preventDefault();
  event.stopPropagation();
}

function pressRow(event: PointerEvent): void {
  if (event.button !== 0) return;
  const left = (event.currentTarget as Element).closest('svg')!.getBoundingClientRect().left;
  const start = event.clientX - left;
  const before = selection.knots;
  followDrag(event, {
    move: (dx) => {
      range.value = { from: Math.min(start, start + dx), to: Math.max(start, start + dx) };
      const inside = marks.value.filter(({ frame }) => x(frame) >= range.value!.from && x(frame) <= range.value!.to);
      select(
        inside.flatMap(({ places }) => places),
        false,
      );
    },
    end: (moved) => {
      range.value = null;
      if (moved) return;
      select([], false);
      run.goTo(props.scale.frameAt(start));
    },
    cancel: () => {
      range.value = null;
      selection.knots = before;
    },
  });
}
</script>

<template>
  <g data-testid="knots">
    <rect
      x="0"
      :y="KNOTS.top + 1"
      width="100%"
      :height="KNOTS.bottom - KNOTS.top - 1"
      class="row"
      @pointerdown.stop="pressRow"
    />
    <text v-if="owners.length > 0 && marks.length === 0" :x="x(scale.low) + 12" :y="MIDDLE + 4" class="none">
      no keys: press the stitch beside a number to key it at this frame
    </text>
    <line
      v-for="span in spans"
      :key="span.from"
      :x1="x(span.from) + 5"
      :x2="x(span.to) - 5"
      :y1="MIDDLE"
      :y2="MIDDLE"
      class="span"
      :class="{ smooth: span.smooth }"
    />
    <rect
      v-if="range"
      :x="range.from"
      :width="range.to - range.from"
      :y="KNOTS.top + 3"
      :height="KNOTS.bottom - KNOTS.top - 6"
      class="range"
    />
    <!-- By their order, so that a key that is moved by keys stays the one that has the focus. -->
    <template v-for="(mark, i) in marks" :key="i">
      <circle
        v-if="chosen(mark) && draggedBy !== 0"
        :cx="x(mark.frame + draggedBy)"
        :cy="MIDDLE"
        r="4.5"
        class="knot ghost"
      />
      <g
        class="mark"
        role="button"
        tabindex="0"
        :aria-label="`Key at frame ${mark.frame}`"
        :aria-pressed="chosen(mark)"
        @pointerdown.stop="press($event, mark)"
        @keydown="onKey($event, mark)"
      >
        <title>
          {{
            `Frame ${mark.frame}: ${mark.places.length} ${mark.places.length === 1 ? 'number' : 'numbers'}, ${mark.eases.join(' and ')}`
          }}
        </title>
        <circle :cx="x(mark.frame)" :cy="MIDDLE" :r="reach(i)" class="reach" />
        <circle
          :cx="x(mark.frame)"
          :cy="MIDDLE"
          r="4.5"
          class="knot"
          :class="{ chosen: chosen(mark), leaving: chosen(mark) && draggedBy !== 0 && !copying }"
        />
      </g>
    </template>
    <text v-if="draggedBy !== 0" :x="x(selection.knots.at(-1)!.frame + draggedBy) + 8" :y="MIDDLE + 4" class="to">
      {{ copying ? 'copy to' : 'to' }} {{ selection.knots.at(-1)!.frame + draggedBy }}
    </text>
  </g>
</template>

<style scoped>
.row {
  fill: transparent;
  cursor: crosshair;
}
.none {
  font-size: 12px;
  fill: var(--ink-6);
  pointer-events: none;
}
.span {
  stroke: var(--weld);
  opacity: 0.6;
  pointer-events: none;
}
.span.smooth {
  stroke-width: 2;
}
.range {
  fill: color-mix(in srgb, var(--indigo) 12%, transparent);
  stroke: var(--indigo);
  stroke-dasharray: 6 3;
  pointer-events: none;
}
.knot {
  fill: var(--linen-1);
  stroke: var(--weld);
  stroke-width: 2;
  cursor: grab;
}
.reach {
  fill: transparent;
  cursor: grab;
}
.mark {
  outline: none;
}
.mark:hover .knot {
  stroke-width: 3;
}
.mark:focus-visible .reach {
  stroke: var(--indigo);
  stroke-width: 2;
}
.knot.chosen {
  fill: var(--weld);
}
.knot.leaving {
  opacity: 0.35;
}
.knot.ghost {
  fill: var(--weld);
  stroke-dasharray: 3 2;
  pointer-events: none;
}
.to {
  font-size: 12px;
  font-weight: 600;
  fill: var(--ink-9);
  paint-order: stroke;
  stroke: var(--linen-1);
  stroke-width: 6px;
  pointer-events: none;
}
</style>
