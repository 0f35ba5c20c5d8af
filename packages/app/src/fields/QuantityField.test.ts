// @vitest-environment happy-dom
import type { Quantity } from '@lumbra/core';
import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { useNoticeStore } from '../stores/notice';
import QuantityField from './QuantityField.vue';

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

  describe('dragged by its label', () => {
    function dragging(props: { lazy?: boolean } = {}) {
      const wrapper = mount(QuantityField, { props: { quantity: width, modelValue: 0.5, ...props } });
      const label = wrapper.get('.label').element as HTMLElement;
      label.setPointerCapture = label.releasePointerCapture = () => undefined;
      label.hasPointerCapture = () => true;
      const fire = (type: string, clientX: number, shiftKey = false) =>
        label.dispatchEvent(new PointerEvent(type, { clientX, shiftKey, pointerId: 1, button: 0, bubbles: true }));
      fire('pointerdown', 200);
      return { wrapper, fire, changes: () => wrapper.emitted<[number, boolean]>('change') ?? [] };
    }

    it('goes by steps as far as the pointer, ten times finer with shift', () => {
      const { wrapper, fire, changes } = dragging();
      fire('pointermove', 220);
      fire('pointermove', 220, true);
      fire('pointerup', 220);
      expect(changes().map(([value]) => value)).toEqual([0.6, 0.51]);
      expect(changes().every(([, live]) => live)).toBe(true);
      expect(wrapper.emitted('settled')).toHaveLength(1);
    });

    it('stays within its limits', () => {
      const { fire, changes } = dragging();
      fire('pointermove', -5000);
      fire('pointerup', -5000);
      expect(changes()).toEqual([[0.001, true]]);
    });

    it('a costly number changes once, when it is let go, and shows the way there', async () => {
      const { wrapper, fire, changes } = dragging({ lazy: true });
      fire('pointermove', 220);
      await wrapper.vm.$nextTick();
      expect((wrapper.get('input').element as HTMLInputElement).value).toBe('0.6');
      expect(changes()).toEqual([]);
      fire('pointerup', 220);
      expect(changes()).toEqual([[0.6, false]]);
    });

    it.each([false, true])('goes back to what it was when the drag is given up; lazy: %s', async (lazy) => {
      const { wrapper, fire, changes } = dragging({ lazy });
      fire('pointermove', 220);
      window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
      fire('pointerup', 240);
      expect(changes().at(-1)?.[0]).toBe(lazy ? undefined : 0.5);
      await wrapper.vm.$nextTick();
      expect((wrapper.get('input').element as HTMLInputElement).value).toBe('0.5');
      expect(wrapper.emitted('settled')).toHaveLength(1);
    });
  });

  it('goes to the default on a double click of the label', async () => {
    const { wrapper } = field();
    await wrapper.get('.label').trigger('dblclick');
    expect(wrapper.emitted('change')).toEqual([[1, false]]);
  });
});
