<script setup lang="ts">
import { ElPopconfirm } from 'element-plus';
import 'element-plus/es/components/popconfirm/style/css';
import 'element-plus/es/components/button/style/css';

// Asks once more before something that cannot be undone.

defineProps<{
  /** What will happen, as a question. */
  question: string;
  /** What the act is called. */
  act: string;
}>();
const emit = defineEmits<{ confirm: [] }>();
</script>

<template>
  <ElPopconfirm
    :title="question"
    :confirm-button-text="act"
    cancel-button-text="Keep"
    confirm-button-type="danger"
    cancel-button-type="default"
    hide-icon
    :width="264"
    :hide-after="0"
    append-to="#overlays"
    @confirm="emit('confirm')"
  >
    <template #reference><slot /></template>
  </ElPopconfirm>
</template>
