<script setup lang="ts">
import { formatQuantity, fromUnit, parseQuantity, type Quantity } from '@lumbra/core';
import { computed, ref } from 'vue';
import type { KeyState } from '../stores/keying';
import { followDrag } from '../pointer/followDrag';
import { useNoticeStore } from '../stores/notice';
import StitchMark from './StitchMark.vue';
import { vTip } from './tip';

// The control for every number: drag its label sideways, type a value with or without a unit, step with the arrow
// keys, double click the label for the default.

const props = defineProps<{
  quantity: Quantity;
  modelValue: number;
  /** In place of the quantity's own label. */
  label?: string;
  /** Set what a double click gives, where it is not the quantity's default. */
  reset?: number;
  /** Change only when the drag ends, for numbers that are costly to follow. */
  lazy?: boolean;
  disabled?: boolean;
  /** Whether the number is keyed at this frame; without it the number cannot be keyed, and its dot does nothing. */
  keyState?: KeyState;
  /** The value waits for an answer: key here, or shift the whole curve. */
  waiting?: boolean;
  /** Takes several numbers typed at once, for fields that belong together. */
  takesSeveral?: boolean;
  /** The name of the mask that scales the number, or empty where one could; without it no mask can. */
  mask?: string;
}>();
const emit = defineEmits<{
  /** `live` while a drag goes on. */
  change: [value: number, live: boolean];
  settled: [];
  /** The dot was pressed: key the number here, or take its key away. */
  key: [];
  /** Several numbers were typed at once, apart by commas; for fields that belong together. */
  several: [values: number[]];
  /** The mask chip was pressed. */
  mask: [];
}>();

const KEY_TITLES: Record<KeyState, string> = {
  none: '',
  constant: 'Constant; press to key it at this frame',
  here: 'Keyed at this frame; press to take the key away',
  elsewhere: 'Keyed at other frames; press to key it here too',
};

const notice = useNoticeStore();
const typed = ref<string | null>(null);
const problem = ref<string | null>(null);
const dragged = ref<number | null>(null);

const name = computed(() => props.label ?? props.quantity.label);
const unit = computed(() => props.quantity.unit);
const shown = computed(() => typed.value ?? formatQuantity(dragged.value ?? props.modelValue, unit.value));

function bounded(value: number): number {
  const { min, max, whole } = props.quantity;
  const inside = Math.min(max, Math.max(min, value));
  return whole ? Math.round(inside) : inside;
}

function stepped(value: number, steps: number): number {
  const { step, min, max } = props.quantity;
  if (step === 'ratio') {
    const base = value === 0 ? Math.max(min, max * 1e-6) : value;
    return bounded(tidy(base * 1.01 ** steps));
  }
  return bounded(tidy(value + step * steps));
}

/** Four figures in the shown unit, so that a drag leaves no long tails. */
function tidy(value: number): number {
  const inUnit = value / fromUnit(1, unit.value);
  return fromUnit(Number(inUnit.toPrecision(4)), unit.value);
}

/** “0, 1.2, −0.5” or “0.9 × 0.5 × 0.6”: the values of several fields in one. */
function readSeveral(text: string): number[] | null {
  const parts = text.split(/\s*[×;*]\s*|,\s+|(?<=\d)\s*x\s*(?=[\d.])/).filter((part) => part !== '');
  if (parts.length < 2) return null;
  const parsed = parts.map((part) => parseQuantity(part, unit.value));
  return parsed.every((one) => one.ok) ? parsed.map((one) => (one.ok ? one.value : 0)) : null;
}

function commit(): void {
  if (typed.value === null) return;
  const several = props.takesSeveral ? readSeveral(typed.value) : null;
  if (several) {
    typed.value = null;
    problem.value = null;
    emit('several', several);
    emit('settled');
    return;
  }
  const parsed = parseQuantity(typed.value, unit.value);
  if (!parsed.ok)
    return refuse(`${parsed.reason} The value stays ${formatQuantity(props.modelValue, unit.value)} ${unit.value}.`);
  const { min, max } = props.quantity;
  if (parsed.value < min - 1e-12 || parsed.value > max + 1e-12) {
    const limits = `${formatQuantity(min, unit.value)} to ${formatQuantity(max, unit.value)} ${unit.value}`.trim();
    return refuse(`${name.value} must be ${limits}.`);
  }
  typed.value = null;
  problem.value = null;
  emit('change', bounded(parsed.value), false);
  emit('settled');
  showHelp();
}

function refuse(reason: string): void {
  problem.value = reason;
  notice.showHint(name.value, reason, true);
}

/** Leaving a field with something that cannot be read puts the old value back. */
function leave(): void {
  commit();
  if (problem.value !== null) {
    typed.value = null;
    problem.value = null;
  }
}

function showHelp(): void {
  if (problem.value === null) notice.showHint(name.value, props.quantity.help);
}

