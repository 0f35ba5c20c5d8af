<script setup lang="ts">
import { ElTooltip } from 'element-plus';
import 'element-plus/es/components/tooltip/style/css';
import { computed, ref, watch } from 'vue';
import { shownTip } from './tip';

// Draws the help of whatever the pointer or the keyboard is on; see tip.ts.

const element = computed(() => shownTip.value?.element);
/** What was said last stays while it fades. */
const text = ref('');
watch(shownTip, (tip) => {
  if (tip) text.value = tip.text;
});
</script>

<template>
  <ElTooltip
    :visible="shownTip !== null"
    :virtual-ref="element"
    virtual-triggering
    :content="text"
    placement="bottom"
    :show-arrow="false"
    :offset="4"
    popper-class="tip"
    :persistent="false"
  />
</template>
