<script setup lang="ts">
import TickBox from './TickBox.vue';

// A line with a box to tick.

defineProps<{ ticked: boolean }>();
const emit = defineEmits<{ toggle: [] }>();
</script>

<template>
  <div class="field-line">
    <TickBox :ticked="ticked" @toggle="emit('toggle')"><slot /></TickBox>
  </div>
</template>
