<script setup lang="ts">
import { printSchema, SWATCH_BOOK, type Cloth, type Shot } from '@lumbra/core';
import { useFileDialog } from '@vueuse/core';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import ColourBox from '../../fields/ColourBox.vue';
import ThingQuantity from '../../fields/ThingQuantity.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { errorText, useNoticeStore } from '../../stores/notice';
import { PRINTS } from './prints';
import { readPrint } from './readPrint';

// What is printed on a cloth. It never costs a new run.

const props = defineProps<{ cloth: Cloth }>();
const document = useDocumentStore();
const notice = useNoticeStore();

const NUMBERS = ['repeat', 'turn', 'along', 'across'] as const;

/** Colours that are offered: the swatches of the book. */
const DYES = [...new Set(SWATCH_BOOK.map(({ look }) => look.color))];

function findPrint(draft: Shot, id = props.cloth.id) {
  const found = draft.things.find((thing) => thing.id === id);
  return found?.role === 'cloth' ? found.print : undefined;
}

function set(label: string, change: (print: Cloth['print']) => void, { id, name } = props.cloth): void {
  document.edit(`${name}, ${label}`, (draft) => {
    const print = findPrint(draft, id);
    if (print) change(print);
  });
}

const { open, onChange } = useFileDialog({ accept: 'image/*', multiple: false, reset: true });
onChange((files) => files?.[0] && void take(files[0]));

async function take(file: File): Promise<void> {
  // Reading takes a moment, in which something else may be chosen.
  const { cloth } = props;
  try {
    const picture = await readPrint(file);
    set('picture', (print) => (print.picture = picture), cloth);
  } catch (error) {
    notice.problem(errorText(error));
  }
}
</script>

<template>
  <ChoiceRow
    label="Print"
    wide
    :model-value="cloth.print.kind"
    :options="PRINTS"
    @pick="(kind) => set('print', (print) => (print.kind = kind))"
  />
  <div class="field-line colour">
    <span>Colour</span>
    <ColourBox
      label="Colour of the print"
      :model-value="cloth.print.colour"
      :offered="DYES"
      @pick="(colour) => set('colour', (print) => (print.colour = colour))"
    />
  </div>
  <template v-if="cloth.print.kind === 'picture'">
    <div class="field-line">
      <span>Picture</span>
      <img v-if="cloth.print.picture" :src="cloth.print.picture" alt="The picture that is printed" />
      <button type="button" class="choice" aria-label="Choose the picture that is printed" @click="open()">
        {{ cloth.print.picture ? 'Change…' : 'Choose…' }}
      </button>
    </div>
    <p v-if="!cloth.print.picture" class="small">Until one is chosen, the cloth is plain. PNG, JPEG or WebP.</p>
  </template>
  <template v-else-if="cloth.print.kind !== 'plain'">
    <div class="field-line colour">
      <span>{{ { stripe: 'Stripes', check: 'Lines', dots: 'Dots' }[cloth.print.kind] }}</span>
      <ColourBox
        label="Second colour of the print"
        :model-value="cloth.print.second"
        :offered="DYES"
        @pick="(colour) => set('second colour', (print) => (print.second = colour))"
      />
    </div>
  </template>
  <template v-if="cloth.print.kind !== 'plain'">
    <ThingQuantity
      v-for="number in NUMBERS"
      :key="`${cloth.id}.${number}`"
      :schema="printSchema"
      :name="number"
      :model-value="cloth.print[number]"
      :find="findPrint"
      :subject="cloth.name"
    />
    <TickLine
      v-if="cloth.print.kind === 'picture'"
      :ticked="cloth.print.once"
      @toggle="set('once', (print) => (print.once = !print.once))"
    >
      once, not again and again
    </TickLine>
    <TickLine :ticked="cloth.print.cutOut" @toggle="set('cut out', (print) => (print.cutOut = !print.cutOut))">
      {{ cloth.print.kind === 'picture' ? 'see-through parts are cut out' : 'the second colour is cut out' }}
    </TickLine>
    <TickLine :ticked="cloth.print.oneSided" @toggle="set('sides', (print) => (print.oneSided = !print.oneSided))">
      on one side only <span class="small">(files, and thickened cloth, have both)</span>
    </TickLine>
  </template>
</template>

<style scoped>
.colour {
  justify-content: space-between;
}
img {
  height: 28px;
  max-width: 72px;
  margin-left: auto;
  margin-right: 8px;
  object-fit: contain;
  border: 1px solid var(--rule);
}
p {
  margin: 4px 0 8px;
}
</style>
