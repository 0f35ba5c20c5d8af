<script setup lang="ts">
import {
  fabricSchema,
  findCard,
  quantitiesOf,
  selfContactSchema,
  SWATCH_BOOK,
  type FabricNumber,
  type Shot,
} from '@lumbra/core';
import { computed, ref } from 'vue';
import FoldSection from '../../fields/FoldSection.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';
import RunAction from '../RunAction.vue';
import StationPanel from '../StationPanel.vue';
import CueList from './CueList.vue';
import FabricNumbers from './FabricNumbers.vue';
import SwatchTests from './SwatchTests.vue';
import PrintFields from './PrintFields.vue';
import { PRINTS } from './prints';
import { vTip } from '../../fields/tip';

/** The numbers of a fabric under their headings; those without one stand first. */
const NUMBERS = Object.entries(quantitiesOf(fabricSchema));
const GROUPS = [...new Set(NUMBERS.map(([, { group }]) => group ?? ''))].map((title) => ({
  title,
  names: NUMBERS.flatMap(([name, { group }]) => ((group ?? '') === title ? [name as FabricNumber] : [])),
}));
const document = useDocumentStore();
const selection = useSelectionStore();
const choosing = ref(false);

const cloth = computed(() => selection.cloth);
const card = computed(() => (cloth.value?.card ? findCard(cloth.value.card) : undefined));
const cueNote = computed(() => {
  const count = cloth.value?.cues.filter(({ enabled }) => enabled).length ?? 0;
  return count === 0 ? 'none' : `${count} on`;
});
const changed = computed(() => {
  if (!card.value || !cloth.value) return 0;
  const [own, book] = [cloth.value.fabric, card.value.fabric];
  return (Object.keys(own) as FabricNumber[]).filter((key) => own[key] !== book[key]).length;
});

function find(draft: Shot) {
  const found = draft.things.find(({ id }) => id === cloth.value?.id);
  return found?.role === 'cloth' ? found : undefined;
}
const findSelfContact = (draft: Shot) => find(draft)?.selfContact;

function flipSelfContact(): void {
  const { name, selfContact } = cloth.value!;
  document.edit(selfContact.enabled ? `${name} passes through itself` : `${name} touches itself`, (draft) => {
    const target = findSelfContact(draft);
    if (target) target.enabled = !selfContact.enabled;
  });
}

function choose(id: string): void {
  const chosen = findCard(id);
  if (!chosen) return;
  document.edit(`${cloth.value!.name} of ${chosen.name.toLowerCase()}`, (draft) => {
    const target = find(draft);
    if (!target) return;
    target.card = chosen.id;
    target.fabric = { ...chosen.fabric };
    target.print.colour = chosen.look.color;
    target.print.waxed = chosen.id === 'waxed-cotton';
  });
  choosing.value = false;
}
</script>

<template>
  <StationPanel title="Fabric" help="What the cloth is made of.">
    <p v-if="!cloth" class="small empty">There is no cloth yet. Add a sheet at the Stage.</p>
    <template v-else>
      <div class="card">
        <span class="swatch" :style="{ background: cloth.print.colour }" />
        <div class="grow">
          <h2 class="cut">{{ card?.name ?? 'Own fabric' }}</h2>
          <p class="small note">{{ card?.note ?? 'Not from the swatch book.' }}</p>
          <p class="small">
            {{ cloth.name }}<template v-if="changed">, {{ changed }} changed</template>
          </p>
        </div>
      </div>
      <div class="choices">
        <button type="button" class="choice" :aria-expanded="choosing" @click="choosing = !choosing">
          {{ choosing ? 'Close the swatch book' : 'Swatch book' }}
        </button>
        <button v-if="changed && card" type="button" class="choice" @click="choose(card.id)">Back to the card</button>
      </div>
      <div v-if="choosing" class="book" role="listbox" aria-label="Swatch book">
        <button
          v-for="entry in SWATCH_BOOK"
          :key="entry.id"
          v-tip="entry.note"
          type="button"
          class="row"
          role="option"
          :aria-selected="entry.id === cloth.card"
          :aria-current="entry.id === cloth.card"
          @click="choose(entry.id)"
        >
          <span class="swatch small-swatch" :style="{ background: entry.look.color }" />
          <span class="grow cut">{{ entry.name }}</span>
          <span class="small">{{ Math.round(entry.fabric.weight * 1000) }} g/m²</span>
        </button>
      </div>
      <div class="rule" />
      <template v-for="{ title, names } in GROUPS" :key="title">
        <FabricNumbers v-if="title === ''" :cloth="cloth" :names="names" />
        <FoldSection v-else :title="title"><FabricNumbers :cloth="cloth" :names="names" /></FoldSection>
      </template>
      <FoldSection title="Swatch tests"><SwatchTests :cloth="cloth" /></FoldSection>
      <FoldSection title="Layers" :note="cloth.selfContact.enabled ? 'touches itself' : 'passes through itself'">
        <TickLine :ticked="cloth.selfContact.enabled" @toggle="flipSelfContact">Touches itself</TickLine>
        <ThingQuantity
          :key="`${cloth.id}.layers`"
          :schema="selfContactSchema"
          name="thickness"
          :model-value="cloth.selfContact.thickness"
          :find="findSelfContact"
          :subject="cloth.name"
        />
      </FoldSection>
      <FoldSection title="Cues" :note="cueNote"><CueList :key="cloth.id" :cloth="cloth" /></FoldSection>
      <FoldSection title="Print" :note="PRINTS.find((print) => print.id === cloth!.print.kind)?.label">
        <PrintFields :key="cloth.id" :cloth="cloth" />
      </FoldSection>
    </template>
    <template #action><RunAction label="Settle with this fabric" /></template>
  </StationPanel>
</template>

<style scoped>
.card {
  display: flex;
  gap: 12px;
  margin-top: 8px;
}
.swatch {
  width: 64px;
  height: 64px;
  border-radius: 3px;
  flex: none;
  box-shadow: inset 0 0 0 1px rgb(31 36 48 / 22%);
  background-image:
    repeating-linear-gradient(0deg, rgb(255 255 255 / 14%) 0 1px, transparent 1px 3px),
    repeating-linear-gradient(90deg, rgb(0 0 0 / 10%) 0 1px, transparent 1px 3px) !important;
  background-blend-mode: normal;
}
.small-swatch {
  width: 16px;
  height: 16px;
}
.note {
  margin: 2px 0;
}
.book {
  margin-top: 4px;
}
.empty {
  margin-top: 16px;
}
</style>
