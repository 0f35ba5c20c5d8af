<script setup lang="ts">
import {
  hasBorder,
  holdNumber,
  pinMotion,
  RELEASE_WAYS,
  releaseFrames,
  shapeMesh,
  tieSchema,
  type Hold,
  type Shot,
} from '@lumbra/core';
import { Trash2 } from '@lucide/vue';
import { computed, ref } from 'vue';
import FoldSection from '../../fields/FoldSection.vue';
import KeyTable from '../../fields/KeyTable.vue';
import KeyedField from '../../fields/KeyedField.vue';
import MaskChoice from '../../fields/MaskChoice.vue';
import NameField from '../../fields/NameField.vue';
import PickLine from '../../fields/PickLine.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import { useHoldActs } from '../../acts/useHoldActs';
import { vTip } from '../../fields/tip';

// The chosen pin set, tie or leash: how firmly it holds, what it rides or is tied to, and its own motion.

const HANDLES = [
  { id: 'move', label: 'Move', title: 'Move all its pins as one with handles in the viewport (M)' },
  { id: 'turn', label: 'Turn', title: 'Turn them about their middle (T)' },
  { id: 'size', label: 'Gather', title: 'Squeeze them together or spread them (Y)' },
] as const;

const KEYED = [
  { label: 'Move', stem: 'move', unit: 'm' },
  { label: 'Turn', stem: 'turn', unit: '°' },
  { label: 'Gather', stem: 'gather', unit: '%' },
] as const;

const props = defineProps<{ hold: Hold }>();
const document = useDocumentStore();
const selection = useSelectionStore();
const { changeHold, fade, release, remove } = useHoldActs();

/** The number whose mask is being chosen. */
const choosing = ref<'mask' | 'standOffMask' | null>(null);

const cloth = computed(() => selection.cloth!);
const kind = computed(() => ('gather' in props.hold ? 'pins' : 'to' in props.hold ? 'tie' : 'leash'));
const others = computed(() => (document.shot?.things ?? []).filter(({ id }) => id !== cloth.value.id));
/** What pins can follow: other things, and the animation that came with the cloth itself. */
const followed = computed(() => [
  ...(cloth.value.motion ? [{ id: cloth.value.id, name: 'its own animation' }] : []),
  ...others.value,
]);
/** Whether what it is tied to has a border, or had one. */
const bordered = computed(() => {
  const { hold } = props;
  const to = 'to' in hold ? others.value.find(({ id }) => id === hold.to) : undefined;
  return 'to' in hold && (hold.along === 'border' || (to !== undefined && hasBorder(to, document.assets)));
});
const surfaces = computed(() => others.value.filter((thing) => 'shape' in thing));
const moved = computed(() => {
  const { hold } = props;
  return 'gather' in hold ? { keyed: 'keyed', moved: 'set', stays: 'as it starts' }[pinMotion(cloth.value, hold)] : '';
});

/** Masks that are made when they are chosen. */
const WAYS = RELEASE_WAYS.map(({ id, name }) => ({ id: `new ${id}`, name: `a new one, ${name}` }));

function pickRelease(id: string): void {
  const way = RELEASE_WAYS.find((one) => `new ${one.id}` === id);
  if (way) release(props.hold, way.id);
  else changeHold(props.hold, 'release', (found) => (found.release = id || null));
}

/** When its points become free, in words. */
const releaseNote = computed(() => {
  const { shape } = cloth.value;
  if (props.hold.release === null || !document.shot) return 'never';
  if (shape.kind === 'mesh' && !document.assets.has(shape.asset)) return '';
  const frames = releaseFrames(cloth.value, props.hold, shapeMesh(shape, document.assets), document.shot);
  const free = frames?.filter((frame) => frame !== Infinity) ?? [];
  return free.length === 0 ? 'nothing yet' : `frames ${Math.min(...free)} to ${Math.max(...free)}`;
});

/** The name of a mask for the chip in a field; empty without one. */
function maskName(id: string | null): string {
  return id === null ? '' : (cloth.value.masks.find((mask) => mask.id === id)?.name ?? 'deleted');
}

function tieIn(draft: Shot, id: string): object | undefined {
  return draft.things.flatMap((thing) => (thing.role === 'cloth' ? thing.ties : [])).find((tie) => tie.id === id);
}
</script>

