<script setup lang="ts">
import { AIR_KINDS, airOf, findAir, quantitiesOf, type AirThing, type Shot } from '@lumbra/core';
import { Move3d, Rotate3d, Trash2 } from '@lucide/vue';
import { ElSwitch } from 'element-plus';
import 'element-plus/es/components/switch/style/css';
import { computed } from 'vue';
import { useAirActs } from '../../acts/useAirActs';
import { useThingActs } from '../../acts/useThingActs';
import FoldSection from '../../fields/FoldSection.vue';
import KeyedField from '../../fields/KeyedField.vue';
import NameField from '../../fields/NameField.vue';
import PickLine from '../../fields/PickLine.vue';
import PlaceFields from '../../fields/PlaceFields.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import { vTip } from '../../fields/tip';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore, type Tool } from '../../stores/selection';

// The numbers of one piece of air, as its kind declares them.

const props = defineProps<{ thing: AirThing }>();
const selection = useSelectionStore();
const acts = useAirActs();
const document = useDocumentStore();
const { rename, ride } = useThingActs();
const TOOLS: { id: Tool; label: string; icon: typeof Move3d }[] = [
  { id: 'move', label: 'Move (M)', icon: Move3d },
  { id: 'turn', label: 'Turn (T)', icon: Rotate3d },
];

const kind = computed(() => AIR_KINDS[props.thing.air.kind]);
const quantities = computed(() => quantitiesOf(kind.value.schema));
/** Names of its numbers by heading, the first without one. */
const groups = computed(() => {
  const found = new Map<string, string[]>();
  for (const [name, { group = '' }] of Object.entries(quantities.value)) {
    found.set(group, [...(found.get(group) ?? []), name]);
  }
  return [...found].map(([title, names]) => ({ title, names, on: isOn(title, names) }));
});

/** Whether what stands under a heading does anything: its first number is not zero, or is keyed. */
function isOn(title: string, names: readonly string[]): boolean {
  if (title === '') return true;
  const first = names[0]!;
  return (airOf(props.thing)[first] ?? 0) !== 0 || props.thing.keys.some(({ number }) => number === `air.${first}`);
}

const isKeyable = (name: string) => quantities.value[name]?.keyable === true;
const carriers = computed(() =>
  (document.shot?.things ?? []).filter(({ id, role }) => id !== props.thing.id && role !== 'air'),
);
const find = (draft: Shot) => findAir(draft, props.thing.id);

function take(tool: Tool): void {
  selection.select(props.thing.id);
  selection.tool = selection.tool === tool ? 'look' : tool;
}
</script>

<template>
  <div class="section">
    <NameField
      class="text-input grow strong"
      label="Name"
      :model-value="thing.name"
      @change="rename(thing.id, $event)"
    />
    <button
      v-for="tool in TOOLS"
      :key="tool.id"
      v-tip="tool.label"
      type="button"
      class="icon-button"
      :aria-pressed="selection.thingId === thing.id && selection.tool === tool.id"
      @click="take(tool.id)"
    >
      <component :is="tool.icon" :size="16" :stroke-width="1.5" />
    </button>
    <button v-tip="'Delete (undoable)'" type="button" class="icon-button" @click="acts.remove(thing)">
      <Trash2 :size="16" :stroke-width="1.5" />
    </button>
    <ElSwitch
      :model-value="thing.enabled"
      :aria-label="`${thing.name} on`"
      size="small"
      @update:model-value="acts.turn(thing, $event as boolean)"
    />
  </div>
  <template v-if="thing.enabled">
    <template v-for="{ title, names, on } in groups" :key="title">
      <component
        :is="title === '' ? 'div' : FoldSection"
        v-bind="title === '' ? {} : { title, note: on ? 'on' : 'none', open: on }"
      >
        <template v-for="name in names" :key="name">
          <KeyedField v-if="isKeyable(name)" :thing="thing.id" :number="`air.${name}`" :subject="thing.name" />
          <ThingQuantity
            v-else
            :schema="kind.schema"
            :name="name"
            :model-value="airOf(thing)[name]!"
            :find="find"
            :subject="thing.name"
          />
        </template>
        <template v-if="title === '' && kind.aims">
          <KeyedField :thing="thing.id" number="rotation.y" label="Towards" :subject="thing.name" />
          <KeyedField :thing="thing.id" number="rotation.x" label="Dip" :subject="thing.name" />
        </template>
      </component>
    </template>
    <FoldSection title="Place" :note="kind.even ? 'where its arrows stand' : undefined">
      <PlaceFields :thing="thing" />
      <PickLine
        label="Rides"
        none="nothing"
        :model-value="thing.parent ?? ''"
        :options="carriers"
        @pick="ride([thing.id], $event || null)"
      />
    </FoldSection>
  </template>
  <p v-else class="small">Switched off.</p>
</template>
