<script setup lang="ts">
import { nodeWith, type PatternNode, type Piece } from '@lumbra/core';
import { computed } from 'vue';
import { usePatternStore } from '../../stores/pattern';
import type { NodePart, Snapped } from './flatSpace';

// The nodes of the piece that is being drawn, the handles of the one that is selected, and the lines that it snaps to.

const props = defineProps<{
  /** As it is shown: while a node is dragged, as it would be. */
  piece: Piece;
  nodes: readonly PatternNode[];
  /** One pixel in m. */
  px: number;
  guides: Snapped['guides'] | null;
}>();
const emit = defineEmits<{
  /** A node or one of its handles is taken with the pointer. */
  take: [event: PointerEvent, node: PatternNode, part: NodePart];
  /** A key is pressed on a node. */
  press: [event: KeyboardEvent, node: PatternNode];
}>();
const pattern = usePatternStore();
const selectedNode = computed(() => nodeWith(props.piece, pattern.nodeId ?? ''));

function handlesOf(node: PatternNode): { part: 'before' | 'after'; to: [number, number] }[] {
  return (['before', 'after'] as const).flatMap((part) =>
    node[part] ? [{ part, to: [node.at[0] + node[part][0], node.at[1] + node[part][1]] as [number, number] }] : [],
  );
}
</script>

<template>
  <g v-if="guides" class="guides" :stroke-width="px">
    <path v-if="guides.u !== null" :d="`M${guides.u} -50V50`" />
    <path v-if="guides.v !== null" :d="`M-50 ${-guides.v}H50`" />
  </g>
  <g v-if="selectedNode" class="handles">
    <g v-for="{ part, to } in handlesOf(selectedNode)" :key="part">
      <path :d="`M${selectedNode.at[0]} ${-selectedNode.at[1]}L${to[0]} ${-to[1]}`" :stroke-width="px" />
      <circle
        :cx="to[0]"
        :cy="-to[1]"
        :r="4 * px"
        :stroke-width="1.5 * px"
        :data-testid="`flat-handle-${part}`"
        @pointerdown.stop="emit('take', $event, selectedNode!, part)"
      />
    </g>
  </g>
  <g
    v-for="(node, n) in nodes"
    :key="node.id"
    class="node"
    role="button"
    tabindex="0"
    :class="{ picked: node.id === pattern.nodeId }"
    :aria-label="`Node ${n + 1} of ${piece.name}`"
    :aria-pressed="node.id === pattern.nodeId"
    :transform="`translate(${node.at[0]} ${-node.at[1]})`"
    @pointerdown.stop="emit('take', $event, node, 'at')"
    @keydown="emit('press', $event, node)"
  >
    <circle :r="12 * px" class="reach" />
    <circle v-if="node.before || node.after" :r="4.5 * px" :stroke-width="1.5 * px" class="dot" />
    <rect v-else :x="-4 * px" :y="-4 * px" :width="8 * px" :height="8 * px" :stroke-width="1.5 * px" class="dot" />
  </g>
</template>

<style scoped>
.node {
  cursor: move;
  outline: none;
}
.node .reach {
  fill: transparent;
}
.node:focus-visible .reach {
  fill: color-mix(in srgb, var(--indigo) 30%, transparent);
}
.dot {
  fill: var(--linen-0);
  stroke: var(--ink-9);
}
.node.picked .dot {
  fill: var(--indigo);
  stroke: var(--indigo);
}
.handles path {
  stroke: var(--indigo);
}
.handles circle {
  fill: var(--linen-0);
  stroke: var(--indigo);
  cursor: move;
}
.guides path {
  stroke: var(--madder);
  stroke-dasharray: calc(4 * var(--px)) calc(3 * var(--px));
}
</style>
