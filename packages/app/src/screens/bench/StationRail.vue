<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useChecksStore } from '../../stores/checks';
import { useDocumentStore } from '../../session/document';
import { useTakesStore } from '../../stores/takes';
import { useSelectionStore } from '../../stores/selection';
import { STATIONS } from '../../stations';
import { vTip } from '../../fields/tip';

/** Cells are so high where there is room; eight of them fit a raised timeline too. */
const CELL = { most: 80, least: 48 };
const rail = ref<HTMLElement | null>(null);
const { height } = useElementSize(rail);
const cell = computed(() =>
  Math.round(Math.min(CELL.most, Math.max(CELL.least, height.value / Math.max(8, STATIONS.length)))),
);
const document = useDocumentStore();
const takes = useTakesStore();
const selection = useSelectionStore();
const checks = useChecksStore();
const active = computed(() => STATIONS.findIndex(({ id }) => id === selection.station));
const knots = computed(() =>
  STATIONS.map(({ id, knot }) => {
    const found = checks.findings.filter(({ station }) => station === id);
    if (found.some(({ grave }) => grave)) return 'fails';
    if (found.length > 0) return 'worth-a-look';
    return document.shot ? knot(document.shot, takes.take !== null) : 'empty';
  }),
);
const RING = 'M-4 0a4 4 0 1 0 8 0a4 4 0 1 0 -8 0Z';
const KNOT_PATHS: Record<string, string> = {
  empty: RING,
  used: RING,
  'worth-a-look': 'M0 -5.5L5.5 0L0 5.5L-5.5 0Z',
  fails: 'M-4.5 -4.5L4.5 4.5M-4.5 4.5L4.5 -4.5',
};
const TITLES: Record<string, string> = { fails: ': a check fails', 'worth-a-look': ': a check is worth a look' };
</script>

<template>
  <nav ref="rail" class="rail" aria-label="Stations" :style="{ '--cell': `${cell}px` }">
    <svg class="seam" width="24" :height="STATIONS.length * cell" aria-hidden="true">
      <line x1="14" x2="14" y1="0" :y2="STATIONS.length * cell" class="stitch" />
      <line x1="14" x2="14" :y1="active * cell" :y2="(active + 1) * cell" class="solid" />
      <!-- A knot for each: an open ring where nothing is yet, a full one in use, a turned square worth a look, a cross that fails. -->
      <path
        v-for="(knot, i) in knots"
        :key="i"
        :transform="`translate(14 ${i * cell + cell / 2})`"
        :d="KNOT_PATHS[knot]"
        :class="[knot, { active: i === active }]"
      />
    </svg>
    <button
      v-for="(station, i) in STATIONS"
      :key="station.id"
      v-tip="`${station.label} (${i + 1})${TITLES[knots[i]!] ?? ''}`"
      type="button"
      :aria-current="selection.station === station.id ? 'page' : undefined"
      @click="selection.station = station.id"
    >
      <component :is="station.icon" :size="24" :stroke-width="1.5" />
      {{ station.label }}
    </button>
  </nav>
</template>

<style scoped>
.rail {
  grid-area: rail;
  position: relative;
  min-height: 0;
  overflow: hidden auto;
  border-right: 1px solid var(--rule);
}
button {
  width: 72px;
  height: var(--cell);
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 4px;
  padding-left: 14px;
  color: var(--ink-6);
  font-size: 12px;
  line-height: 16px;
}
button:hover {
  color: var(--ink-9);
}
button[aria-current='page'] {
  color: var(--indigo);
  font-weight: 650;
  background: var(--linen-0);
  box-shadow: 1px 0 0 var(--linen-0);
}
.seam {
  position: absolute;
  left: 0;
  top: 0;
  pointer-events: none;
}
.stitch {
  stroke: var(--mark);
  stroke-width: 1.5;
  stroke-dasharray: 6 4;
  stroke-dashoffset: -2;
}
.solid {
  stroke: var(--indigo);
  stroke-width: 2;
}
.seam path {
  stroke-width: 1.5;
}
.empty {
  fill: var(--linen-1);
  stroke: var(--mark);
}
.used {
  fill: var(--woad);
  stroke: var(--linen-1);
}
.used.active {
  fill: var(--indigo);
}
.worth-a-look {
  stroke: var(--linen-1);
  fill: var(--weld);
}
.seam .fails {
  stroke: var(--madder);
  stroke-width: 3;
}
</style>
