<script setup lang="ts">
import { formatQuantity } from '@lumbra/core';
import type { Repair } from '@lumbra/core/import';
import { ElDialog } from 'element-plus';
import 'element-plus/es/components/dialog/style/css';
import { computed, reactive, watch } from 'vue';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import PickLine from '../../fields/PickLine.vue';
import TickBox from '../../fields/TickBox.vue';
import { UNITS, useImportStore, type ImportChoices, type ImportUnit } from '../../stores/importing';

// What a mesh file holds, what is wrong with it, and how it is to come onto the stage.

const ROLES = [
  { id: 'collider', label: 'Collider' },
  { id: 'cloth', label: 'Cloth' },
  { id: 'scenery', label: 'Scenery' },
] as const;

const UPS = [
  { id: 'y', label: 'y is up' },
  { id: 'z', label: 'z is up' },
] as const;
const PLACES = [
  { id: 'ground', label: 'On the ground' },
  { id: 'file', label: 'As in the file' },
] as const;
const MESHES = [
  { id: 'each', label: 'A thing each' },
  { id: 'one', label: 'One thing' },
] as const;
const UNIT_LIST = Object.keys(UNITS).map((id) => ({ id, name: id }));

const importing = useImportStore();
const choices = reactive<ImportChoices>({
  unit: 'm',
  up: 'y',
  role: 'collider',
  place: 'ground',
  together: false,
  repairs: [],
  clip: null,
});
const read = computed(() => importing.summary);
const moving = computed(() => read.value?.parts.some(({ clips }) => clips.length > 0) ?? false);

/** What is wrong, over all parts, once per mend. */
const offers = computed(() => {
  const found = new Map<Repair, { repair: Repair; texts: string[]; offer: string; advised: boolean }>();
  for (const { name, findings } of read.value?.parts ?? []) {
    for (const { repair, text, offer, advised } of findings) {
      const known = found.get(repair) ?? { repair, texts: [], offer, advised };
      known.texts.push(read.value!.parts.length > 1 ? `${name}: ${text}` : text);
      found.set(repair, known);
    }
  }
  return [...found.values()];
});
const totals = computed(() => {
  const parts = read.value?.parts ?? [];
  const sum = (of: 'points' | 'triangles') => parts.reduce((all, { report }) => all + report[of], 0);
  return `${formatQuantity(sum('points'), '', 9)} points, ${formatQuantity(sum('triangles'), '', 9)} triangles`;
});

function sizeText(size: readonly number[]): string {
  const [x, y, z] = size.map((side) => side * UNITS[choices.unit]) as [number, number, number];
  const shown = choices.up === 'y' ? [x, y, z] : [x, z, y];
  const small = Math.max(...shown) < 0.1;
  return `${shown.map((side) => formatQuantity(side, small ? 'mm' : 'm', 3)).join(' × ')} ${small ? 'mm' : 'm'}`;
}

function flip(repair: Repair): void {
  choices.repairs = choices.repairs.includes(repair)
    ? choices.repairs.filter((one) => one !== repair)
    : [...choices.repairs, repair];
}

watch(
  read,
  (summary) => {
    if (!summary) return;
    const zUp = !summary.measured && summary.format !== 'obj';
    Object.assign(choices, {
      unit: summary.unit,
      up: zUp ? 'z' : 'y',
      role: 'collider',
      place: 'ground',
      together: false,
      repairs: offers.value.filter(({ advised }) => advised).map(({ repair }) => repair),
      clip: summary.clips[0] ?? null,
    } satisfies ImportChoices);
  },
  { immediate: true },
);
</script>

<template>
  <ElDialog
    :model-value="importing.file !== null && importing.busy !== 'reading'"
    :title="`Bring in ${importing.file?.name ?? ''}`"
    width="480"
    :before-close="importing.cancel"
  >
    <div v-if="read" class="body" data-testid="import">
      <p class="small">
        {{ read.format.toUpperCase() }}, {{ totals
        }}<template v-if="read.clips.length"
          >, {{ read.clips.length }} {{ read.clips.length === 1 ? 'clip' : 'clips' }}</template
        >
      </p>
      <div class="parts">
        <div v-for="part in read.parts.slice(0, 8)" :key="part.name" class="part">
          <span class="cut grow">{{ part.name }}</span>
          <span>{{ sizeText(part.report.size) }}</span>
        </div>
        <p v-if="read.parts.length > 8" class="small">and {{ read.parts.length - 8 }} more</p>
      </div>

      <PickLine
        label="Unit of the file"
        :model-value="choices.unit"
        :options="UNIT_LIST"
        @pick="choices.unit = $event as ImportUnit"
      />
      <div class="line">
        <span>Up in the file</span>
        <ChoiceRow label="Up in the file" :model-value="choices.up" :options="UPS" @pick="choices.up = $event" />
      </div>
      <div class="line">
        <span>It is</span>
        <ChoiceRow label="Role" :model-value="choices.role" :options="ROLES" @pick="choices.role = $event" />
      </div>
      <div class="line">
        <span>Its place</span>
        <ChoiceRow label="Place" :model-value="choices.place" :options="PLACES" @pick="choices.place = $event" />
      </div>
      <div v-if="read.parts.length > 1 && !moving" class="line">
        <span>{{ read.parts.length }} meshes</span>
        <ChoiceRow
          label="Meshes"
          :model-value="choices.together ? 'one' : 'each'"
          :options="MESHES"
          @pick="choices.together = $event === 'one'"
        />
      </div>
      <PickLine
        v-if="moving"
        label="Plays"
        none="nothing, it stands"
        :model-value="choices.clip ?? ''"
        :options="read.clips.map((clip) => ({ id: clip, name: clip }))"
        @pick="choices.clip = $event || null"
      />

      <template v-if="offers.length || read.notes.length">
        <h2 class="found">What was found</h2>
        <div v-for="offer in offers" :key="offer.repair" class="offer">
          <p>
            {{ offer.texts[0]
            }}<template v-if="offer.texts.length > 1"> And {{ offer.texts.length - 1 }} more.</template>
          </p>
          <TickBox :ticked="choices.repairs.includes(offer.repair)" @toggle="flip(offer.repair)">
            {{ offer.offer }}
          </TickBox>
        </div>
        <p v-for="note in read.notes" :key="note" class="small">{{ note }}</p>
      </template>
      <p v-else class="small found">Nothing is wrong with it.</p>
    </div>
    <template #footer>
      <div class="buttons">
        <button type="button" class="secondary" @click="importing.cancel()">Cancel</button>
        <button
          type="button"
          class="primary"
          :disabled="!read || importing.busy !== null"
          @click="importing.take({ ...choices, repairs: [...choices.repairs] })"
        >
          {{ importing.busy === 'mending' ? 'Bringing it in' : 'Bring it in' }}
        </button>
      </div>
    </template>
  </ElDialog>
</template>

<style scoped>
.body :deep(.field-line) {
  padding-left: 0;
}
.body {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.parts {
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 8px 0;
  border-block: 1px solid var(--rule);
}
.part,
.line,
.offer {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: center;
  min-height: 28px;
}
.part {
  min-height: 20px;
}
.line .choices {
  margin: 0;
}
.found {
  margin-top: 8px;
}
.buttons {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
}
.buttons .primary {
  flex: none;
  height: 32px;
}
</style>
