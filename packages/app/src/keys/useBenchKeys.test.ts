// @vitest-environment happy-dom
import { createCloth, createCollider, createPinSet, type Cloth } from '@lumbra/core';
import { mount } from '@vue/test-utils';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defineComponent, h } from 'vue';
import { followDrag } from '../pointer/followDrag';
import { openBench } from '../testing/openBench';
import { STATIONS } from '../stations';
import { BINDINGS, SCOPES } from './bindings';
import { useBenchKeys } from './useBenchKeys';

const worker = vi.hoisted(() => ({ stop: vi.fn(), checkpoint: vi.fn(), back: vi.fn(), update: vi.fn() }));
vi.mock('../workers/hosts', async () => (await import('../testing/nearHosts')).nearHosts({ run: worker }));

const view = { centre: vi.fn(), showKeys: vi.fn(), play: vi.fn() };
let mounted: { unmount: () => void } | null = null;

async function open() {
  mounted?.unmount();
  const pins = createPinSet({ id: 'p', name: 'Pins', points: [0, 1] });
  const cloth = createCloth({ id: 'c', name: 'Cloth', pinSets: [pins] });
  const bench = await openBench([cloth, createCollider({ id: 'b', name: 'Box' })], { lastFrame: 20 });
  mounted = mount(
    defineComponent({
      setup() {
        useBenchKeys(view);
        return () => h('div', [h('input', { type: 'text' }), h('button')]);
      },
    }),
    { attachTo: document.body },
  );
  const key = (name: string, more: KeyboardEventInit = {}, target: EventTarget = document.body) => {
    const event = new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true, ...more });
    target.dispatchEvent(event);
    return event;
  };
  return { ...bench, key, pins: () => bench.thing<Cloth>('Cloth').pinSets[0]! };
}

