// @vitest-environment happy-dom
import { createCloth, createCollider, fabricSchema, trackOf, type Cloth } from '@lumbra/core';
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { markRaw, nextTick } from 'vue';
import { useKeyingStore } from '../stores/keying';
import { openBench } from '../testing/openBench';
import KeyedField from './KeyedField.vue';
import KeyQuestion from './KeyQuestion.vue';
import MaskChoice from './MaskChoice.vue';
import SelectBox from './SelectBox.vue';
import TickLine from './TickLine.vue';
import ThingQuantity from './ThingQuantity.vue';

async function open() {
  const bench = await openBench([createCloth({ id: 'c', name: 'Cloth' }), createCollider({ id: 'b', name: 'Box' })], {
    lastFrame: 20,
  });
  const knots = () => trackOf(bench.thing('Box'), 'position.x')!.knots;
  return { ...bench, knots, cloth: () => bench.thing<Cloth>('Cloth') };
}

async function typeIn(wrapper: ReturnType<typeof mount>, text: string): Promise<void> {
  const input = wrapper.get('input');
  await input.setValue(text);
  await input.trigger('keydown', { key: 'Enter' });
}

describe('a number of the shot in a field', () => {
  it('changes it by an undoable edit that says what it was about', async () => {
    const { cloth, document } = await open();
    const wrapper = mount(ThingQuantity, {
      props: {
        schema: markRaw(fabricSchema),
        name: 'weight',
        modelValue: cloth().fabric.weight,
        find: (draft) => (draft.things[0] as Cloth).fabric,
        subject: 'Cloth',
      },
    });
    await typeIn(wrapper, '250');
    expect(cloth().fabric.weight).toBeCloseTo(0.25, 9);
    expect(document.undoLabel).toBe('Cloth, weight');
    await typeIn(wrapper, '-4');
    expect(cloth().fabric.weight).toBeCloseTo(0.25, 9);
    expect(document.done).toHaveLength(1);
  });

  it('joins the steps of the arrow keys into one undo', async () => {
    const { cloth, document } = await open();
    const find = (draft: { things: object[] }) => (draft.things[0] as Cloth).fabric;
    const wrapper = mount(ThingQuantity, {
      props: {
        schema: markRaw(fabricSchema),
        name: 'friction',
        modelValue: cloth().fabric.friction,
        find,
        subject: 'Cloth',
      },
    });
    for (let n = 0; n < 3; n++) {
      await wrapper.get('input').trigger('keydown', { key: 'ArrowUp' });
      await wrapper.setProps({ modelValue: cloth().fabric.friction });
    }
    expect(document.done).toHaveLength(1);
    document.undo();
    expect(cloth().fabric.friction).toBe(createCloth({ name: 'Fresh' }).fabric.friction);
  });
});

describe('a number that can be keyed, in a field', () => {
  const field = () =>
    mount(KeyedField, { props: { thing: 'b', number: 'position.x', subject: 'Box', label: 'Place x' } });

  it('is keyed and unkeyed by its knot', async () => {
    const { knots, run } = await open();
    const wrapper = field();
    await wrapper.get('.key').trigger('click');
    expect(knots().map(({ frame }) => frame)).toEqual([1]);
    run.frame = 10;
    await nextTick();
    expect(wrapper.get('.key').classes()).toContain('elsewhere');
    await wrapper.get('.key').trigger('click');
    expect(knots().map(({ frame }) => frame)).toEqual([1, 10]);
    await wrapper.get('.key').trigger('click');
    expect(knots().map(({ frame }) => frame)).toEqual([1]);
  });

  it('asks under its field what a change away from its keys is to do, and does that', async () => {
    const { knots, run } = await open();
    const wrapper = field();
    await wrapper.get('.key').trigger('click');
    run.frame = 10;
    await nextTick();
    await typeIn(wrapper, '0.5');
    expect(wrapper.findComponent(KeyQuestion).exists()).toBe(true);
    expect((wrapper.get('input').element as HTMLInputElement).value).toBe('0.5');
    expect(knots()).toHaveLength(1);
    useKeyingStore().answer('key');
    await nextTick();
    expect(wrapper.findComponent(KeyQuestion).exists()).toBe(false);
    expect(knots().map(({ value }) => value)).toEqual([0, 0.5]);
  });

  it('is not there for a number that its owner does not have', async () => {
    await open();
    expect(
      mount(KeyedField, { props: { thing: 'c', number: 'nothing.x', subject: 'Cloth' } })
        .find('input')
        .exists(),
    ).toBe(false);
  });
});

describe('the choice of a mask', () => {
  const masks = [
    { id: 'a', name: 'Edge' },
    { id: 'b', name: 'Middle' },
  ];

  it('picks a mask, none, or a new one that fades', () => {
    // Where lists are drawn.
    document.body.innerHTML = '<aside id="overlays"></aside>';
    const wrapper = mount(MaskChoice, { props: { number: 'Strength', masks, modelValue: 'a', fades: true } });
    const select = wrapper.getComponent(SelectBox);
    expect(select.props()).toMatchObject({ modelValue: 'a', label: 'Mask that scales Strength', none: 'no mask' });
    for (const value of ['b', '', 'fade']) select.vm.$emit('pick', value);
    expect(wrapper.emitted('pick')).toEqual([['b'], [null]]);
    expect(wrapper.emitted('fade')).toHaveLength(1);
    // What is not taken over leaves what was.
    expect(select.props('modelValue')).toBe('a');
  });

  it('says where to make one when there is none', () => {
    const wrapper = mount(MaskChoice, { props: { number: 'Strength', masks: [], modelValue: null } });
    expect(wrapper.text()).toContain('Make one at Hold');
    expect(wrapper.findComponent(SelectBox).exists()).toBe(false);
  });
});

describe('a line to tick', () => {
  it('asks for a change, and shows what is, not what was pressed', async () => {
    const wrapper = mount(TickLine, { props: { ticked: false }, slots: { default: 'waves' } });
    const box = wrapper.get('input').element as HTMLInputElement;
    box.checked = true;
    await wrapper.get('input').trigger('change');
    expect(wrapper.emitted('toggle')).toHaveLength(1);
    await nextTick();
    await nextTick();
    expect(box.checked).toBe(false);
    await wrapper.setProps({ ticked: true });
    expect(box.checked).toBe(true);
  });
});
