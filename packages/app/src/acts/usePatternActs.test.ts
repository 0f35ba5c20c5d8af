// @vitest-environment happy-dom
import {
  createCloth,
  createCollider,
  createPinSet,
  cutPieces,
  shapeMesh,
  suitablePleats,
  type Cloth,
  type Pattern,
} from '@lumbra/core';
import { readSvg } from '@lumbra/core/import';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { usePatternStore, type CutCloth } from '../stores/pattern';
import { useUndoStore } from '../stores/undo';
import { nextTick } from 'vue';
import { openBench } from '../testing/openBench';
import { usePatternActs } from './usePatternActs';

const worker = vi.hoisted(() => ({ cutPieces: vi.fn(), readSvg: vi.fn() }));
vi.mock('../workers/hosts', async () => (await import('../testing/nearHosts')).nearHosts({ mesh: worker }));

const told = () => JSON.stringify(vi.mocked(ElMessage).mock.calls);
const sheet = () =>
  createCloth({
    ...{ name: 'Cover', shape: { kind: 'sheet', width: 0.4, height: 0.3, spacing: 0.05 } },
    pinSets: [createPinSet({ name: 'Corner', points: [0] })],
  });
const file = (text: string, name = 'bag.svg') => new File([text], name);
const DRAWING =
  '<svg width="100cm" height="50cm" viewBox="0 0 100 50"><rect id="Front" x="5" y="5" width="40" height="40"/>' +
  '<rect id="Back" x="55" y="5" width="40" height="40"/><text>bag</text></svg>';

async function open(things = [sheet()] as Parameters<typeof openBench>[0]) {
  const bench = await openBench(things);
  const [pattern, undo] = [usePatternStore(), useUndoStore()];
  const cut = () => pattern.cloth!;
  return { ...bench, pattern, undo, cut, acts: usePatternActs() };
}

beforeEach(() => {
  vi.clearAllMocks();
  worker.cutPieces.mockImplementation((pattern: Pattern, ids: string[]) => cutPieces(pattern, ids));
  worker.readSvg.mockImplementation(readSvg);
});

describe('a sheet', () => {
  it('becomes a pattern of one piece; what holds it stays where it is, and undo brings the sheet back', async () => {
    const { acts, thing, cut, undo } = await open();
    const place = (cloth: Cloth) => {
      const point = cloth.pinSets[0]!.points[0]!;
      return [...shapeMesh(cloth.shape, new Map()).positions.subarray(point * 3, point * 3 + 3)].map((v) =>
        v.toFixed(4),
      );
    };
    const before = place(thing('Cover'));
    await acts.fromSheet(thing('Cover'));
    expect(cut().shape.pieces).toHaveLength(1);
    expect(place(thing('Cover'))).toEqual(before);
    undo.undo();
    expect(thing<Cloth>('Cover').shape.kind).toBe('sheet');
  });
});

describe('pieces', () => {
  it('are added beside each other, copied, mirrored and deleted, each as one undo', async () => {
    const { acts, cut, pattern, undo, document } = await open([]);
    await acts.addPiece('rectangle');
    expect(document.shot!.things.map(({ name }) => name)).toEqual(['Cut cloth']);
    await acts.addPiece('disc');
    const [first, second] = cut().shape.pieces;
    expect(second!.position[0]).toBeCloseTo(first!.position[0] + 0.25 + 0.1 + 0.25, 6);
    expect(pattern.pieceId).toBe(second!.id);
    await acts.copyPiece(cut(), first!, true);
    await acts.copyPiece(cut(), first!, false);
    expect(cut().shape.pieces.map(({ name }) => name)).toEqual(['Piece 1', 'Piece 2', 'Piece 3', 'Piece 4']);
    undo.undo();
    expect(cut().shape.pieces).toHaveLength(3);
    await nextTick();
    // What was selected is gone; another one is.
    expect(pattern.piece).not.toBeNull();
  });

  it('are cut in the worker before the edit, and not again when they are moved or brought back', async () => {
    const { acts, cut, undo } = await open([]);
    await acts.addPiece('disc');
    worker.cutPieces.mockClear();
    await acts.changePiece(cut(), cut().shape.pieces[0]!, 'grain', (own) => (own.grain = 0.3));
    expect(worker.cutPieces).toHaveBeenCalledTimes(1);
    acts.placePiece(cut(), cut().shape.pieces[0]!, 'place', { position: [0, 1, 0] });
    undo.undo();
    undo.undo();
    await acts.changePiece(cut(), cut().shape.pieces[0]!, 'grain', (own) => (own.grain = 0.3));
    expect(worker.cutPieces).toHaveBeenCalledTimes(1);
  });

  it('that cannot be cut are refused with a sentence, and nothing is changed', async () => {
    const { acts, cut, document } = await open([]);
    await acts.addPiece('rectangle');
    const [before, edits] = [cut().shape, document.done.length];
    const crossed = await acts.changePiece(cut(), cut().shape.pieces[0]!, 'node', (own) => {
      own.outline[0]!.at = [0, 0.6];
    });
    expect(crossed).toBe(false);
    expect(cut().shape).toBe(before);
    expect(document.done).toHaveLength(edits);
    expect(told()).toContain('the outline crosses itself');
  });

  it('are changed one after the other: what is only possible after the change before it is not refused', async () => {
    const { acts, cut, thing } = await open();
    await acts.fromSheet(thing('Cover'));
    const [cloth, piece] = [cut(), cut().shape.pieces[0]!];
    // Deeper than as many pleats as suit it can be.
    const made = await Promise.all([
      acts.changePiece(
        cloth,
        piece,
        'pleats',
        (own) => (own.pleats = suitablePleats(own, own.outline[0]!.id, 'knife')),
      ),
      acts.changePiece(cloth, piece, 'count', (own) => (own.pleats!.count = 2)),
      acts.changePiece(cloth, piece, 'depth', (own) => (own.pleats!.depth = 0.06)),
    ]);
    expect(made).toEqual([true, true, true]);
    expect(cut().shape.pieces[0]!.pleats).toMatchObject({ count: 2, depth: 0.06 });
  });

  it('that the worker cannot cut are refused too', async () => {
    const { acts, document } = await open([]);
    await acts.addPiece('rectangle');
    const edits = document.done.length;
    worker.cutPieces.mockRejectedValue(new Error('It stopped.'));
    const { cloth } = usePatternStore();
    expect(await acts.changePiece(cloth!, cloth!.shape.pieces[0]!, 'grain', (own) => (own.grain = 1))).toBe(false);
    expect(document.done).toHaveLength(edits);
  });
});

