<script setup lang="ts">
import { formatQuantity, pointCount, quantitiesOf, shapeMesh, SHAPES, substepsOf } from '@lumbra/core';
import { computed } from 'vue';
import { usePatternActs } from '../../acts/usePatternActs';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import QuantityField from '../../fields/QuantityField.vue';
import { useDocumentStore } from '../../session/document';
import { useExpectedTime } from '../../stores/expectedTime';
import type { CutCloth } from '../../stores/pattern';

// How finely all pieces are meshed, in which way, and what that buys.

const props = defineProps<{ cloth: CutCloth }>();
const document = useDocumentStore();
const acts = usePatternActs();
const NUMBERS = quantitiesOf(SHAPES.pattern.schema);
const WEAVES = [
  { id: 'all directions', label: 'All directions' },
  { id: 'along the grain', label: 'Along the grain' },
] as const;
const substeps = computed(() => (document.shot ? substepsOf(document.shot, document.assets) : 0));
const expected = useExpectedTime(substeps);
const points = computed(() => formatQuantity(pointCount(shapeMesh(props.cloth.shape, document.assets)), ''));
</script>

<template>
  <QuantityField
    :quantity="NUMBERS['spacing']!"
    :model-value="cloth.shape.spacing"
    lazy
    @change="acts.change(cloth, `${cloth.name}, spacing`, (shape) => (shape.spacing = $event))"
  />
  <div class="choices">
    <ChoiceRow
      label="Kind of mesh"
      :model-value="cloth.shape.weave"
      :options="WEAVES"
      @pick="acts.change(cloth, `${cloth.name}, mesh`, (shape) => (shape.weave = $event))"
    />
  </div>
  <p class="small">
    {{ points }} points, folds from about {{ formatQuantity(cloth.shape.spacing * 4, 'mm') }} mm; about
    {{ expected }} on this machine.
  </p>
</template>
