<script setup lang="ts">
import { quantityOf, type Shot } from '@lumbra/core';
import { computed } from 'vue';
import type { z } from 'zod';
import { useDocumentStore } from '../session/document';
import QuantityField from './QuantityField.vue';

// A number of the shot with its field: how it is shown comes from the schema, what is typed goes through `edit`.

const props = defineProps<{
  /** The schema of the object that holds the number. */
  schema: z.ZodObject;
  /** The number's name in it. */
  name: string;
  modelValue: number;
  /** Finds the same object in a draft of the shot. */
  find: (draft: Shot) => object | undefined;
  label?: string;
  reset?: number;
  takesSeveral?: boolean;
  mask?: string;
  lazy?: boolean;
  /** What the change concerns, for the undo list: “Cover”. */
  subject?: string;
}>();

const emit = defineEmits<{ several: [values: number[]]; mask: [] }>();
const document = useDocumentStore();
const quantity = computed(() => {
  const found = quantityOf(props.schema.shape[props.name] as z.core.$ZodType);
  if (!found) throw new Error(`${props.name} is not declared as a quantity.`);
  return found;
});

function change(value: number, live: boolean): void {
  const what = props.label ?? quantity.value.label;
  document.edit(
    props.subject ? `${props.subject}, ${what.toLowerCase()}` : what,
    (draft) => {
      const target = props.find(draft) as Record<string, number> | undefined;
      if (target && target[props.name] !== value) target[props.name] = value;
    },
    live ? `${props.subject ?? ''}.${props.name}` : null,
  );
}
</script>

<template>
  <QuantityField
    :quantity="quantity"
    :model-value="modelValue"
    :label="label"
    :reset="reset"
    :lazy="lazy"
    :takes-several="takesSeveral"
    :mask="mask"
    @change="change"
    @settled="document.endMerge()"
    @several="emit('several', $event)"
    @mask="emit('mask')"
  />
</template>
