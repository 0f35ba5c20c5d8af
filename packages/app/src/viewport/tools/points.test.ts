// @vitest-environment happy-dom
import { createCloth, readMask, shapeMesh, sidePoints, type Cloth } from '@lumbra/core';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useHoldActs } from '../../acts/useHoldActs';
import type { Tool } from '../../stores/selection';
import { openBench } from '../../testing/openBench';
import type { ViewContext } from '../viewPart';
import type PointOverlay from './PointOverlay.vue';
import { points } from './points';

const SHAPE = { kind: 'sheet', width: 1, height: 1, spacing: 0.1 } as const;
const mesh = shapeMesh(SHAPE, new Map());
const COUNT = mesh.positions.length / 3;
/** The sheet seen from above: so many CSS pixels are a metre, and its middle is here. */
const PIXELS = 200;
const MIDDLE = 150;
const onCanvas = (point: number) =>
  [MIDDLE + mesh.positions[point * 3]! * PIXELS, MIDDLE + mesh.positions[point * 3 + 2]! * PIXELS] as const;

/** What is picked of a sheet that lies flat under the camera, without drawing anything. */
const picking = {
  placeOnCloth: (_: string, x: number, y: number) => {
    const place = [(x - MIDDLE) / PIXELS, 0, (y - MIDDLE) / PIXELS] as const;
    return Math.max(Math.abs(place[0]), Math.abs(place[2])) <= 0.5 ? place : null;
  },
  pointsWhere: (_: string, test: (x: number, y: number) => boolean) =>
    [...Array(COUNT).keys()].filter((point) => test(...onCanvas(point))),
  nearestPoint: (_: string, x: number, y: number, reach: number) => {
    const away = (point: number) => Math.hypot(onCanvas(point)[0] - x, onCanvas(point)[1] - y);
    const best = [...Array(COUNT).keys()].reduce((a, b) => (away(b) < away(a) ? b : a));
    return away(best) <= reach ? best : -1;
  },
  pixelsAt: () => PIXELS,
};

async function open(tool: Tool) {
  const bench = await openBench([createCloth({ id: 'c', name: 'Cloth', shape: SHAPE })]);
  const { selection } = bench;
  selection.station = 'hold';
  selection.select('c');
  selection.tool = tool;
  const shown = new Map([['c', mesh.positions]]);
  const tools = points({
    stage: { picking },
    scene: () => ({ positions: shown, frame: 1 }),
  } as unknown as ViewContext);
  /** What is drawn over the picture. */
  const drawn = () => (tools.overlay as () => { props: InstanceType<typeof PointOverlay>['$props'] })().props;
  const canvas = document.createElement('canvas');
  canvas.setPointerCapture = canvas.releasePointerCapture = () => undefined;
  canvas.hasPointerCapture = () => true;
  canvas.addEventListener('pointerdown', (event) =>
    tools.press(event, ({ clientX, clientY }) => ({ x: clientX, y: clientY })),
  );
  const fire = (type: string, [x, y]: readonly [number, number], more: PointerEventInit = {}) =>
    canvas.dispatchEvent(new PointerEvent(type, { clientX: x, clientY: y, pointerId: 1, ...more }));
  /** Presses at the first place, goes through the others, and lets go at the last. */
  const drag = (places: (readonly [number, number])[], more: PointerEventInit = {}) => {
    fire('pointerdown', places[0]!, more);
    for (const place of places.slice(1)) fire('pointermove', place, more);
    fire('pointerup', places.at(-1)!, more);
  };
  return { ...bench, tools, drawn, fire, drag, acts: useHoldActs(), cloth: () => bench.thing<Cloth>('Cloth') };
}

const all = [...Array(COUNT).keys()];
const inBox = (low: number, high: number) =>
  all.filter((point) => onCanvas(point).every((value) => value >= low && value <= high));

