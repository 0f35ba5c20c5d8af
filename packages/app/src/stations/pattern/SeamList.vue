<script setup lang="ts">
import {
  easeOf,
  formatQuantity,
  hasBorder,
  quantitiesOf,
  sewsAlong,
  SHAPES,
  type Quantity,
  type Seam,
  type Surfaced,
} from '@lumbra/core';
import { ArrowLeftRight, Trash2 } from '@lucide/vue';
import { computed, ref } from 'vue';
import { usePatternActs } from '../../acts/usePatternActs';
import PickLine from '../../fields/PickLine.vue';
import QuantityField from '../../fields/QuantityField.vue';
import TickLine from '../../fields/TickLine.vue';
import { vTip } from '../../fields/tip';
import { useDocumentStore } from '../../session/document';
import { usePatternStore, type CutCloth } from '../../stores/pattern';

// The seams of a pattern: sides that are chosen are sewn, or all that lie near each other at once.

const props = defineProps<{ cloth: CutCloth }>();
const pattern = usePatternStore();
const acts = usePatternActs();
const document = useDocumentStore();
/** Things that a border can be sewn to: all that have a surface. */
const things = computed(() =>
  (document.shot?.things ?? []).filter((thing): thing is Surfaced => 'shape' in thing && thing.id !== props.cloth.id),
);
const chosen = ref('');
const to = computed(() => things.value.find(({ id }) => id === chosen.value) ?? things.value[0]);
/** Whether it is sewn to the thing's border, where that has one; null as it lies: along that where it is as near as the surface. */
const wants = ref<boolean | null>(null);
const bordered = computed(() => to.value !== undefined && hasBorder(to.value, document.assets));
const along = computed<'border' | 'surface'>(() => {
  const [[stretch], { shot, assets }] = [pattern.stretches, document];
  if (!bordered.value || !stretch || !shot || !to.value) return 'surface';
  if (wants.value !== null) return wants.value ? 'border' : 'surface';
  return sewsAlong(shot, props.cloth, assets, stretch, to.value);
});
const NUMBERS = quantitiesOf(SHAPES.pattern.schema);
const REACH: Quantity = {
  label: 'Within',
  help: 'Borders that lie as near as this to another border all along become seams, at once.',
  unit: 'mm',
  min: 0.0001,
  max: 1,
  default: 0.02,
  step: 'ratio',
};

/** Whether cloth falls and is blown about while its seams close. */
function toggleFall(): void {
  const { cloth } = props;
  void acts.change(
    cloth,
    `${cloth.name}, ${cloth.shape.falls ? 'weightless' : 'falls'} while its seams close`,
    (shape) => {
      if (shape.falls) delete shape.falls;
      else shape.falls = true;
    },
  );
}

const names = computed(() => new Map(props.cloth.shape.pieces.map(({ id, name }) => [id, name])));
const ready = computed(() => pattern.stretches.length === 2);
const why = computed(() => {
  const count = pattern.stretches.length;
  if (count === 2) return 'Sews the two selected stretches together';
  return count < 2
    ? 'Lay the pieces out flat and choose two sides: click one, and the other with shift'
    : `${count} stretches are selected; choose two`;
});

const count = computed(() => pattern.offered.length + pattern.offeredTies.length);
const offer = computed(() => {
  const [seams, ties] = [pattern.offered.length, pattern.offeredTies.length];
  const between = seams === 0 ? '' : seams === 1 ? 'One seam' : `${seams} seams`;
  const things = new Set(pattern.offeredTies.map(({ to }) => to)).size;
  const toThings =
    ties === 0
      ? ''
      : `${ties === 1 ? 'one border' : `${ties} borders`} to ${things === 1 ? 'a thing' : `${things} things`}`;
  const text = [between, toThings].filter(Boolean).join(', ');
  return text[0]!.toUpperCase() + text.slice(1);
});
const nothing = computed(
  () =>
    `No free borders lie as near as that to each other${pattern.toThings ? ' or to a thing' : ''}. Take more, or bring the pieces nearer.`,
);
/** Borders that are sewn to things. */
const tied = computed(() => props.cloth.ties.filter(({ drawnIn }) => drawnIn > 0).length);

function told({ a, b }: Seam): string {
  const [one, other] = [names.value.get(a.piece), names.value.get(b.piece)];
  return one === other ? `${one}, to itself` : `${one} to ${other}`;
}

