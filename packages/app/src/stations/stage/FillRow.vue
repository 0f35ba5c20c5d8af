<script setup lang="ts">
import { canFillBetween } from '@lumbra/core';
import { computed, ref } from 'vue';
import InlineNumber from '../../fields/InlineNumber.vue';
import { vTip } from '../../fields/tip';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { useThingActs } from '../../acts/useThingActs';

// A row of copies between two selected things of a kind.

const document = useDocumentStore();
const selection = useSelectionStore();
const { fillBetween } = useThingActs();
const count = ref(1);

/** The two selected things, as they stand in the list, where a row can be filled between them. */
const row = computed(() => {
  const selected = new Set(selection.allSelected());
  const [first, last, ...more] = (document.shot?.things ?? []).filter(({ id }) => selected.has(id));
  return first && last && more.length === 0 && canFillBetween(first, last) ? { first, last } : null;
});
</script>

<template>
  <form v-if="row" class="small fill" @submit.prevent="fillBetween(row.first.id, row.last.id, count)">
    <InlineNumber label="How many between" :model-value="count" :min="1" :max="200" whole @change="count = $event" />
    <span class="grow cut">between {{ row.first.name }} and {{ row.last.name }}</span>
    <button
      v-tip="'Copies in even steps: places, turns, sizes and keys lie between those of the two'"
      type="submit"
      class="choice"
    >
      Fill the row
    </button>
  </form>
</template>

<style scoped>
.fill {
  display: flex;
  align-items: center;
  gap: 4px;
  margin-top: 4px;
}
</style>
