// @vitest-environment happy-dom
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import NameField from './NameField.vue';

function field(given: { mayBeEmpty?: boolean } = {}) {
  const wrapper = mount(NameField, {
    props: { modelValue: 'Shot 1', label: 'Shot name', ...given },
    attachTo: document.body,
  });
  const input = wrapper.get('input');
  const type = async (text: string) => {
    input.element.value = text;
    await input.trigger('input');
  };
  return { wrapper, input, type, shown: () => input.element.value, taken: () => wrapper.emitted('change') ?? [] };
}

describe('a name that is typed', () => {
  it('is kept while what is around it changes, and taken with enter', async () => {
    const { wrapper, input, type, shown, taken } = field();
    input.element.focus();
    await type('  Tow rope ');
    await wrapper.setProps({ label: 'Name of the shot' });
    expect(shown()).toBe('  Tow rope ');
    await input.trigger('keydown', { key: 'Enter' });
    expect(taken()).toEqual([['Tow rope']]);
  });

  it('is dropped with escape, and never taken twice', async () => {
    const { input, type, shown, taken } = field();
    input.element.focus();
    await type('Other');
    await input.trigger('keydown', { key: 'Escape' });
    expect(shown()).toBe('Shot 1');
    expect(taken()).toEqual([]);
    await type('Other');
    await input.trigger('blur');
    await input.trigger('change');
    expect(taken()).toEqual([['Other']]);
  });

  it('stays as it was when it is emptied or not changed, unless it may be empty', async () => {
    const { input, type, shown, taken } = field();
    await type('   ');
    await input.trigger('blur');
    expect(shown()).toBe('Shot 1');
    await type('Shot 1 ');
    await input.trigger('blur');
    expect(taken()).toEqual([]);
    const free = field({ mayBeEmpty: true });
    await free.type('');
    await free.input.trigger('blur');
    expect(free.taken()).toEqual([['']]);
  });
});
