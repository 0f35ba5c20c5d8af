<script setup lang="ts">
import { ElDialog } from 'element-plus';
import 'element-plus/es/components/dialog/style/css';

// The account of a bake, as the page that it is written as too. It draws its curves by itself, and reaches nothing of the bench.

defineProps<{ page: string }>();
const open = defineModel<boolean>({ required: true });
</script>

<template>
  <ElDialog v-model="open" title="Bake report" width="760" top="5vh">
    <iframe title="Bake report" sandbox="allow-scripts" :srcdoc="page" />
  </ElDialog>
</template>

<style scoped>
iframe {
  display: block;
  width: 100%;
  height: 72vh;
  border: 1px solid var(--rule);
}
</style>
