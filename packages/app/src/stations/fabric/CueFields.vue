<script setup lang="ts">
import {
  CUE_WHEN_KINDS,
  CUE_WHENS,
  CUED_NUMBERS,
  cueNumbers,
  cueSchema,
  fabricSchema,
  formatQuantity,
  holdsOf,
  quantitiesOf,
  quantityOf,
  type Cloth,
  type Cue,
  type Shot,
  type WhenKind,
} from '@lumbra/core';
import { computed } from 'vue';
import { useCueActs } from '../../acts/useCueActs';
import NameField from '../../fields/NameField.vue';
import PickLine from '../../fields/PickLine.vue';
import QuantityField from '../../fields/QuantityField.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';
import { useTakesStore } from '../../stores/takes';

// What a cue waits for and what it changes, and where it happened in the take that is looked at.

const props = defineProps<{ cloth: Cloth; cue: Cue }>();
const document = useDocumentStore();
const selection = useSelectionStore();
const run = useRunStore();
const takes = useTakesStore();
const { change, waitFor, changeNumber } = useCueActs();

const WHENS = CUE_WHEN_KINDS.map((kind) => ({ id: kind, name: CUE_WHENS[kind].label }));
const NUMBERS = CUED_NUMBERS.map((id) => ({ id, name: quantityOf(fabricSchema.shape[id])!.label }));

const when = computed(() => CUE_WHENS[props.cue.when.kind]);
const values = computed(() => props.cue.when as unknown as Record<string, number>);
const surfaces = computed(() =>
  (document.shot?.things ?? []).filter((thing) => 'shape' in thing && thing.id !== props.cloth.id),
);
const target = computed(() => ({ ...quantityOf(fabricSchema.shape[props.cue.number])!, label: 'Goes to' }));

const own = (draft: Shot) => {
  const cloth = draft.things.find(({ id }) => id === props.cloth.id);
  return cloth?.role === 'cloth' ? cloth.cues.find(({ id }) => id === props.cue.id) : undefined;
};
const whenIn = (draft: Shot) => own(draft)?.when;

function setTo(value: number, live: boolean): void {
  document.edit(
    `${props.cue.name}, goes to`,
    (draft) => {
      const found = own(draft);
      if (found) found.to = value;
    },
    live ? `${props.cue.id}.to` : null,
  );
}

/** When it happened in the take: the first frame, and how many points it has reached at the end. */
const happened = computed(() => {
  const counts = takes.account.map(({ frame, stats }) => ({ frame, count: stats.cues?.[props.cue.id] ?? 0 }));
  const first = counts.find(({ count }) => count > 0);
  return { known: counts.length > 0, first, last: counts.at(-1)?.count ?? 0 };
});

function goThere(frame: number): void {
  run.goTo(frame);
  selection.curve = null;
  selection.signal = `cue:${props.cue.id}`;
}
</script>

<template>
  <NameField
    :key="cue.id"
    class="text-input"
    label="Name of the cue"
    :model-value="cue.name"
    @change="(name) => change(cloth, cue, 'name', (found) => (found.name = name))"
  />
  <PickLine
    label="When"
    :model-value="cue.when.kind"
    :options="WHENS"
    @pick="(kind) => waitFor(cloth, cue, kind as WhenKind)"
  />
  <PickLine
    v-if="'thing' in cue.when"
    label="Thing"
    name="Thing of the cue"
    none="choose one"
    :model-value="cue.when.thing ?? ''"
    :options="surfaces"
    @pick="(id) => change(cloth, cue, 'thing', (found) => 'thing' in found.when && (found.when.thing = id || null))"
  />
  <PickLine
    v-if="'mask' in cue.when"
    label="Mask"
    name="Mask of the cue"
    none="choose one"
    :model-value="cue.when.mask ?? ''"
    :options="cloth.masks"
    @pick="(id) => change(cloth, cue, 'mask', (found) => 'mask' in found.when && (found.when.mask = id || null))"
  />
  <PickLine
    v-if="'hold' in cue.when"
    label="Hold"
    name="Hold of the cue"
    none="choose one"
    :model-value="cue.when.hold ?? ''"
    :options="holdsOf(cloth)"
    @pick="(id) => change(cloth, cue, 'hold', (found) => 'hold' in found.when && (found.when.hold = id || null))"
  />
  <ThingQuantity
    v-for="(_, name) in quantitiesOf(when.schema)"
    :key="`${cue.when.kind}.${name}`"
    :schema="when.schema"
    :name="name"
    :model-value="values[name]!"
    :find="whenIn"
    :subject="cue.name"
  />
  <PickLine
    label="Then"
    name="Number of the cue"
    :model-value="cue.number"
    :options="NUMBERS"
    @pick="(number) => changeNumber(cloth, cue, number as Cue['number'])"
  />
  <QuantityField
    :quantity="target"
    :model-value="cue.to"
    :reset="cloth.fabric[cue.number]"
    @change="setTo"
    @settled="document.endMerge()"
  />
  <ThingQuantity
    v-for="(_, name) in cueNumbers"
    :key="name"
    :schema="cueSchema"
    :name="name"
    :model-value="cue[name]"
    :find="own"
    :subject="cue.name"
  />
  <TickLine :ticked="cue.onAll" @toggle="change(cloth, cue, 'where', (found) => (found.onAll = !cue.onAll))">
    on the whole cloth at once
  </TickLine>
  <TickLine :ticked="cue.lasts" @toggle="change(cloth, cue, 'how long', (found) => (found.lasts = !cue.lasts))">
    only while it lasts
  </TickLine>
  <p v-if="happened.first" class="small">
    Happened first at frame {{ happened.first.frame }}; {{ formatQuantity(happened.last, '') }} points by the end.
    <button type="button" class="choice" @click="goThere(happened.first.frame)">Look there</button>
  </p>
  <p v-else-if="happened.known" class="small">It did not happen in this take.</p>
</template>
