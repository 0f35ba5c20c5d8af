<script setup lang="ts">
import { computed } from 'vue';
import { useChecksStore } from '../stores/checks';
import { useDocumentStore } from '../session/document';
import { useTakesStore } from '../stores/takes';
import { useSelectionStore } from '../stores/selection';
import { STATIONS } from './stations';

const CELL = 80;
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
const TITLES: Record<string, string> = { fails: ': a check fails', 'worth-a-look': ': a check is worth a look' };
</script>

<template>
  <nav class="rail" aria-label="Stations">
    <svg class="seam" width="24" :height="STATIONS.length * CELL" aria-hidden="true">
      <line x1="14" x2="14" y1="0" :y2="STATIONS.length * CELL" class="stitch" />
      <line x1="14" x2="14" :y1="active * CELL" :y2="(active + 1) * CELL" class="solid" />
      <circle
        v-for="(knot, i) in knots"
        :key="i"
        cx="14"
        :cy="i * CELL + CELL / 2"
        r="4"
        :class="[knot, { active: i === active }]"
      />
    </svg>
    <button
      v-for="(station, i) in STATIONS"
      :key="station.id"
      type="button"
      :aria-current="selection.station === station.id ? 'page' : undefined"
      :title="`${station.label} (${i + 1})${TITLES[knots[i]!] ?? ''}`"
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
  border-right: 1px solid var(--rule);
}
button {
  width: 72px;
  height: 80px;
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
circle {
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
.worth-a-look,
.fails {
  stroke: var(--linen-1);
  fill: var(--weld);
}
.fails {
  fill: var(--madder);
}
</style>
