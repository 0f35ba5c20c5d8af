<script setup lang="ts">
import {
  findStretch,
  flatLayout,
  formatQuantity,
  innerLines,
  loopWith,
  nearestShare,
  nodesOfPiece,
  openSidesOf,
  parameterAt,
  placeAt,
  pleatsProblem,
  sideKeys,
  sideLength,
  sidesOf,
  sizeOfPiece,
  type Piece,
} from '@lumbra/core';
import { computed, ref } from 'vue';
import { usePatternStore } from '../../stores/pattern';
import { loopPath, openPath, sidePath } from './flatSpace';
import FlatNodes from './FlatNodes.vue';
import { useFlatLook } from './useFlatLook';
import { useNodeDrawing } from './useNodeDrawing';

// The pieces of a pattern laid out flat, to be drawn: nodes and handles are dragged, sides chosen and sewn. What is dragged is shown here alone
// until it is let go; then the piece is cut anew.

const pattern = usePatternStore();
const holder = ref<SVGSVGElement | null>(null);
const { draft, cutting, drag, onNodeKey, splitAt } = useNodeDrawing();

const shape = computed(() => pattern.shape);
/** Pieces stay where they lie while one of them is drawn. */
const layout = computed(() => flatLayout(shape.value?.pieces ?? []));
const { look, measured, px, grid, box, placeOf, zoom, pan } = useFlatLook(holder, () => ({
  ...layout.value,
  count: shape.value?.pieces.length ?? 0,
}));
const pieces = computed(() =>
  (shape.value?.pieces ?? []).map((own, i) => {
    const piece = draft.value?.piece.id === own.id ? draft.value.piece : own;
    const { low, width: w, height: h } = sizeOfPiece(piece);
    const loops = [piece.outline, ...piece.holes];
    return {
      piece,
      at: layout.value.at[i]!,
      middle: [low[0] + w / 2, low[1] + h / 2] as [number, number],
      corner: [low[0], low[1] + h] as [number, number],
      path: loops.map(loopPath).join(''),
      sides: loops.flatMap((nodes, loop) =>
        sidesOf(nodes).map((side, n) => ({
          side,
          from: nodes[n]!.id,
          key: `${piece.id} ${loop} ${n}`,
          path: sidePath(side),
        })),
      ),
      lines: piece.lines.map((line, n) => ({
        line,
        label: `Line ${n + 1} of ${piece.name}`,
        path: openPath(line.nodes),
        sides: openSidesOf(line.nodes).map((side, i) => ({ from: line.nodes[i]!.id, path: sidePath(side) })),
      })),
      // Where its pleats fold; while it is dragged it may be too narrow for them.
      folds: pleatsProblem(piece) ? [] : innerLines({ ...piece, lines: [] }).map(({ sides }) => sidePath(sides[0]!)),
      nodes: nodesOfPiece(piece),
    };
  }),
);
/** Which seam each side has, by the side's name. */
const seamOf = computed(() => {
  const found = new Map<string, number>();
  shape.value?.seams.forEach(({ a, b }, i) => {
    for (const stretch of [a, b]) {
      const place = findStretch(shape.value!.pieces, stretch);
      if (place) for (const key of sideKeys(place)) found.set(key, i);
    }
  });
  return found;
});

/** Chooses a side by a press: the nearest, for of two that lie as near each other as a slit's lips, the one that is drawn last covers the other. */
function pressSide(
  event: PointerEvent,
  { piece, sides, at }: Pick<(typeof pieces.value)[number], 'piece' | 'sides' | 'at'>,
  pressed: string,
): void {
  const [u, v] = placeOf(event);
  const away = ({ side }: (typeof sides)[number]) => nearestShare(side, [u - at[0], v - at[1]]).away;
  const first = sides.find(({ from }) => from === pressed)!;
  const { from } = sides.reduce((best, one) => (away(one) < away(best) ? one : best), first);
  pattern.selectSide({ piece: piece.id, from }, event.shiftKey || event.ctrlKey || event.metaKey);
}

/** A double click puts a node on a side, where it is pressed. */
function split(event: MouseEvent, piece: Piece, from: string, at: readonly [number, number]): void {
  const [u, v] = placeOf(event);
  splitAt([u - at[0], v - at[1]], piece, from);
}

/** A press on nothing lets go of what is selected. */
function letGo(): void {
  pattern.sides = [];
  pattern.nodeId = pattern.lineId = null;
}

