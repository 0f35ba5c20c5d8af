<script setup lang="ts">
// Which mask scales a number: opened by the chip in the number's field.

defineProps<{
  /** What the number is called, for those who do not see it. */
  number: string;
  masks: readonly { id: string; name: string }[];
  modelValue: string | null;
  /** Offers a new mask that fades at the edge of what is held. */
  fades?: boolean;
}>();
const emit = defineEmits<{ pick: [mask: string | null]; fade: [] }>();
const FADE = 'fade';

function pick(event: Event): void {
  const { value } = event.target as HTMLSelectElement;
  if (value === FADE) emit('fade');
  else emit('pick', value || null);
}
</script>

<template>
  <div class="masks">
    <template v-if="masks.length || fades">
      <span class="small">scaled by</span>
      <select
        class="select"
        :aria-label="`Mask that scales ${number}`"
        :value="modelValue ?? ''"
        @change="pick"
        @keydown.stop
      >
        <option value="">no mask</option>
        <option v-if="fades" :value="FADE">a new one that fades at the edge</option>
        <option v-for="mask in masks" :key="mask.id" :value="mask.id">{{ mask.name }}</option>
      </select>
    </template>
    <p v-else class="small">There is no mask yet. Make one at Hold.</p>
  </div>
</template>

<style scoped>
.masks {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 4px;
}
</style>