describe('a drawing', () => {
  it('becomes a cloth whose pieces stand as they are drawn, and says what it left out', async () => {
    const { acts, cut } = await open([]);
    await acts.readDrawing(file(DRAWING));
    expect(cut().shape.pieces.map(({ name }) => name)).toEqual(['Front', 'Back']);
    const [front, back] = cut().shape.pieces;
    expect(back!.position[0] - front!.position[0]).toBeCloseTo(0.5, 6);
    expect(told()).toContain('Left out: <text>');
  });

  it('is added to the selected pattern, beside its pieces', async () => {
    const { acts, cut } = await open([]);
    await acts.addPiece('rectangle');
    await acts.readDrawing(file(DRAWING));
    const [own, front] = cut().shape.pieces;
    expect(front!.position[0] - 0.2).toBeGreaterThan(own!.position[0] + 0.25);
  });

  it('that cannot be used says why, and nothing is changed', async () => {
    const { acts, document } = await open([]);
    await acts.readDrawing(file('<svg><text>only</text></svg>'));
    expect(document.shot!.things).toEqual([]);
    expect(told()).toContain('bag.svg was not brought in; nothing was changed. It has no closed outline');
  });
});

describe('seams', () => {
  async function sewn() {
    const bench = await open([
      createCollider({
        id: 'rail',
        name: 'Rail',
        shape: { kind: 'box', width: 2, height: 0.02, depth: 0.02 },
        position: [0, 1, 0],
      }),
    ]);
    await bench.acts.readDrawing(file(DRAWING));
    const cloth = bench.cut();
    bench.acts.placePiece(cloth, cloth.shape.pieces[1]!, 'place', {
      position: [-0.25, 0, -0.1],
      rotation: [0, Math.PI, 0],
    });
    return bench;
  }

  it('are made of two chosen sides, as they lie', async () => {
    const { acts, cut, pattern } = await sewn();
    const [front, back] = cut().shape.pieces;
    const sideAt = (piece: typeof front, right: boolean) => {
      const nodes = piece!.outline;
      const i = nodes.findIndex(({ at }, n) => {
        const next = nodes[(n + 1) % 4]!.at;
        return at[0] === next[0] && at[0] > 0 === right;
      });
      return { piece: piece!.id, from: nodes[i]!.id };
    };
    pattern.selectSide(sideAt(front, true), false);
    await acts.sewSelected(cut());
    expect(cut().shape.seams).toEqual([]);
    // Turned about, the left side of the back lies behind the right side of the front.
    pattern.selectSide(sideAt(back, false), true);
    expect(pattern.stretches).toHaveLength(2);
    await acts.sewSelected(cut());
    expect(cut().shape.seams).toMatchObject([{ turned: false }]);
    expect(pattern.sides).toEqual([]);
    expect(pattern.seamId).toBe(cut().shape.seams[0]!.id);
  });

  it('are offered and made at once, to things too, as one undo', async () => {
    const { acts, cut, pattern, undo, document } = await sewn();
    pattern.reach = 0.12;
    expect(pattern.offered).toEqual([]);
    pattern.offering = true;
    expect(pattern.offered).toHaveLength(4);
    expect(pattern.offeredTies).toEqual([]);
    pattern.reach = 0.02;
    // The upper border of the front, brought to the rail.
    const top = document.shot!.things.find(({ name }) => name === 'Cut cloth')!.position[1] + 0.2;
    acts.placePiece(cut(), cut().shape.pieces[0]!, 'place', { position: [-0.25, 1 - top, 0] });
    expect(pattern.offered).toEqual([]);
    expect(pattern.offeredTies).toEqual([]);
    pattern.toThings = true;
    expect(pattern.offeredTies).toMatchObject([{ to: 'rail' }]);
    await acts.sewOffered(cut());
    expect((cut() as CutCloth).ties).toMatchObject([
      { name: 'Seam to Rail', to: 'rail', keepsDistance: false, drawnIn: 24 },
    ]);
    expect(cut().ties[0]!.points.length).toBeGreaterThan(3);
    expect(pattern.offering).toBe(false);
    pattern.offering = true;
    expect(pattern.offeredTies).toEqual([]);
    undo.undo();
    expect(cut().ties).toEqual([]);
  });
});
