<script setup lang="ts">
import {
  quantitiesOf,
  shapeAt,
  shapeSize,
  sizeNumber,
  sizeNumbers,
  pointCount,
  shapeMesh,
  SHAPES,
  sheetGrid,
  formatQuantity,
  type Quantity,
  type Shot,
  substepsOf,
  type Thing,
} from '@lumbra/core';
import { computed } from 'vue';
import FoldSection from '../../fields/FoldSection.vue';
import KeyedField from '../../fields/KeyedField.vue';
import QuantityField from '../../fields/QuantityField.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import { useDocumentStore } from '../../session/document';
import { useKeyingStore } from '../../stores/keying';
import { useRunStore } from '../../stores/run';
import { useExpectedTime } from '../../stores/expectedTime';
import { useThingActs } from '../../acts/useThingActs';

// The dimensions of a thing's shape, and its longest side: “make this so long”. Those of colliders and scenery can be keyed.

const props = defineProps<{ thing: Extract<Thing, { shape: unknown }> }>();
const document = useDocumentStore();
const keying = useKeyingStore();
const run = useRunStore();
const { resize } = useThingActs();

const shape = computed(() => props.thing.shape);
const schema = computed(() => SHAPES[shape.value.kind].schema);
const keyable = computed(() => (props.thing.role === 'cloth' ? {} : sizeNumbers(shape.value)));
const numbers = computed(() =>
  // Those of a pattern stand at Pattern, where it is cut.
  Object.keys(shape.value.kind === 'pattern' ? {} : quantitiesOf(schema.value)).map((name) => ({
    name,
    value: (shape.value as unknown as Record<string, number>)[name]!,
    keyed: sizeNumber(name) in keyable.value,
  })),
);
const lengths = computed(() => SHAPES[shape.value.kind].sizes);
const sides = computed(() => shapeSize(shapeAt(props.thing, run.frame), document.assets));
const longest = computed(() => (sides.value ? Math.max(...sides.value) : 0));
const LONGEST: Quantity = {
  label: 'Longest side',
  help: 'Makes the whole thing so long, in proportion. Its geometry changes; there is no hidden scale.',
  unit: 'm',
  min: 0.001,
  max: 1000,
  default: 1,
  step: 0.005,
};
const substeps = computed(() => (document.shot ? substepsOf(document.shot, document.assets) : 0));
const expected = useExpectedTime(substeps);
const buys = computed(() => {
  const made = shape.value;
  if (!('spacing' in made)) return null;
  const points = formatQuantity(pointCount(shapeMesh(made, document.assets)), '');
  const grid = made.kind === 'sheet' ? Object.values(sheetGrid(made)).join(' × ') + ' = ' : '';
  return `${grid}${points} points, folds from about ${formatQuantity(made.spacing * 4, 'mm')} mm; about ${expected.value} on this machine.`;
});

function find(draft: Shot): object | undefined {
  const found = draft.things.find(({ id }) => id === props.thing.id);
  return found && 'shape' in found ? found.shape : undefined;
}

/** “0.95 × 0.5 × 0.62” in one field sets it and those after it. */
function several(from: string, values: number[]): void {
  const names = lengths.value.slice(lengths.value.indexOf(from));
  if (names.every((name) => sizeNumber(name) in keyable.value)) {
    const given = values.slice(0, names.length).map((value, i) => [sizeNumber(names[i]!), value] as const);
    keying.change(props.thing.id, Object.fromEntries(given), {
      ...{ label: `Size ${props.thing.name}`, live: false, merge: 'size' },
    });
    return;
  }
  document.edit(`Size ${props.thing.name}`, (draft) => {
    const target = find(draft) as Record<string, number> | undefined;
    values.slice(0, names.length).forEach((value, i) => target && (target[names[i]!] = value));
  });
}

function setLongest(value: number): void {
  if (longest.value > 0) {
    const by = value / longest.value;
    resize(props.thing, [by, by, by], `Make ${props.thing.name} ${formatQuantity(value, 'm')} m long`);
  }
}
</script>

<template>
  <div class="section">
    <h2 class="grow">{{ SHAPES[shape.kind].label }}</h2>
    <span v-if="sides" class="small">{{ sides.map((side) => formatQuantity(side, 'm', 3)).join(' × ') }} m</span>
  </div>
  <template v-for="number in numbers" :key="`${thing.id}.${number.name}`">
    <KeyedField
      v-if="number.keyed"
      :thing="thing.id"
      :number="sizeNumber(number.name)"
      :subject="thing.name"
      :takes-several="lengths.includes(number.name)"
      @several="several(number.name, $event)"
    />
    <ThingQuantity
      v-else
      :schema="schema"
      :name="number.name"
      :model-value="number.value"
      :find="find"
      :subject="thing.name"
      :takes-several="lengths.includes(number.name)"
      lazy
      @several="several(number.name, $event)"
    />
  </template>
  <p v-if="buys" class="small note">{{ buys }}</p>
  <FoldSection title="Size as a whole" :note="longest > 0 ? `${formatQuantity(longest, 'm', 3)} m` : undefined">
    <QuantityField :quantity="LONGEST" :model-value="longest" :reset="longest" lazy @change="setLongest" />
  </FoldSection>
</template>

<style scoped>
.note {
  margin: 8px 0 0 16px;
}
</style>