<template>
  <div class="section">
    <NameField
      :key="hold.id"
      class="text-input grow"
      label="Name of the hold"
      :model-value="hold.name"
      @change="(name) => changeHold(hold, 'name', (found) => (found.name = name))"
    />
    <button v-tip="'Delete it (undoable)'" type="button" class="icon-button" @click="remove(hold)">
      <Trash2 :size="16" :stroke-width="1.5" />
    </button>
  </div>
  <KeyedField
    :key="`${hold.id}.${kind}`"
    :thing="cloth.id"
    :number="holdNumber(hold.id, kind === 'leash' ? 'distance' : 'strength')"
    :label="kind === 'leash' ? 'Leash' : 'Strength'"
    :subject="hold.name"
    :mask="maskName(hold.mask)"
    @mask="choosing = choosing === 'mask' ? null : 'mask'"
  />
  <MaskChoice
    v-if="choosing === 'mask'"
    fades
    :number="hold.name"
    :masks="cloth.masks"
    :model-value="hold.mask"
    @pick="(id) => changeHold(hold, 'mask', (found) => (found.mask = id))"
    @fade="fade(hold)"
  />
  <template v-if="'gather' in hold">
    <PickLine
      label="Follows"
      none="nothing, it stays"
      :model-value="hold.rides ?? ''"
      :options="followed"
      @pick="(id) => changeHold(hold, 'what it follows', (found) => 'rides' in found && (found.rides = id || null))"
    />
    <div class="choices" role="group" aria-label="Handles">
      <button
        v-for="one in HANDLES"
        :key="one.id"
        v-tip="one.title"
        type="button"
        class="choice"
        :aria-pressed="selection.tool === one.id"
        @click="selection.tool = selection.tool === one.id ? 'look' : one.id"
      >
        {{ one.label }}
      </button>
    </div>
    <FoldSection :key="hold.id" title="Move, turn and gather" :note="moved" :open="moved !== 'as it starts'">
      <template v-for="what in ['gather', 'move', 'turn'] as const" :key="what">
        <KeyedField
          v-for="axis in ['x', 'y', 'z'] as const"
          :key="axis"
          :thing="cloth.id"
          :number="holdNumber(hold.id, `${what}.${axis}`)"
          :label="`${what === 'gather' ? 'Gather' : what === 'move' ? 'Move' : 'Turn'} ${axis}`"
          :subject="hold.name"
        />
      </template>
      <KeyTable :thing="cloth" :groups="KEYED.map((one) => ({ ...one, stem: holdNumber(hold.id, one.stem) }))" />
    </FoldSection>
  </template>
  <TickLine
    v-if="'neverBehind' in hold"
    v-tip="'For clothes on a body: cloth may lift off, not sink in'"
    :ticked="hold.neverBehind"
    @toggle="changeHold(hold, 'side', (found) => 'neverBehind' in found && (found.neverBehind = !found.neverBehind))"
  >
    never behind where its animation puts it
  </TickLine>
  <template v-if="'to' in hold">
    <PickLine
      label="Tied to"
      :model-value="hold.to"
      :options="surfaces"
      @pick="(id) => changeHold(hold, 'what it is tied to', (found) => 'to' in found && (found.to = id))"
    />
    <TickLine
      v-if="bordered"
      v-tip="
        'A stretch of border goes along it evenly, from where its ends are nearest; else each point to the nearest place of its surface'
      "
      :ticked="hold.along === 'border'"
      @toggle="
        changeHold(
          hold,
          'where it is tied',
          (found) => 'to' in found && (found.along = found.along === 'border' ? 'surface' : 'border'),
        )
      "
    >
      to its border
    </TickLine>
    <TickLine
      :ticked="hold.keepsDistance"
      @toggle="changeHold(hold, 'distance', (found) => 'to' in found && (found.keepsDistance = !found.keepsDistance))"
    >
      keeps the distance that it starts with
    </TickLine>
    <KeyedField
      v-if="!hold.keepsDistance"
      :thing="cloth.id"
      :number="holdNumber(hold.id, 'standOff')"
      label="Stand-off"
      :subject="hold.name"
      :mask="maskName(hold.standOffMask)"
      @mask="choosing = choosing === 'standOffMask' ? null : 'standOffMask'"
    />
    <ThingQuantity
      v-if="!hold.keepsDistance"
      :schema="tieSchema"
      name="drawnIn"
      :model-value="hold.drawnIn"
      :find="(draft) => tieIn(draft, hold!.id)"
      :subject="hold.name"
      lazy
    />
    <MaskChoice
      v-if="!hold.keepsDistance && choosing === 'standOffMask'"
      number="the stand-off"
      :masks="cloth.masks"
      :model-value="hold.standOffMask"
      @pick="(id) => changeHold(hold, 'mask of the stand-off', (found) => 'to' in found && (found.standOffMask = id))"
    />
  </template>
  <FoldSection title="Release" :note="releaseNote" open>
    <PickLine
      label="Order"
      name="Release mask"
      none="none, it never lets go"
      :model-value="hold.release ?? ''"
      :options="[...WAYS, ...cloth.masks]"
      @pick="pickRelease"
    />
    <p v-if="hold.release === null" class="small">
      Points are set free in the order of a mask. A new one lets go over two seconds, from the frame that is shown.
    </p>
    <KeyedField
      v-else
      :thing="cloth.id"
      :number="holdNumber(hold.id, 'released')"
      label="Released"
      :subject="hold.name"
    />
  </FoldSection>
  <div class="choices">
    <button type="button" class="choice" @click="selection.setPoints(hold.points)">Select its points</button>
    <button
      type="button"
      class="choice"
      :disabled="selection.points.length === 0"
      @click="changeHold(hold, 'points', (found) => (found.points = [...selection.points]))"
    >
      Hold the selection instead
    </button>
  </div>
</template>
