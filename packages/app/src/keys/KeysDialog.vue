<script setup lang="ts">
import { ElDialog } from 'element-plus';
import 'element-plus/es/components/dialog/style/css';
import { BINDINGS, SCOPES, type Scope } from './bindings';

// What the keys and the pointer do: made of the same table that they are handled by.

const open = defineModel<boolean>({ required: true });
const groups = (Object.keys(SCOPES) as Scope[]).map((scope) => ({
  label: SCOPES[scope].label,
  rows: BINDINGS.filter((binding) => binding.scope === scope),
}));
const POINTER = [
  ['drag on nothing', 'turn the view'],
  ['right drag, wheel', 'shift the view, go nearer'],
  ['middle drag, while a tool is on', 'turn the view'],
  ['drag a label, arrows in a field', 'change a number; double click for its default'],
  ['arrows on the ruler or on a key', 'go through frames; move the key, up and down its value'],
] as const;
</script>

<template>
  <ElDialog v-model="open" title="Keys" width="640">
    <div class="sheet">
      <section v-for="group in groups" :key="group.label">
        <h2>{{ group.label }}</h2>
        <dl>
          <template v-for="row in group.rows" :key="row.shown + row.does">
            <dt>{{ row.shown }}</dt>
            <dd>{{ row.does }}</dd>
          </template>
        </dl>
      </section>
      <section>
        <h2>With the pointer and in fields</h2>
        <dl>
          <template v-for="[how, does] in POINTER" :key="how">
            <dt>{{ how }}</dt>
            <dd>{{ does }}</dd>
          </template>
        </dl>
      </section>
    </div>
  </ElDialog>
</template>

<style scoped>
.sheet {
  columns: 2;
  column-gap: 32px;
}
section {
  break-inside: avoid;
  margin-bottom: 16px;
}
dl {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 4px 12px;
  margin: 8px 0 0;
  line-height: 18px;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
}
</style>
