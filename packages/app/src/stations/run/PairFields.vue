<script setup lang="ts">
import { contactOf, ownTouch, pairNumbers, PAIR_SIDES, quantityOf, type Cloth, type Collider } from '@lumbra/core';
import { computed } from 'vue';
import { useContactActs } from '../../acts/useContactActs';
import ChoiceRow from '../../fields/ChoiceRow.vue';
import MaskChoice from '../../fields/MaskChoice.vue';
import QuantityField from '../../fields/QuantityField.vue';
import TickLine from '../../fields/TickLine.vue';
import { useDocumentStore } from '../../session/document';
import { useRunStore } from '../../stores/run';

// How one cloth and another thing touch: whether at all, and with which numbers of their own.

const props = defineProps<{ cloth: Cloth; other: Cloth | Collider }>();
const document = useDocumentStore();
const run = useRunStore();
const { change, flip, changeSelf } = useContactActs();

const NUMBERS = (['clearance', 'friction'] as const).map((name) => ({
  name,
  quantity: quantityOf(pairNumbers[name])!,
}));
const LABELS = { outside: 'Outside', inside: 'Inside', both: 'Both' };
const SIDES = [
  { id: 'as it has' as const, label: 'As it has' },
  ...PAIR_SIDES.map((id) => ({ id, label: LABELS[id] })),
];

const itself = computed(() => props.cloth.id === props.other.id);
const contact = computed(() => contactOf(document.shot!, props.cloth.id, props.other.id));
const touch = computed(() => contact.value?.touches ?? true);
const theirs = computed(() => ownTouch(props.cloth, props.other, run.frame));
/** Two cloths have no sides, and endless ground has one. */
const hasSides = computed(() => props.other.role === 'collider' && props.other.shape.kind !== 'ground');
const own = computed(() => {
  const { clearance = null, friction = null, side = null } = contact.value ?? {};
  return [clearance, friction, side].some((value) => value !== null);
});
</script>

<template>
  <template v-if="itself">
    <TickLine :ticked="cloth.selfContact.enabled" @toggle="flip(cloth, cloth)"
      >{{ cloth.name }} touches itself</TickLine
    >
    <MaskChoice
      v-if="cloth.selfContact.enabled"
      :number="`where ${cloth.name} touches itself`"
      :masks="cloth.masks"
      :model-value="cloth.selfContact.mask"
      @pick="(mask) => changeSelf(cloth, 'where it touches itself', { mask })"
    />
    <p v-if="cloth.selfContact.mask" class="small note">
      Where the mask is below a half when the run starts, it passes through itself.
    </p>
  </template>
  <template v-else>
    <TickLine :ticked="touch" @toggle="flip(cloth, other)">{{ cloth.name }} touches {{ other.name }}</TickLine>
    <template v-if="touch">
      <QuantityField
        v-for="{ name, quantity } in NUMBERS"
        :key="name"
        :quantity="quantity"
        :model-value="contact?.[name] ?? theirs[name]"
        :reset="theirs[name]"
        @change="(value, live) => change(cloth, other, name, { [name]: value }, live)"
        @settled="document.endMerge()"
      />
      <ChoiceRow
        v-if="hasSides"
        class="sides"
        label="Side that counts"
        wide
        :model-value="contact?.side ?? 'as it has'"
        :options="SIDES"
        @pick="(side) => change(cloth, other, 'side that counts', { side: side === 'as it has' ? null : side })"
      />
      <div v-if="own" class="choices">
        <button
          type="button"
          class="choice"
          @click="change(cloth, other, 'their own numbers', { clearance: null, friction: null, side: null })"
        >
          Back to the numbers of {{ cloth.name }} and {{ other.name }}
        </button>
      </div>
    </template>
  </template>
</template>

<style scoped>
.sides {
  margin-top: 8px;
}
.note {
  padding-left: 16px;
}
</style>
