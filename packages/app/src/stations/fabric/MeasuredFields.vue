<script setup lang="ts">
import {
  findCard,
  formatQuantity,
  MEASUREMENTS,
  trackOf,
  type Cloth,
  type DrapeTest,
  type Measurement,
  type Quantity,
  type Shot,
} from '@lumbra/core';
import * as Comlink from 'comlink';
import { computed, ref } from 'vue';
import QuantityField from '../../fields/QuantityField.vue';
import { useDocumentStore } from '../../session/document';
import { WorkerEndedError } from '../../jobs/workerHost';
import { errorText, useNoticeStore } from '../../stores/notice';
import { swatchHost } from '../../workers/hosts';

// The fabric by what is measured of real cloth: type it, and the numbers of the fabric follow.

const props = defineProps<{ cloth: Cloth; drape: DrapeTest | null }>();
const emit = defineEmits<{
  /** The drape test of the fabric as it was fitted. */
  fitted: [test: DrapeTest];
}>();

const DRAPE: Quantity = {
  label: 'Drape coefficient',
  help: 'The share of the ring that the disc’s shadow covers. Typed, both bends are fitted to it by some drape tests.',
  ...{ unit: '%', min: 0.02, max: 0.99, default: 0.5, step: 0.01 },
};

const STOPPED = 'Stopped.';

const document = useDocumentStore();
const notice = useNoticeStore();
/** Tests that are done of the fit that runs. */
const fitting = ref<number | null>(null);
const card = computed(() => (props.cloth.card ? findCard(props.cloth.card) : undefined));
/** Numbers that change over the shot are not fitted. */
const measurements = computed(() =>
  MEASUREMENTS.filter(({ number }) => trackOf(props.cloth, `fabric.${number}`) === undefined),
);

function fabricOf(shot: Shot, cloth: string): Cloth['fabric'] | undefined {
  const found = shot.things.find(({ id }) => id === cloth);
  return found?.role === 'cloth' ? found.fabric : undefined;
}

function set({ quantity, number, fitted }: Measurement, measured: number, live: boolean): void {
  document.edit(
    `${props.cloth.name}, ${quantity.label.toLowerCase()}`,
    (draft) => {
      const fabric = fabricOf(draft, props.cloth.id);
      if (fabric) fabric[number] = fitted(measured, fabric);
    },
    live ? `${props.cloth.id}.${number}` : null,
  );
}

async function fit(coefficient: number): Promise<void> {
  fitting.value = 0;
  // Of this cloth as it is now, whatever is selected or changed until the fit has come.
  const { id, name } = props.cloth;
  const fabric = { ...props.cloth.fabric };
  const asked = JSON.stringify(fabric);
  try {
    const tell = Comlink.proxy((done: number) => (fitting.value = done));
    const { bendWarp, bendWeft, test } = await swatchHost.call((api) => api.fitDrape(fabric, coefficient, tell));
    const now = document.shot && fabricOf(document.shot, id);
    if (JSON.stringify(now) !== asked) {
      notice.remark(
        `${name} was changed while its drape was fitted. It is as you left it; type the coefficient again.`,
      );
      return;
    }
    document.edit(`${name}, drape ${formatQuantity(coefficient, '%', 3)} %`, (draft) => {
      Object.assign(fabricOf(draft, id)!, { bendWarp, bendWeft });
    });
    if (props.cloth.id === id) emit('fitted', test);
  } catch (error) {
    if (error instanceof WorkerEndedError && error.message === STOPPED) return;
    notice.problem(`The fabric could not be fitted: ${errorText(error)} It is as it was.`);
  } finally {
    fitting.value = null;
  }
}
</script>

<template>
  <p class="small note">As measured of real cloth: typed here, the fabric’s numbers follow.</p>
  <QuantityField
    v-for="one in measurements"
    :key="one.quantity.label"
    :quantity="one.quantity"
    :model-value="one.measured(cloth.fabric)"
    :reset="card ? one.measured(card.fabric) : undefined"
    @change="(value, live) => set(one, value, live)"
    @settled="document.endMerge()"
  />
  <p v-if="fitting !== null" class="small note" role="status">
    Fitting: drape test {{ fitting + 1 }}
    <button type="button" class="choice" @click="swatchHost.kill(STOPPED)">Stop</button>
  </p>
  <QuantityField
    v-else-if="drape"
    :quantity="DRAPE"
    lazy
    :model-value="drape.coefficient"
    :reset="drape.coefficient"
    @change="fit"
  />
  <p v-else class="small note">Test a swatch to fit its drape coefficient.</p>
</template>

<style scoped>
.note {
  margin: 8px 0 0 16px;
}
</style>