function onKey(event: KeyboardEvent): void {
  if (event.key === 'Enter') {
    commit();
    // The keys belong to the bench again.
    if (problem.value === null) (event.target as HTMLInputElement).blur();
  } else if (event.key === 'Escape') {
    typed.value = null;
    problem.value = null;
    (event.target as HTMLInputElement).blur();
  } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    event.preventDefault();
    const size = event.shiftKey ? 10 : 1;
    const sign = event.key === 'ArrowUp' ? 1 : -1;
    const perStep = props.quantity.step === 'ratio' ? 5 : 1;
    typed.value = null;
    emit('change', stepped(props.modelValue, sign * size * perStep), true);
  }
  event.stopPropagation();
}

function startDrag(event: PointerEvent): void {
  if (props.disabled || event.button !== 0) return;
  const startValue = props.modelValue;
  followDrag(event, {
    move: (dx, _dy, at) => {
      const value = stepped(startValue, Math.round(dx * (at.shiftKey ? 0.1 : 1)));
      if (props.lazy) dragged.value = value;
      else emit('change', value, true);
    },
    end: () => {
      if (dragged.value !== null) emit('change', dragged.value, false);
      dragged.value = null;
      emit('settled');
    },
    cancel: () => {
      dragged.value = null;
      if (!props.lazy) emit('change', startValue, true);
      emit('settled');
    },
  });
}

function toDefault(): void {
  if (props.disabled) return;
  emit('change', props.reset ?? props.quantity.default, false);
  emit('settled');
}
</script>

<template>
  <label class="field" :class="{ wrong: problem !== null, disabled, waiting }" @pointerenter="showHelp">
    <button
      v-if="keyState && keyState !== 'none'"
      v-tip="KEY_TITLES[keyState]"
      type="button"
      class="key"
      :class="keyState"
      :aria-label="`${KEY_TITLES[keyState]}: ${name}`"
      @click.prevent="emit('key')"
    >
      <StitchMark :state="keyState" />
    </button>
    <span v-else />
    <span class="label" @pointerdown.prevent="startDrag" @dblclick.prevent="toDefault" @click.prevent>{{ name }}</span>
    <button
      v-if="mask !== undefined"
      v-tip="mask === '' ? 'No mask scales it; press to choose one' : `Scaled by the mask ${mask}; press to change it`"
      type="button"
      class="chip"
      :class="{ set: mask !== '' }"
      :aria-label="`Mask of ${name}`"
      @click.prevent="emit('mask')"
    />
    <span class="value">
      <input
        type="text"
        inputmode="decimal"
        :aria-label="name"
        :aria-invalid="problem !== null"
        :disabled="disabled"
        :value="shown"
        @focus="(($event.target as HTMLInputElement).select(), showHelp())"
        @input="typed = ($event.target as HTMLInputElement).value"
        @keydown="onKey"
        @blur="leave"
      />
      <span class="unit">{{ unit }}</span>
    </span>
  </label>
</template>

<style scoped>
.field {
  position: relative;
  display: grid;
  grid-template-columns: 16px 1fr 96px;
  align-items: center;
  height: 28px;
  margin-top: 4px;
  flex: none;
}
.key {
  width: 24px;
  height: 28px;
  margin-left: -8px;
  display: grid;
  place-items: center;
}
.waiting .value {
  box-shadow: none;
  outline: 2px dashed var(--weld);
  outline-offset: -2px;
}
/* The mask chip: an empty frame, or a ramp where a mask scales the number. */
.chip {
  position: absolute;
  right: 98px;
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
}
.chip::before {
  content: '';
  width: 14px;
  height: 8px;
  border-radius: 2px;
  box-shadow: inset 0 0 0 1px var(--mark);
}
.chip:hover::before {
  box-shadow: inset 0 0 0 1px var(--ink-9);
}
.chip.set::before {
  background: linear-gradient(90deg, var(--linen-2), var(--indigo));
}
.label {
  cursor: ew-resize;
  user-select: none;
  touch-action: none;
  white-space: nowrap;
  line-height: 28px;
}
.value {
  display: grid;
  grid-template-columns: 1fr 42px;
  height: 28px;
  align-items: center;
  background: var(--linen-0);
  box-shadow: inset 0 0 0 1px var(--edge);
  border-radius: 3px;
}
.value:focus-within {
  box-shadow: inset 0 0 0 2px var(--indigo);
}
.wrong .value {
  box-shadow: inset 0 0 0 2px var(--madder);
}
.disabled {
  opacity: 0.5;
}
input {
  width: 100%;
  min-width: 0;
  height: 28px;
  font-weight: 500;
  text-align: right;
  padding-right: 4px;
  outline: none;
}
.unit {
  font-size: 12px;
  color: var(--ink-6);
  white-space: nowrap;
}
</style>
