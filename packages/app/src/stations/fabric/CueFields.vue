<script setup lang="ts">
import {
  CUE_WHEN_KINDS,
  CUE_WHENS,
  constantOf,
  cueSchema,
  cueTargets,
  formatQuantity,
  holdsOf,
  isByPoint,
  quantitiesOf,
  type Cloth,
  type Cue,
  type FabricNumber,
  type Shot,
  type WhenKind,
} from '@lumbra/core';
import { computed, onUnmounted } from 'vue';
import { useCueActs } from '../../acts/useCueActs';
import NameField from '../../fields/NameField.vue';
import PickLine from '../../fields/PickLine.vue';
import QuantityField from '../../fields/QuantityField.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { vTip } from '../../fields/tip';
import { useCueWhereStore } from '../../stores/cueWhere';
import { useRunStore } from '../../stores/run';
import { useSelectionStore } from '../../stores/selection';
import { useTakesStore } from '../../stores/takes';

// What a cue waits for and what it changes, and where it happened in the take that is looked at.

const props = defineProps<{ cloth: Cloth; cue: Cue }>();
const document = useDocumentStore();
const selection = useSelectionStore();
const run = useRunStore();
const takes = useTakesStore();
const where = useCueWhereStore();
// Closed, it is shown no more.
onUnmounted(() => where.cue === props.cue.id && (where.cue = null));
const { change, waitFor, changeNumber } = useCueActs();

const WHENS = CUE_WHEN_KINDS.map((kind) => ({ id: kind, name: CUE_WHENS[kind].label }));

const when = computed(() => CUE_WHENS[props.cue.when.kind]);
const values = computed(() => props.cue.when as unknown as Record<string, number>);
const surfaces = computed(() =>
  (document.shot?.things ?? []).filter((thing) => 'shape' in thing && thing.id !== props.cloth.id),
);
/** What it can change, and what it changes; nothing where that was deleted. */
const targets = computed(() => cueTargets(document.shot!, props.cloth));
const options = computed(() => targets.value.map((one) => ({ id: keyOf(one), name: one.name })));
const target = computed(() => targets.value.find((one) => keyOf(one) === keyOf(props.cue)));
const goesTo = computed(() => target.value && { ...target.value.quantity, label: 'Goes to' });
/** Whether it changes point by point: the fabric, and how firmly and how far holds hold. */
const byPoint = computed(() => isByPoint(props.cue));
/** What the number is without cues, at the start. */
const before = computed(() => {
  const { of, number } = props.cue;
  if (of === null) return props.cloth.fabric[number as FabricNumber];
  const owner = document.shot!.things.find(({ id }) => id === of);
  return owner && target.value ? constantOf(owner, number) : 0;
});

/** What else it waits for is chosen from. */
const choices = computed(() =>
  [
    { entry: 'thing', label: 'Thing', options: surfaces.value },
    { entry: 'mask', label: 'Mask', options: props.cloth.masks },
    { entry: 'hold', label: 'Hold', options: holdsOf(props.cloth) },
  ].filter(({ entry }) => entry in props.cue.when),
);
const chosenOf = (entry: string) => (props.cue.when as unknown as Record<string, string | null>)[entry] ?? '';

function choose(entry: string, id: string): void {
  change(props.cloth, props.cue, entry, ({ when: found }) => {
    if (entry in found) Object.assign(found, { [entry]: id || null });
  });
}

const keyOf = ({ of, number }: Pick<Cue, 'of' | 'number'>) => `${of ?? ''} ${number}`;

function pickTarget(key: string): void {
  const found = targets.value.find((one) => keyOf(one) === key);
  if (found) changeNumber(props.cloth, props.cue, found);
}

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

/** How many points it has reached in the live run that goes on. */
const liveCount = computed(() => (run.pose?.source === 'live' ? run.pose.cues?.[props.cue.id] : undefined));

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
    v-for="choice in choices"
    :key="choice.entry"
    :label="choice.label"
    :name="`${choice.label} of the cue`"
    none="choose one"
    :model-value="chosenOf(choice.entry)"
    :options="choice.options"
    @pick="(id) => choose(choice.entry, id)"
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
    v-bind="target ? {} : { none: 'choose one' }"
    :model-value="target ? keyOf(cue) : ''"
    :options="options"
    @pick="pickTarget"
  />
  <QuantityField
    v-if="goesTo"
    :quantity="goesTo"
    :model-value="cue.to"
    :reset="before"
    @change="setTo"
    @settled="document.endMerge()"
  />
  <ThingQuantity
    v-for="name in byPoint ? (['over', 'spread'] as const) : (['over'] as const)"
    :key="name"
    :schema="cueSchema"
    :name="name"
    :model-value="cue[name]"
    :find="own"
    :subject="cue.name"
  />
  <TickLine
    v-if="byPoint"
    :ticked="cue.onAll"
    @toggle="change(cloth, cue, 'where', (found) => (found.onAll = !cue.onAll))"
  >
    on the whole cloth at once
  </TickLine>
  <TickLine :ticked="cue.lasts" @toggle="change(cloth, cue, 'how long', (found) => (found.lasts = !cue.lasts))">
    only while it lasts
  </TickLine>
  <p v-if="liveCount !== undefined" class="small" data-testid="live-cue">
    {{ liveCount === 0 ? 'It has not happened yet.' : `It has happened to ${formatQuantity(liveCount, '')} points.` }}
  </p>
  <template v-else-if="happened.first">
    <p class="small">
      Happened first at frame {{ happened.first.frame }}; {{ formatQuantity(happened.last, '') }} points by the end.
    </p>
    <div class="choices">
      <button type="button" class="choice" @click="goThere(happened.first.frame)">Look there</button>
      <button
        v-tip="'Colours where it has happened by the frame that is shown'"
        type="button"
        class="choice"
        :aria-pressed="where.cue === cue.id"
        @click="where.cue = where.cue === cue.id ? null : cue.id"
      >
        Show where
      </button>
    </div>
  </template>
  <p v-else-if="happened.known" class="small">It did not happen in this take.</p>
</template>
