<script setup lang="ts">
import {
  deleteKnots,
  EASES,
  formatQuantity,
  keyOwner,
  moveKnots,
  numberQuantity,
  parseQuantity,
  setEase,
  setKnot,
  trackOf,
  type Ease,
} from '@lumbra/core';
import { Trash2, X } from '@lucide/vue';
import { computed } from 'vue';
import { useDocumentStore } from '../session/document';
import { useNoticeStore } from '../stores/notice';
import { useSelectionStore } from '../stores/selection';
import { vTip } from '../fields/tip';

// What can be done with the selected keys: their ease, their frame, a copy, and for a single one its value.

const document = useDocumentStore();
const selection = useSelectionStore();
const notice = useNoticeStore();
const places = computed(() => selection.knots);
const knots = computed(() =>
  places.value.flatMap((place) => {
    const owner = document.shot ? keyOwner(document.shot, place.thing) : undefined;
    const knot = owner && trackOf(owner, place.number)?.knots.find(({ frame }) => frame === place.frame);
    return knot ? [{ place, knot, quantity: numberQuantity(owner, place.number)! }] : [];
  }),
);
const frames = computed(() => [...new Set(knots.value.map(({ place }) => place.frame))]);
const single = computed(() => (knots.value.length === 1 ? knots.value[0]! : null));
const count = computed(() => (knots.value.length === 1 ? '1 key' : `${knots.value.length} keys`));

function ease(how: Ease): void {
  document.edit(`${count.value}, ${how}`, (draft) => setEase(draft, places.value, how));
}

function remove(): void {
  if (document.edit(`Delete ${count.value}`, (draft) => deleteKnots(draft, places.value))) selection.knots = [];
}

function toFrame(event: Event, copy: boolean): void {
  const input = event.target as HTMLInputElement;
  const wanted = Number(input.value);
  const by = Number.isInteger(wanted) && input.value.trim() !== '' ? wanted - frames.value[0]! : 0;
  input.value = copy ? '' : String(frames.value[0]);
  if (by === 0) return;
  const moved = places.value;
  const done = document.edit(`${copy ? 'Copy' : 'Move'} ${count.value}`, (draft) => moveKnots(draft, moved, by, copy));
  if (done) selection.knots = moved.map((place) => ({ ...place, frame: place.frame + by }));
}

function setValue(event: Event): void {
  const input = event.target as HTMLInputElement;
  const { place, knot, quantity } = single.value!;
  const parsed = parseQuantity(input.value, quantity.unit);
  const fits = parsed.ok && parsed.value >= quantity.min - 1e-12 && parsed.value <= quantity.max + 1e-12;
  if (fits) document.edit(`Key ${quantity.label.toLowerCase()}`, (draft) => setKnot(draft, place, parsed.value));
  else notice.showHint(quantity.label, parsed.ok ? 'That is beyond what this number can be.' : parsed.reason, true);
  input.value = formatQuantity(fits ? parsed.value : knot.value, quantity.unit, 4);
}
</script>

<template>
  <div v-if="knots.length > 0" class="bar" role="group" aria-label="Selected keys">
    <b>{{ count }}</b>
    <label
      >{{ frames.length > 1 ? 'from frame' : 'frame' }}
      <input
        type="text"
        class="inline"
        aria-label="Frame of the keys"
        :value="frames[0]"
        @change="toFrame($event, false)"
        @keydown.stop
    /></label>
    <label v-if="single"
      >{{ single.quantity.label.toLowerCase() }}
      <input
        type="text"
        class="inline wide"
        aria-label="Value of the key"
        :value="formatQuantity(single.knot.value, single.quantity.unit, 4)"
        @change="setValue"
        @keydown.stop
      />
      {{ single.quantity.unit }}</label
    >
    <span class="choices">
      <button
        v-for="how in EASES"
        :key="how"
        type="button"
        class="choice"
        :aria-pressed="knots.every(({ knot }) => knot.ease === how)"
        @click="ease(how)"
      >
        {{ how }}
      </button>
    </span>
    <label
      >copy to
      <input
        type="text"
        class="inline"
        aria-label="Copy the keys to frame"
        placeholder="frame"
        @change="toFrame($event, true)"
        @keydown.stop
    /></label>
    <button v-tip="'Delete these keys (Delete)'" type="button" class="icon-button" @click="remove">
      <Trash2 :size="16" :stroke-width="1.5" />
    </button>
    <button v-tip="'Select no keys'" type="button" class="icon-button" @click="selection.knots = []">
      <X :size="16" :stroke-width="1.5" />
    </button>
  </div>
</template>

<style scoped>
.bar {
  position: absolute;
  right: 0;
  bottom: 100%;
  display: flex;
  align-items: center;
  gap: 12px;
  height: 36px;
  padding: 0 4px 0 12px;
  background: var(--linen-1);
  border: 1px solid var(--rule);
  border-bottom: none;
  border-radius: 3px 0 0 0;
  font-size: 12px;
  white-space: nowrap;
  z-index: 2;
}
.choices {
  margin: 0;
}
.inline {
  width: 44px;
  height: 24px;
  text-align: center;
  font-weight: 600;
  box-shadow: inset 0 -1px 0 var(--edge);
}
.wide {
  width: 64px;
}
</style>