describe('selecting points', () => {
  beforeEach(() => vi.clearAllMocks());

  it('takes what a box covers, besides with shift, and no longer with alt', async () => {
    const { drag, selection, drawn } = await open('box');
    drag([
      [100, 100],
      [155, 155],
    ]);
    expect(selection.points).toEqual(inBox(100, 155));
    drag(
      [
        [145, 145],
        [205, 205],
      ],
      { shiftKey: true },
    );
    expect(selection.points).toEqual([...new Set([...inBox(100, 155), ...inBox(145, 205)])].sort((a, b) => a - b));
    drag(
      [
        [0, 0],
        [300, 300],
      ],
      { altKey: true },
    );
    expect(selection.points).toEqual([]);
    expect(drawn().outline).toEqual([]);
  });

  it('takes what a lasso goes around, also where it is not convex', async () => {
    const { drag, selection } = await open('lasso');
    // A corner of the sheet and its opposite one, and a way between that goes around its middle.
    drag([
      [40, 40],
      [120, 40],
      [120, 120],
      [260, 120],
      [260, 260],
      [40, 260],
    ]);
    const wanted = all.filter((point) => {
      const [x, y] = onCanvas(point);
      return x < 120 || y > 120;
    });
    expect(selection.points).toEqual(wanted);
  });

  it('takes the nearest point to a click, and nothing beside the cloth', async () => {
    const { drag, selection } = await open('point');
    drag([[MIDDLE + 3, MIDDLE - 2]]);
    expect(selection.points).toEqual([60]);
    drag([[MIDDLE + 120, MIDDLE]], { shiftKey: true });
    expect(selection.points).toEqual([60]);
    drag([[...onCanvas(0)]], { shiftKey: true });
    expect(selection.points).toEqual([0, 60]);
  });

  it('takes the stretch of border between two clicks', async () => {
    const { drag, selection } = await open('stretch');
    const side = sidePoints(mesh, 'top');
    const [first, last] = [side[0]!, side.at(-1)!];
    drag([onCanvas(first)]);
    expect(selection.points).toEqual([first]);
    drag([onCanvas(last)]);
    expect(selection.points).toEqual([...side].sort((a, b) => a - b));
  });

  it('gives up with Escape', async () => {
    const { fire, selection, drawn } = await open('box');
    fire('pointerdown', [100, 100]);
    fire('pointermove', [200, 200]);
    expect(drawn().outline).toHaveLength(4);
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    expect(drawn().outline).toEqual([]);
    fire('pointerup', [200, 200]);
    expect(selection.points).toEqual([]);
    expect(selection.tool).toBe('box');
  });
});

