// @vitest-environment happy-dom
import type { Quantity } from '@lumbra/core';
import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useNoticeStore } from '../stores/notice';
import QuantityField from './QuantityField.vue';

vi.mock('element-plus', () => ({ ElMessage: vi.fn() }));
vi.mock('element-plus/es/components/message/style/css', () => ({}));

const width: Quantity = {
  label: 'Width',
  help: 'Along the warp.',
  unit: 'm',
  min: 0.001,
  max: 1000,
  default: 1,
  step: 0.005,
};

function field(modelValue = 0.5) {
  const wrapper = mount(QuantityField, { props: { quantity: width, modelValue } });
  return { wrapper, input: wrapper.get('input') };
}

describe('quantity field', () => {
  beforeEach(() => setActivePinia(createPinia()));

  it('reads a value with a unit', async () => {
    const { wrapper, input } = field();
    await input.setValue('30 cm');
    await input.trigger('keydown', { key: 'Enter' });
    expect(wrapper.emitted('change')).toEqual([[0.3, false]]);
  });

  it.each(['NaN', '0', '2 km/h', '1e9'])(
    'refuses %s, says why, and puts the old value back on leaving',
    async (text) => {
      const { wrapper, input } = field();
      await input.setValue(text);
      await input.trigger('keydown', { key: 'Enter' });
      expect(wrapper.emitted('change')).toBeUndefined();
      expect(useNoticeStore().hint).toMatchObject({ problem: true });
      expect(input.attributes('aria-invalid')).toBe('true');
      await input.trigger('blur');
      expect((input.element as HTMLInputElement).value).toBe('0.5');
      expect(wrapper.emitted('change')).toBeUndefined();
    },
  );

  it('steps with the arrow keys, ten times with shift', async () => {
    const { wrapper, input } = field();
    await input.trigger('keydown', { key: 'ArrowUp' });
    await input.trigger('keydown', { key: 'ArrowDown', shiftKey: true });
    expect(wrapper.emitted('change')).toEqual([
      [0.505, true],
      [0.45, true],
    ]);
  });

  it('goes to the default on a double click of the label', async () => {
    const { wrapper } = field();
    await wrapper.get('.label').trigger('dblclick');
    expect(wrapper.emitted('change')).toEqual([[1, false]]);
  });
});