/** Sides whose length is told: those that are selected, and those beside the selected node. */
function isMeasured(piece: Piece, from: string): boolean {
  if (pattern.sides.some((side) => side.piece === piece.id && side.from === from)) return true;
  if (piece.id !== pattern.pieceId || !pattern.nodeId) return false;
  const loop = loopWith(piece, pattern.nodeId);
  const i = loop?.findIndex(({ id }) => id === pattern.nodeId) ?? -1;
  return loop !== undefined && (loop[i]!.id === from || loop.at(i - 1)!.id === from);
}

function isChosen(piece: Piece, from: string): boolean {
  return pattern.sides.some((side) => side.piece === piece.id && side.from === from);
}

/** Where something is written beside a side: numbers of seams before its middle, its length there. */
function placeOn(side: (typeof pieces.value)[number]['sides'][number]['side'], share: number): [number, number] {
  return [...placeAt(side, parameterAt(side, share))] as [number, number];
}
</script>

<template>
  <div class="flat">
    <svg
      ref="holder"
      role="group"
      aria-label="Pieces laid out flat"
      :viewBox="`${box.u} ${box.v} ${box.w} ${box.h}`"
      :style="{ '--px': px, visibility: measured ? 'visible' : 'hidden' }"
      @wheel.prevent="zoom"
      @pointerdown.self="pan($event, letGo)"
    >
      <defs>
        <pattern id="flat-grid" :width="grid" :height="grid" patternUnits="userSpaceOnUse">
          <path :d="`M0 0H${grid}M0 0V${grid}`" class="grid" :stroke-width="px" />
        </pattern>
      </defs>
      <rect
        :x="box.u"
        :y="box.v"
        :width="box.w"
        :height="box.h"
        fill="url(#flat-grid)"
        @pointerdown="pan($event, letGo)"
      />
      <g
        v-for="{ piece, at, middle, corner, path, sides, lines, folds, nodes } in pieces"
        :key="piece.id"
        :transform="`translate(${at[0]} ${-at[1]})`"
        :class="{ chosen: piece.id === pattern.pieceId }"
      >
        <path
          :d="path"
          class="cloth"
          fill-rule="evenodd"
          :data-testid="`flat-piece-${piece.name}`"
          @pointerdown="(pan($event, letGo), pattern.selectPiece(piece.id))"
        />
        <g class="grain" :transform="`translate(${middle[0]} ${-middle[1]}) rotate(${(-piece.grain * 180) / Math.PI})`">
          <path
            :d="`M${-30 * px} 0H${30 * px}M${22 * px} ${-5 * px}L${30 * px} 0L${22 * px} ${5 * px}M${-22 * px} ${-5 * px}L${-30 * px} 0L${-22 * px} ${5 * px}`"
            :stroke-width="1.5 * px"
          />
        </g>
        <text :x="corner[0]" :y="-corner[1] - 26 * px" :font-size="13 * px" class="name">{{ piece.name }}</text>
        <g v-for="{ side, from, key, path: d } in sides" :key="key">
          <path
            :d="d"
            class="side"
            :class="{
              sewn: seamOf.has(key),
              picked: isChosen(piece, from),
              of: pattern.seamId !== null && shape!.seams[seamOf.get(key) ?? -1]?.id === pattern.seamId,
            }"
            :stroke-width="(isChosen(piece, from) ? 4 : 2) * px"
            :stroke-dasharray="seamOf.has(key) ? `${6 * px} ${4 * px}` : undefined"
          />
          <path
            :d="d"
            class="hit"
            role="button"
            :tabindex="piece.id === pattern.pieceId ? 0 : -1"
            :aria-label="`Side of ${piece.name}, ${formatQuantity(sideLength(side), 'cm')} cm`"
            :aria-pressed="isChosen(piece, from)"
            :stroke-width="14 * px"
            @pointerdown.stop="pressSide($event, { piece, sides, at }, from)"
            @dblclick.stop="split($event, piece, from, at)"
            @keydown.enter.stop.prevent="pattern.selectSide({ piece: piece.id, from }, true)"
          />
          <text
            v-if="seamOf.has(key)"
            class="number"
            :x="placeOn(side, 0.35)[0]"
            :y="-placeOn(side, 0.35)[1] + 4 * px"
            :font-size="12 * px"
          >
            {{ seamOf.get(key)! + 1 }}
          </text>
          <text
            v-if="isMeasured(piece, from)"
            class="length"
            :x="placeOn(side, 0.5)[0]"
            :y="-placeOn(side, 0.5)[1] - 8 * px"
            :font-size="12 * px"
          >
            {{ formatQuantity(sideLength(side), 'cm', 4) }} cm
          </text>
        </g>
        <path
          v-for="d in folds"
          :key="d"
          :d="d"
          class="pleat"
          :stroke-width="px"
          :stroke-dasharray="`${10 * px} ${3 * px} ${2 * px} ${3 * px}`"
        />
        <g v-for="{ line, label, path: whole, sides: parts } in lines" :key="line.id">
          <path
            :d="whole"
            class="line"
            :class="{ slit: line.kind === 'slit', picked: line.id === pattern.lineId }"
            :stroke-width="(line.id === pattern.lineId ? 3 : 1.5) * px"
            :stroke-dasharray="line.kind === 'crease' ? `${10 * px} ${3 * px} ${2 * px} ${3 * px}` : undefined"
          />
          <path
            v-for="part in parts"
            :key="part.from"
            :d="part.path"
            class="hit"
            role="button"
            :tabindex="piece.id === pattern.pieceId ? 0 : -1"
            :aria-label="label"
            :aria-pressed="line.id === pattern.lineId"
            :stroke-width="14 * px"
            @pointerdown.stop="pattern.selectLine(piece.id, line.id)"
            @dblclick.stop="split($event, piece, part.from, at)"
            @keydown.enter.stop.prevent="pattern.selectLine(piece.id, line.id)"
          />
        </g>
        <FlatNodes
          v-if="piece.id === pattern.pieceId"
          :piece="piece"
          :nodes="nodes"
          :px="px"
          :guides="draft?.piece.id === piece.id ? draft.guides : null"
          @take="(event, node, part) => drag(event, piece, node, part, look.scale)"
          @press="(event, node) => onNodeKey(event, piece, node)"
        />
      </g>
    </svg>
    <p v-if="!shape" class="plate empty">There is no pattern to lay out. Cut one in the panel.</p>
    <div class="plate told small">
      <span>grid {{ formatQuantity(grid, 'cm') }} cm</span>
      <span v-if="cutting">cutting…</span>
      <span v-else>drag nodes; double click a side for one more; shift and click to choose sides</span>
    </div>
    <button type="button" class="plate back choice" @click="pattern.flat = false">Back to the stage (F)</button>
  </div>
