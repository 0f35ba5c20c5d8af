<script setup lang="ts">
import { holdNumber, type Hold } from '@lumbra/core';
import { Trash2 } from '@lucide/vue';
import { computed } from 'vue';
import FoldSection from '../../fields/FoldSection.vue';
import KeyedField from '../../fields/KeyedField.vue';
import PickLine from '../../fields/PickLine.vue';
import { useDocumentStore } from '../../stores/document';
import { useSelectionStore } from '../../stores/selection';
import { useHoldActs } from './useHoldActs';

// The chosen pin set, tie or leash: how firmly it holds, what it rides or is tied to, and its own motion.

const HANDLES = [
  { id: 'move', label: 'Move', title: 'Move all its pins as one with handles in the viewport (M)' },
  { id: 'turn', label: 'Turn', title: 'Turn them about their middle (T)' },
  { id: 'size', label: 'Gather', title: 'Squeeze them together or spread them (Y)' },
] as const;

const props = defineProps<{ hold: Hold }>();
const document = useDocumentStore();
const selection = useSelectionStore();
const { changeHold, remove } = useHoldActs();

const cloth = computed(() => selection.cloth!);
const kind = computed(() => ('gather' in props.hold ? 'pins' : 'to' in props.hold ? 'tie' : 'leash'));
const others = computed(() => (document.shot?.things ?? []).filter(({ id }) => id !== cloth.value.id));
const surfaces = computed(() => others.value.filter((thing) => 'shape' in thing));
const moved = computed(() => {
  const { hold } = props;
  if (!('gather' in hold)) return '';
  const keyed = cloth.value.keys.some(
    ({ number }) => /\.(move|turn|gather)\./.test(number) && number.includes(hold.id),
  );
  if (keyed) return 'keyed';
  return [...hold.move, ...hold.turn].some(Boolean) || hold.gather.some((share) => share !== 1)
    ? 'set'
    : 'as it starts';
});

function rename(event: Event): void {
  const input = event.target as HTMLInputElement;
  const name = input.value.trim();
  if (name !== '' && name !== props.hold.name) changeHold(props.hold, 'name', (hold) => (hold.name = name));
  input.value = props.hold.name;
}
</script>

<template>
  <div class="section">
    <input
      class="text-input grow"
      type="text"
      aria-label="Name of the hold"
      maxlength="120"
      :value="hold.name"
      @change="rename"
      @keydown.stop
    />
    <button type="button" class="icon-button" title="Delete it (undoable)" @click="remove(hold)">
      <Trash2 :size="16" :stroke-width="1.5" />
    </button>
  </div>
  <KeyedField
    v-if="kind !== 'leash'"
    :key="`${hold.id}.strength`"
    :thing="cloth.id"
    :number="holdNumber(hold.id, 'strength')"
    label="Strength"
    :subject="hold.name"
  />
  <KeyedField
    v-else
    :key="`${hold.id}.distance`"
    :thing="cloth.id"
    :number="holdNumber(hold.id, 'distance')"
    label="Leash"
    :subject="hold.name"
  />
  <PickLine
    :label="kind === 'leash' ? 'Distance scaled by' : 'Scaled by'"
    name="Mask"
    none="no mask"
    :model-value="hold.mask ?? ''"
    :options="cloth.masks"
    @pick="(id) => changeHold(hold, 'mask', (found) => (found.mask = id || null))"
  />
  <template v-if="'gather' in hold">
    <PickLine
      label="Follows"
      none="nothing, it stays"
      :model-value="hold.rides ?? ''"
      :options="others"
      @pick="(id) => changeHold(hold, 'what it follows', (found) => 'rides' in found && (found.rides = id || null))"
    />
    <div class="choices" role="group" aria-label="Handles">
      <button
        v-for="one in HANDLES"
        :key="one.id"
        type="button"
        class="choice"
        :title="one.title"
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
    </FoldSection>
  </template>
  <template v-if="'to' in hold">
    <PickLine
      label="Tied to"
      :model-value="hold.to"
      :options="surfaces"
      @pick="(id) => changeHold(hold, 'what it is tied to', (found) => 'to' in found && (found.to = id))"
    />
    <label class="line check">
      <input
        type="checkbox"
        :checked="hold.keepsDistance"
        @change="changeHold(hold, 'distance', (found) => 'to' in found && (found.keepsDistance = !found.keepsDistance))"
      />
      keeps the distance that it starts with
    </label>
    <KeyedField
      v-if="!hold.keepsDistance"
      :thing="cloth.id"
      :number="holdNumber(hold.id, 'standOff')"
      label="Stand-off"
      :subject="hold.name"
    />
  </template>
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

<style scoped>
.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  padding-left: 16px;
  min-height: 28px;
  margin-top: 4px;
}
.check {
  justify-content: flex-start;
}
.check input {
  accent-color: var(--indigo);
}
</style>
