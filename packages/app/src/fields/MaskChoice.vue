<script setup lang="ts">
import { computed } from 'vue';
import PickLine from './PickLine.vue';

// Which mask scales a number: opened by the chip in the number's field.

const props = defineProps<{
  /** What the number is called, for those who do not see it. */
  number: string;
  masks: readonly { id: string; name: string }[];
  modelValue: string | null;
  /** Offers a new mask that fades at the edge of what is held. */
  fades?: boolean;
}>();
const emit = defineEmits<{ pick: [mask: string | null]; fade: [] }>();
const FADE = { id: 'fade', name: 'a new one that fades at the edge' };
const options = computed(() => (props.fades ? [FADE, ...props.masks] : props.masks));

function pick(id: string): void {
  if (props.fades && id === FADE.id) emit('fade');
  else emit('pick', id || null);
}
</script>

<template>
  <PickLine
    v-if="options.length"
    label="scaled by"
    :name="`Mask that scales ${number}`"
    none="no mask"
    :model-value="modelValue ?? ''"
    :options="options"
    @pick="pick"
  />
  <p v-else class="small none">There is no mask yet. Make one at Hold.</p>
</template>

<style scoped>
.none {
  padding-left: 16px;
}
</style>