function lengths(seam: Seam): string {
  const [one, other] = [acts.lengthOf(props.cloth, seam.a), acts.lengthOf(props.cloth, seam.b)];
  const ease = easeOf(props.cloth.shape.pieces, seam);
  if (ease < 0.005) return `${formatQuantity(one, 'cm', 3)} cm`;
  const what = ease > 0.1 ? 'gathered' : 'eased in';
  return `${formatQuantity(one, 'cm', 3)} to ${formatQuantity(other, 'cm', 3)} cm, ${Math.round(ease * 100)} % ${what}`;
}
</script>

<template>
  <p v-if="cloth.shape.seams.length === 0" class="small">Nothing is sewn yet.</p>
  <ul v-else class="seams" aria-label="Seams">
    <li v-for="(seam, i) in cloth.shape.seams" :key="seam.id">
      <button
        type="button"
        class="seam"
        :aria-pressed="seam.id === pattern.seamId"
        @click="pattern.seamId = seam.id === pattern.seamId ? null : seam.id"
      >
        <b>{{ i + 1 }}</b>
        <span class="grow cut">{{ told(seam) }}</span>
        <span class="small">{{ lengths(seam) }}</span>
      </button>
      <button
        v-tip="'Turn it: its other end is sewn to the beginning'"
        type="button"
        class="icon-button"
        :aria-pressed="seam.turned"
        @click="acts.change(cloth, `Turn seam ${i + 1}`, (shape) => (shape.seams[i]!.turned = !seam.turned))"
      >
        <ArrowLeftRight :size="16" :stroke-width="1.5" />
      </button>
      <button
        v-tip="'Unpick the seam (undoable)'"
        type="button"
        class="icon-button"
        @click="acts.change(cloth, `Unpick seam ${i + 1}`, (shape) => void shape.seams.splice(i, 1))"
      >
        <Trash2 :size="16" :stroke-width="1.5" />
      </button>
    </li>
  </ul>
  <p v-if="tied > 0" class="small">
    {{ tied === 1 ? 'One border is' : `${tied} borders are` }} sewn to things: those are ties, at Hold.
  </p>
  <div class="choices">
    <button v-tip="why" type="button" class="choice" :disabled="!ready" @click="acts.sewSelected(cloth)">Sew</button>
    <button
      type="button"
      class="choice"
      :aria-pressed="pattern.offering"
      @click="pattern.offering ? (pattern.offering = false) : pattern.offer()"
    >
      Auto seam…
    </button>
  </div>
  <template v-if="pattern.stretches.length > 0 && to">
    <PickLine
      label="To a thing"
      name="Thing to sew to"
      :model-value="to?.id ?? ''"
      :options="things"
      @pick="chosen = $event"
    />
    <TickLine v-if="bordered" :ticked="along === 'border'" @toggle="wants = along !== 'border'">
      along its border, evenly between where the ends come
    </TickLine>
    <div class="choices">
      <button
        v-tip="`Sews what is selected to its ${along}, which it is drawn to and goes along with`"
        type="button"
        class="choice"
        @click="to && acts.sewToThing(cloth, to.id, along)"
      >
        Sew to {{ to?.name }}
      </button>
    </div>
  </template>
  <div v-if="pattern.offering" class="offer">
    <QuantityField :quantity="REACH" :model-value="pattern.reach" @change="pattern.reach = $event" />
    <TickLine :ticked="pattern.toThings" @toggle="pattern.toThings = !pattern.toThings">
      also to the surfaces of things
    </TickLine>
    <p class="small" role="status">
      <template v-if="count === 0">{{ nothing }}</template>
      <template v-else>{{ offer }}, shown in yellow.</template>
    </p>
    <div class="choices">
      <button type="button" class="choice" :disabled="count === 0" @click="acts.sewOffered(cloth)">
        Sew {{ count === 1 ? 'it' : 'them' }}
      </button>
    </div>
  </div>
  <QuantityField
    v-if="cloth.shape.seams.length > 0"
    :quantity="NUMBERS['closing']!"
    :model-value="cloth.shape.closing"
    lazy
    @change="acts.change(cloth, `${cloth.name}, frames to close`, (shape) => (shape.closing = $event))"
  />
  <TickLine v-if="cloth.shape.seams.length > 0" :ticked="cloth.shape.falls === true" @toggle="toggleFall">
    gravity, wind and pressure act while they close
  </TickLine>
</template>

<style scoped>
.seams {
  list-style: none;
  margin: 0;
  padding: 0;
}
.seams li {
  display: flex;
  align-items: center;
}
.seam {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 8px;
  align-items: center;
  height: 28px;
  padding: 0 4px;
  text-align: left;
  border-radius: 3px;
}
.seam b {
  color: var(--madder);
}
.seam:hover,
.seam[aria-pressed='true'] {
  background: var(--linen-2);
}
.offer {
  border-left: 2px solid var(--weld);
  padding-left: 8px;
}
</style>
