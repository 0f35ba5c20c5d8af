<script setup lang="ts">
import { SHAPES, type Cloth } from '@lumbra/core';
import { usePatternActs } from '../../acts/usePatternActs';

// Cloth that is no pattern: what can be made one.

defineProps<{ cloth: Cloth }>();
const acts = usePatternActs();
</script>

<template>
  <template v-if="cloth.shape.kind === 'sheet'">
    <p class="small">
      It is a plain sheet, whose size is set at the Stage. Cut as a pattern, its outline can be drawn and sewn to other
      pieces; masks and holds stay where they are.
    </p>
    <div class="choices">
      <button type="button" class="choice" @click="acts.fromSheet(cloth)">Cut as a pattern</button>
    </div>
  </template>
  <p v-else class="small">
    Its shape is {{ cloth.shape.kind === 'mesh' ? 'a mesh' : `the ${SHAPES[cloth.shape.kind].label.toLowerCase()}` }},
    which has no flat pieces. Choose a sheet or a pattern in Things, or choose nothing there and begin a new one.
  </p>
</template>
