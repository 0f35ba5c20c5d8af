<script setup lang="ts">
import { FINISH_STEPS, quantitiesOf, type Cloth, type FinishEntry } from '@lumbra/core';
import { computed } from 'vue';
import { useFinishActs } from '../../acts/useFinishActs';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import FoldSection from '../../fields/FoldSection.vue';
import PickLine from '../../fields/PickLine.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import LatticeFields from './LatticeFields.vue';
import NumberFields from './NumberFields.vue';

// What a finishing step can be told, as its kind declares it: numbers, ticks, choices, and the mask of what it concerns.

const props = defineProps<{ cloth: Cloth; entry: FinishEntry }>();
const acts = useFinishActs();
const document = useDocumentStore();

const kind = computed(() => FINISH_STEPS[props.entry.step.kind]);
const numbers = computed(() => quantitiesOf(kind.value.schema));
const values = computed(() => props.entry.step as unknown as Record<string, number | boolean | string | null>);
const names = computed(() => Object.keys(numbers.value));
/** Headings of what is less used. */
const groups = computed(() => [...new Set(Object.values(numbers.value).flatMap(({ group }) => group ?? []))]);
/** Entries of the schema that are no numbers. */
const others = computed(() => Object.keys(kind.value.words ?? {}));
const choicesOf = (name: string): { id: string; label: string }[] =>
  kind.value.choices?.[name]?.map((id) => ({ id, label: id })) ?? [];

/** Things that steps can be about. */
const surfaces = computed(() =>
  (document.shot?.things ?? []).filter((thing) => 'shape' in thing && thing.role !== 'cloth'),
);

function set(name: string, value: boolean | string): void {
  acts.change(props.cloth, props.entry, kind.value.words![name]!.toLowerCase(), (own) =>
    Object.assign(own.step, { [name]: value }),
  );
}
</script>

<template>
  <p class="small">{{ kind.help }}</p>
  <LatticeFields v-if="entry.step.kind === 'lattice'" :cloth="cloth" :entry="entry" />
  <NumberFields :names="names.filter((name) => !numbers[name]!.group)" :cloth="cloth" :entry="entry" />
  <FoldSection v-for="group in groups" :key="group" :title="group">
    <NumberFields :names="names.filter((name) => numbers[name]!.group === group)" :cloth="cloth" :entry="entry" />
  </FoldSection>
  <template v-for="name in others" :key="name">
    <ChoiceRow
      v-if="typeof values[name] === 'string'"
      :label="kind.words![name]!"
      wide
      :model-value="values[name] as string"
      :options="choicesOf(name)"
      @pick="set(name, $event)"
    />
    <TickLine v-else class="small" :ticked="values[name] as boolean" @toggle="set(name, !values[name])">
      {{ kind.words![name] }}
    </TickLine>
  </template>
  <PickLine
    v-for="(label, name) in kind.things"
    :key="name"
    :label="label"
    none="choose one"
    :model-value="(values[name] as string | null) ?? ''"
    :options="surfaces"
    @pick="acts.chooseThing(cloth, entry, name, $event)"
  />
  <PickLine
    v-if="kind.masked && cloth.masks.length > 0"
    label="Mask"
    none="all of it"
    :model-value="entry.mask ?? ''"
    :options="cloth.masks"
    @pick="(id) => acts.change(cloth, entry, 'mask', (own) => (own.mask = id || null))"
  />
</template>