describe('painting', () => {
  beforeEach(() => vi.clearAllMocks());

  async function painting() {
    const bench = await open('brush');
    bench.acts.addMask('Painted', new Uint8Array(COUNT));
    bench.document.done = [];
    bench.selection.brush = { ...bench.selection.brush, strength: 1, falloff: 0, radius: 0.12 };
    return { ...bench, values: () => readMask(bench.cloth().masks[0]!) };
  }
  const around = (x: number, z: number, radius: number) =>
    all.filter((i) => Math.hypot(mesh.positions[i * 3]! - x, mesh.positions[i * 3 + 2]! - z) <= radius);

  it('shows the mask as it is drawn and keeps it, as one undo, when it is let go', async () => {
    const { fire, selection, values, document } = await painting();
    fire('pointerdown', [MIDDLE, MIDDLE]);
    expect(selection.maskDraft!.filter((value) => value === 255)).toHaveLength(around(0, 0, 0.12).length);
    fire('pointermove', [MIDDLE + 60, MIDDLE]);
    expect(values().every((value) => value === 0)).toBe(true);
    fire('pointerup', [MIDDLE + 60, MIDDLE]);
    expect(selection.maskDraft).toBeNull();
    for (const point of [...around(0, 0, 0.12), ...around(0.3, 0, 0.12)]) expect(values()[point]).toBe(255);
    expect(document.done.map(({ label }) => label)).toEqual(['Paint mask']);
  });

  it('is as large as the screen says where the brush is sized on it', async () => {
    const { drag, selection, values } = await painting();
    selection.brush = { ...selection.brush, unit: 'px', pixels: 50 };
    drag([[MIDDLE, MIDDLE]]);
    expect(values().filter((value) => value > 0)).toHaveLength(around(0, 0, 50 / PIXELS).length);
  });

  it('beside the cloth does nothing, and goes on where it comes back onto it', async () => {
    const { drag, values } = await painting();
    drag([
      [MIDDLE - 140, MIDDLE],
      [MIDDLE - 130, MIDDLE],
      [MIDDLE - 100, MIDDLE],
    ]);
    const painted = all.filter((point) => values()[point]! > 0);
    expect(painted).toEqual(around(-0.5, 0, 0.12));
  });

  it('needs a painted mask: on a ramp it says what to do', async () => {
    const { acts, drag, selection, document, cloth } = await painting();
    acts.addMask('Ramp', { kind: 'straight', from: [0, 0], to: [1, 0], waves: false, inverted: false, phase: 0 });
    document.done = [];
    drag([[MIDDLE, MIDDLE]]);
    expect(document.done).toEqual([]);
    expect(cloth().masks[1]!.ramp).not.toBeNull();
    expect(ElMessage).toHaveBeenCalledWith(
      expect.objectContaining({ message: expect.stringContaining('Make it a painted mask first') as string }),
    );
    selection.maskId = null;
    drag([[MIDDLE, MIDDLE]]);
    expect(document.done).toEqual([]);
  });

  it('shows where the brush is, and how large, only on the cloth', async () => {
    const { tools, drawn, selection } = await painting();
    tools.hover!({ x: MIDDLE, y: MIDDLE });
    expect(drawn().brush).toEqual({ x: MIDDLE, y: MIDDLE, pixels: 0.12 * PIXELS });
    tools.hover!({ x: 0, y: 0 });
    expect(drawn().brush).toBeNull();
    selection.tool = 'look';
    tools.hover!({ x: MIDDLE, y: MIDDLE });
    expect(drawn().brush).toBeNull();
  });
});

describe('drawing ramps', () => {
  beforeEach(() => vi.clearAllMocks());

  it('makes a mask from where the pointer was pressed to where it was let go', async () => {
    const { drag, fire, acts, cloth, drawn, selection } = await open('straight ramp');
    drag([
      [MIDDLE - 50, MIDDLE],
      [MIDDLE + 10, MIDDLE],
      [MIDDLE + 50, MIDDLE],
    ]);
    const ramp = cloth().masks[0]!.ramp!;
    expect(ramp.from[0]).toBeCloseTo(0.25, 5);
    expect(ramp.to[0]).toBeCloseTo(0.75, 5);
    expect(selection.maskId).toBe(cloth().masks[0]!.id);
    expect(drawn().ramp).toBeNull();
    // The chosen one is drawn anew, with all else that it has.
    acts.setRamp(selection.maskId!, 'Inverted', (found) => (found.inverted = true));
    selection.tool = 'round ramp';
    fire('pointerdown', [MIDDLE, MIDDLE]);
    fire('pointermove', [MIDDLE, MIDDLE + 40]);
    expect(drawn().ramp).toMatchObject({ round: true, inverted: true, reach: 40 });
    fire('pointerup', [MIDDLE, MIDDLE + 40]);
    expect(cloth().masks[0]!.ramp!.inverted).toBe(true);
    expect(cloth().masks).toHaveLength(1);
    expect(cloth().masks[0]!.ramp!.kind).toBe('round');
  });

  it('makes none of a slip of the hand, nor beside the cloth', async () => {
    const { drag, cloth } = await open('straight ramp');
    drag([
      [MIDDLE, MIDDLE],
      [MIDDLE + 1, MIDDLE],
    ]);
    drag([
      [0, 0],
      [MIDDLE, MIDDLE],
    ]);
    expect(cloth().masks).toEqual([]);
    expect(ElMessage).toHaveBeenCalledWith(expect.objectContaining({ message: 'Start the ramp on Cloth.' }));
  });
});