describe('the keys of the bench', () => {
  beforeEach(() => vi.clearAllMocks());

  it('go to stations, and through frames within the shot', async () => {
    const { key, selection, run } = await open();
    STATIONS.forEach(({ id }, i) => {
      key(String(i + 1));
      expect(selection.station).toBe(id);
    });
    key('ArrowLeft');
    expect(run.frame).toBe(1);
    for (let n = 0; n < 30; n++) key('ArrowRight');
    expect(run.frame).toBe(20);
  });

  it('undo and redo', async () => {
    const { key, document: shot, thing } = await open();
    shot.edit('Move', (draft) => (draft.things[1]!.position[0] = 1));
    key('z', { ctrlKey: true });
    expect(thing('Box').position[0]).toBe(0);
    key('Z', { ctrlKey: true, shiftKey: true });
    expect(thing('Box').position[0]).toBe(1);
    key('z', { ctrlKey: true });
    expect(thing('Box').position[0]).toBe(0);
  });

  it('choose a tool, and Escape leaves it before it stops what runs', async () => {
    const { key, selection, run } = await open();
    selection.select('b');
    key('m');
    expect([selection.station, selection.tool]).toEqual(['stage', 'move']);
    key('t');
    expect(selection.tool).toBe('turn');
    key('t');
    expect(selection.tool).toBe('look');
    key('y');
    run.status = 'live';
    key('Escape');
    expect(selection.tool).toBe('look');
    expect(worker.stop).not.toHaveBeenCalled();
    selection.knots = [{ thing: 'b', number: 'position.x', frame: 1 }];
    key('Escape');
    expect(selection.knots).toEqual([]);
    key('Escape');
    expect(worker.stop).toHaveBeenCalledOnce();
  });

  it('delete selected keys first, then things, and things only at the stage', async () => {
    const { key, selection, document: shot, thing } = await open();
    selection.select('b');
    selection.station = 'stage';
    key('k');
    expect(thing('Box').keys.length).toBeGreaterThan(0);
    selection.knots = thing('Box').keys.map(({ number }) => ({ thing: 'b', number, frame: 1 }));
    key('Delete');
    expect(thing('Box').keys).toEqual([]);
    selection.station = 'run';
    key('Delete');
    expect(shot.shot!.things).toHaveLength(2);
    selection.station = 'stage';
    key('Backspace');
    expect(shot.shot!.things).toHaveLength(1);
  });

  it('nudge and gather the chosen pins while cloth runs live, else go through frames', async () => {
    const { key, selection, run, pins } = await open();
    selection.station = 'hold';
    selection.select('c');
    selection.holdId = 'p';
    key('ArrowRight');
    expect(run.frame).toBe(2);
    run.status = 'live';
    key('ArrowRight');
    key('ArrowRight');
    key('ArrowDown');
    expect(pins().move).toEqual([2 * selection.nudge, -selection.nudge, 0]);
    key(',');
    expect(pins().gather[0]).toBeCloseTo(0.95, 9);
    for (let n = 0; n < 200; n++) key(',');
    expect(pins().gather[0]).toBe(0.05);
    key('z', { ctrlKey: true });
    expect(pins()).toMatchObject({ move: [0, 0, 0], gather: [1, 1, 1] });
    expect(run.frame).toBe(2);
  });

  it('set checkpoints and go back in a live run', async () => {
    const { key, run } = await open();
    key('p');
    expect(worker.checkpoint).not.toHaveBeenCalled();
    run.status = 'live';
    key('p');
    key('P', { shiftKey: true });
    expect(worker.checkpoint).toHaveBeenCalledOnce();
    expect(worker.back).toHaveBeenCalledExactlyOnceWith(false);
  });

  it('size the brush, centre, play and show themselves', async () => {
    const { key, selection } = await open();
    const { radius } = selection.brush;
    key(']');
    expect(selection.brush.radius).toBeGreaterThan(radius);
    key('[');
    expect(selection.brush.radius).toBeCloseTo(radius, 9);
    key('c');
    key('?');
    key(' ', { code: 'Space' });
    expect(view.centre).toHaveBeenCalledOnce();
    expect(view.showKeys).toHaveBeenCalledOnce();
    expect(view.play).toHaveBeenCalledOnce();
  });

  it('belong to a field that is typed in, and a button keeps its space', async () => {
    const { key, selection } = await open();
    const [input, button] = ['input', 'button'].map((tag) => document.querySelector(tag)!);
    selection.station = 'air';
    for (const name of ['1', 'm', 'Delete', 'ArrowLeft']) {
      expect(key(name, {}, input).defaultPrevented).toBe(false);
    }
    expect(selection.station).toBe('air');
    expect(key(' ', { code: 'Space' }, button).defaultPrevented).toBe(false);
    expect(view.play).not.toHaveBeenCalled();
    expect(key('x').defaultPrevented).toBe(false);
    expect(key('m', { altKey: true }).defaultPrevented).toBe(false);
  });

  it('are silent while a dialogue is open, something is dragged, or in a list that is chosen from', async () => {
    const { key, selection } = await open();
    selection.station = 'air';
    const dialog = document.createElement('div');
    dialog.setAttribute('role', 'dialog');
    dialog.setAttribute('aria-modal', 'true');
    document.body.append(dialog);
    for (const name of ['1', 'm', 'b', 'Escape']) expect(key(name).defaultPrevented).toBe(false);
    dialog.remove();
    const list = document.createElement('div');
    list.className = 'el-popper';
    list.append(document.createElement('button'));
    document.body.append(list);
    expect(key('1', {}, list.firstElementChild!).defaultPrevented).toBe(false);
    list.remove();
    const canvas = document.createElement('canvas');
    canvas.setPointerCapture = canvas.releasePointerCapture = () => undefined;
    canvas.hasPointerCapture = () => true;
    canvas.addEventListener('pointerdown', (event) => {
      followDrag(event, { move: () => undefined, end: () => undefined, cancel: () => undefined });
    });
    canvas.dispatchEvent(new PointerEvent('pointerdown', { pointerId: 1 }));
    expect(key('1').defaultPrevented).toBe(false);
    canvas.dispatchEvent(new PointerEvent('pointerup', { pointerId: 1 }));
    expect(selection.station).toBe('air');
    key('1');
    expect(selection.station).toBe('stage');
  });

  it('are no two of one scope alike, and each scope has some', () => {
    const taken = BINDINGS.flatMap(({ keys, scope }) => keys.map((name) => `${scope} ${name}`));
    expect(new Set(taken).size).toBe(taken.length);
    expect(new Set(BINDINGS.map(({ scope }) => scope))).toEqual(new Set(Object.keys(SCOPES)));
  });
});
