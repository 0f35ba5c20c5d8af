// @vitest-environment happy-dom
import { createScenery, type Cloth, type Collider, type Mesh } from '@lumbra/core';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openBench } from '../testing/openBench';
import { useImportStore, type ImportChoices } from './importing';

const worker = vi.hoisted(() => ({ read: vi.fn(), take: vi.fn() }));
vi.mock('../workers/hosts', async () => (await import('../testing/nearHosts')).nearHosts({ mesh: worker }));

const mesh: Mesh = { positions: new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]), triangles: new Uint32Array([0, 1, 2]) };
const CHOICES: ImportChoices = {
  unit: 'cm',
  up: 'y',
  role: 'collider',
  place: 'file',
  together: false,
  repairs: [],
  clip: null,
};
const part = (name: string, made: Mesh = { ...mesh }) => ({ name, mesh: made, hash: name, center: [1, 2, 3] });
const summary = (...parts: string[]) => ({ format: 'obj', parts: parts.map((name) => ({ name })) });
const file = (name: string, size = 3) => Object.defineProperty(new File(['abc'], name), 'size', { value: size });

async function open() {
  const bench = await openBench([createScenery({ id: 'd', name: 'Deck' })]);
  return { ...bench, importing: useImportStore() };
}

describe('bringing meshes in', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    worker.read.mockImplementation((one: File) => Promise.resolve(summary(one.name)));
    worker.take.mockImplementation(() => Promise.resolve([part('Deck'), part('Mast')]));
  });

  it('shows what a file holds, and takes it as one undo, each thing under a name of its own', async () => {
    const { importing, document, selection, shot } = await open();
    importing.begin([file('ferry.obj')]);
    expect(importing.busy).toBe('reading');
    await vi.waitFor(() => expect(importing.summary).not.toBeNull());
    expect(shot().things).toHaveLength(1);
    await importing.take(CHOICES);
    expect(worker.take).toHaveBeenCalledWith({ unit: 0.01, up: 'y', repairs: [] }, null);
    expect(shot().things.map(({ name }) => name)).toEqual(['Deck', 'Deck 2', 'Mast']);
    const [, deck, mast] = shot().things as Collider[];
    expect(deck!.position).toEqual([1, 2, 3]);
    expect(selection.thingId).toBe(deck!.id);
    expect(deck!.shape).not.toEqual(mast!.shape);
    expect(document.undoLabel).toBe('Import 2 things');
    document.undo();
    expect(shot().things).toHaveLength(1);
  });

  it.each(['cloth', 'scenery', 'collider'] as const)('makes %s of it', async (role) => {
    const { importing, shot } = await open();
    worker.take.mockResolvedValue([part('Sail')]);
    importing.begin([file('sail.glb')]);
    await vi.waitFor(() => expect(importing.summary).not.toBeNull());
    await importing.take({ ...CHOICES, role });
    expect(shot().things[1]!.role).toBe(role);
  });

  it('plays the chosen clip from the first frame, where a mesh has it', async () => {
    const { importing, shot } = await open();
    const clips = [{ name: 'Swell', rate: 24, samples: 2 }];
    worker.take.mockResolvedValue([part('Sail', { ...mesh, motion: { clips } } as unknown as Mesh), part('Mast')]);
    importing.begin([file('sail.glb')]);
    await vi.waitFor(() => expect(importing.summary).not.toBeNull());
    await importing.take({ ...CHOICES, role: 'cloth', clip: 'Swell' });
    const [, sail, mast] = shot().things as Cloth[];
    expect(sail!.motion).toEqual({ clip: 'Swell', start: 1, repeat: false });
    expect(mast!.motion).toBeNull();
  });

  it('goes through several files one after the other, those beside a mesh with it', async () => {
    const { importing } = await open();
    const [one, two, beside] = [file('one.gltf'), file('two.obj'), file('one.bin')];
    importing.begin([one, beside, two]);
    await vi.waitFor(() => expect(importing.summary).not.toBeNull());
    expect(worker.read).toHaveBeenLastCalledWith(one, [beside], 24);
    await importing.take(CHOICES);
    await vi.waitFor(() => expect(worker.read).toHaveBeenLastCalledWith(two, [beside], 24));
    await vi.waitFor(() => expect(importing.summary).not.toBeNull());
    importing.cancel();
    expect(importing.file).toBeNull();
    expect(importing.busy).toBeNull();
  });

  it('refuses what cannot be read, says why, changes nothing, and goes on with the next', async () => {
    const { importing, shot } = await open();
    worker.read.mockRejectedValueOnce(new Error('The file is empty.'));
    importing.begin([file('empty.obj'), file('good.obj')]);
    await vi.waitFor(() => expect(importing.summary).not.toBeNull());
    expect(importing.file!.name).toBe('good.obj');
    expect(shot().things).toHaveLength(1);
    expect(ElMessage).toHaveBeenCalledWith(
      expect.objectContaining({
        message: 'empty.obj was not imported; nothing was changed. The file is empty.',
        type: 'error',
      }),
    );
  });

  it('refuses a file that is too large before it is read', async () => {
    const { importing } = await open();
    importing.begin([file('huge.obj', 600 * 1024 * 1024)]);
    await vi.waitFor(() => expect(ElMessage).toHaveBeenCalled());
    expect(worker.read).not.toHaveBeenCalled();
    expect(vi.mocked(ElMessage).mock.lastCall![0]).toMatchObject({
      message: expect.stringContaining('up to 512 MB') as string,
    });
  });

  it('forgets a reading that was stopped, whenever it ends', async () => {
    const { importing } = await open();
    let end: (read: object) => void = () => undefined;
    worker.read.mockImplementationOnce(() => new Promise((resolve) => (end = resolve)));
    importing.begin([file('slow.obj')]);
    importing.cancel();
    importing.begin([file('quick.obj')]);
    await vi.waitFor(() => expect(importing.summary).not.toBeNull());
    end(summary('slow.obj'));
    await Promise.resolve();
    expect(importing.summary).toEqual(summary('quick.obj'));
  });

  it('brings nothing in where another tab edits the shot', async () => {
    const { importing, document } = await open();
    document.readOnly = true;
    importing.begin([file('ferry.obj')]);
    expect(importing.file).toBeNull();
    expect(worker.read).not.toHaveBeenCalled();
  });
});
