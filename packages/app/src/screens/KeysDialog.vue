<script setup lang="ts">
import { ElDialog } from 'element-plus';
import 'element-plus/es/components/dialog/style/css';
import { KEYS } from './useBenchKeys';

const open = defineModel<boolean>({ required: true });
</script>

<template>
  <ElDialog v-model="open" title="Keys" width="440">
    <dl>
      <template v-for="key in KEYS" :key="key.keys">
        <dt>{{ key.keys }}</dt>
        <dd>{{ key.does }}</dd>
      </template>
      <dt>drag on nothing</dt>
      <dd>turn the view</dd>
      <dt>right drag, wheel</dt>
      <dd>shift the view, go nearer</dd>
      <dt>middle drag, while a tool is on</dt>
      <dd>turn the view</dd>
      <dt>drag a label, arrows</dt>
      <dd>change a number; double click for its default</dd>
    </dl>
  </ElDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 160px 1fr;
  gap: 8px;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
}
</style>