</template>

<style scoped>
.flat {
  position: absolute;
  inset: 0;
  background: var(--linen-1);
  z-index: 1;
}
svg {
  width: 100%;
  height: 100%;
  display: block;
  touch-action: none;
}
.grid {
  stroke: var(--rule);
  fill: none;
}
.cloth {
  fill: var(--linen-0);
  cursor: grab;
}
.grain path {
  fill: none;
  stroke: var(--mark);
  pointer-events: none;
}
text {
  text-anchor: middle;
  fill: var(--ink-9);
  pointer-events: none;
  user-select: none;
}
.name {
  font-weight: 600;
  text-anchor: start;
}
.length,
.number {
  paint-order: stroke;
  stroke: var(--linen-1);
  stroke-width: calc(4 * var(--px));
  stroke-linejoin: round;
}
.number {
  fill: var(--madder);
  font-weight: 650;
}
.side {
  fill: none;
  stroke: var(--ink-6);
  stroke-linecap: round;
  pointer-events: none;
}
.chosen .side {
  stroke: var(--ink-9);
}
.side.sewn {
  stroke: var(--madder);
}
.side.picked {
  stroke: var(--indigo);
}
.side.of {
  stroke: var(--madder);
  stroke-width: calc(4 * var(--px));
}
.line,
.pleat {
  fill: none;
  stroke: var(--ink-6);
  pointer-events: none;
}
.line {
  stroke: var(--ink-9);
}
.line.slit {
  stroke: var(--madder);
}
.line.picked {
  stroke: var(--indigo);
}
.hit {
  fill: none;
  stroke: transparent;
  cursor: pointer;
  outline: none;
}
.hit:hover {
  stroke: color-mix(in srgb, var(--indigo) 18%, transparent);
}
.hit:focus-visible {
  stroke: color-mix(in srgb, var(--indigo) 35%, transparent);
}
.told {
  left: 12px;
  bottom: 12px;
  padding: 0 12px;
  gap: 12px;
}
.back {
  left: 12px;
  top: 12px;
  margin: 0;
}
.empty {
  left: 50%;
  top: 45%;
  translate: -50% 0;
  padding: 0 16px;
}
</style>
