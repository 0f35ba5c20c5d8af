// @vitest-environment happy-dom
import { createCloth, createShot, readLumbraFile, writeProductionFile, writeShotFile, type Mesh } from '@lumbra/core';
import { NIGHT_FERRY } from '@lumbra/demo';
import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { takeShot } from '../storage/shotLock';
import { askTabs } from '../session/tabs';
import { database, type ProductionRow } from '../storage/database';
import { ensureDemo, restoreDemo, shippedPicture, type DemoFiles } from '../storage/demo';
import { addProduction, deleteProduction, listProductions } from '../storage/productions';
import { addShot, deleteShot, eraseShot, listShots, openShot } from '../storage/shots';
import { download } from './download';
import { useProductionActs } from './useProductionActs';

const writer = vi.hoisted(() => ({ shotFile: vi.fn(), productionFile: vi.fn(), readShots: vi.fn() }));
vi.mock('../workers/hosts', async () => (await import('../testing/nearHosts')).nearHosts({ files: writer }));
vi.mock('../session/tabs', async (original) => ({ ...(await original<object>()), askTabs: vi.fn() }));
vi.mock('./download', () => ({ download: vi.fn() }));

const mesh: Mesh = { positions: new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]), triangles: new Uint32Array([0, 1, 2]) };
const shot = (name: string) =>
  createShot({
    ...{ id: name.toLowerCase(), code: name.toUpperCase(), name },
    things: [createCloth({ id: 'c', name: 'Cloth', shape: { kind: 'mesh', asset: 'm' } })],
  });
const assets = new Map([['m', mesh]]);

let production: ProductionRow;
const names = async (of = production.id) => (await listShots(of)).map((row) => row.shot.name);
const row = async (name: string) => (await listShots(production.id)).find((one) => one.shot.name === name)!;
const file = (name: string, bytes: Uint8Array) => new File([bytes as BlobPart], name);

const demoShots = new Map(NIGHT_FERRY.shots.map((build) => build()).map((made) => [made.code!, made]));
const demoFiles: DemoFiles = {
  codes: [...demoShots.keys()],
  read: (code) => Promise.resolve({ shot: demoShots.get(code)!, assets: new Map() }),
};

describe('acts at home', () => {
  beforeEach(async () => {
    vi.clearAllMocks();
    writer.readShots.mockImplementation(async (from: File) => readLumbraFile(new Uint8Array(await from.arrayBuffer())));
    setActivePinia(createPinia());
    await Promise.all(database.tables.map((table) => table.clear()));
    production = await addProduction('Ferry');
    for (const name of ['Deck', 'Mast']) await addShot(production.id, shot(name), assets);
  });

  it('are undone one by one, the last first', async () => {
    const acts = useProductionActs();
    await acts.newShot(production.id, 2);
    await acts.nameShot(await row('Deck'), 'Fore deck', 'D1');
    await acts.removeShot(await row('Mast'));
    await acts.duplicateShot(await row('Fore deck'));
    expect(await names()).toEqual(['Fore deck', 'Shot 3', 'Fore deck, copy']);
    expect(acts.last!.label).toBe('Duplicate Fore deck');
    await acts.undo();
    await acts.undo();
    expect(await names()).toEqual(['Fore deck', 'Mast', 'Shot 3']);
    await acts.undo();
    expect((await row('Deck')).shot.code).toBe('DECK');
    await acts.undo();
    expect(await names()).toEqual(['Deck', 'Mast']);
    expect(acts.last).toBeNull();
    await acts.undo();
    expect(await names()).toEqual(['Deck', 'Mast']);
  });

  it('on productions are undone as well, with all their shots', async () => {
    const acts = useProductionActs();
    const copy = (await acts.duplicateProduction(production))!;
    expect(await names(copy.id)).toEqual(['Deck', 'Mast']);
    await acts.nameProduction(copy, 'Second unit');
    await acts.removeProduction(copy);
    expect((await listProductions()).map(({ name }) => name)).toEqual(['Ferry']);
    await acts.undo();
    expect(await names(copy.id)).toEqual(['Deck', 'Mast']);
    await acts.undo();
    await acts.undo();
    expect(await database.shots.where('production').equals(copy.id).count()).toBe(0);
    const made = (await acts.newProduction())!;
    expect(made.name).toBe('New production');
    await acts.undo();
    expect(await listProductions()).toHaveLength(1);
  });

  it('bring back what was deleted before, and take that back too', async () => {
    const acts = useProductionActs();
    await deleteShot('deck');
    await acts.bringBack((await database.shots.get('deck'))!);
    expect(await names()).toEqual(['Deck', 'Mast']);
    await acts.undo();
    expect(await names()).toEqual(['Mast']);
    await deleteProduction(production.id);
    await acts.bringBack((await database.productions.get(production.id))!);
    expect(await listProductions()).toHaveLength(1);
  });

  it('copy a shot with its meshes and its picture, but not its id', async () => {
    const acts = useProductionActs();
    await database.shots.update('deck', { picture: new Blob(['p']) });
    const id = (await acts.duplicateShot(await row('Deck')))!;
    expect(id).not.toBe('deck');
    expect((await openShot(id))!.assets.get('m')).toEqual(mesh);
    expect((await database.shots.get(id))!.picture).toBeDefined();
  });

  it('put a new shot at the end, also where others were erased', async () => {
    const acts = useProductionActs();
    await eraseShot('deck');
    for (const count of [1, 2, 3]) await acts.newShot(production.id, count);
    expect(await names()).toEqual(['Mast', 'Shot 2', 'Shot 3', 'Shot 4']);
  });

  it('open a shot file; opened twice, it is there twice and nothing is written over', async () => {
    const acts = useProductionActs();
    const bytes = await writeShotFile(shot('Sail'), assets);
    const into = () => Promise.resolve(production.id);
    expect(await acts.openFile(file('sail.lumbra', bytes), into)).toEqual({ production: production.id, shot: 'sail' });
    await database.shots.update('sail', { shot: { ...shot('Sail'), name: 'Sail, worked on' } });
    await acts.openFile(file('sail.lumbra', bytes), into);
    expect(await names()).toEqual(['Deck', 'Mast', 'Sail, worked on', 'Sail']);
  });

  it('open a file of a whole production as one of its own', async () => {
    const acts = useProductionActs();
    const bytes = await writeProductionFile({ name: 'Harbour', note: 'Night' }, [{ shot: shot('Quay'), assets }]);
    const into = vi.fn();
    const { production: id, shot: one } = (await acts.openFile(file('harbour.lumbra', bytes), into))!;
    expect(one).toBeNull();
    expect(into).not.toHaveBeenCalled();
    expect(await database.productions.get(id)).toMatchObject({ name: 'Harbour', note: 'Night' });
    expect(await names(id)).toEqual(['Quay']);
  });

  it('open a production whole or not at all', async () => {
    const acts = useProductionActs();
    const both = ['Quay', 'Pier'].map((name) => ({ shot: shot(name), assets }));
    const bytes = await writeProductionFile({ name: 'Harbour', note: '' }, both);
    const add = vi.spyOn(database.assets, 'bulkPut').mockRejectedValue(new DOMException('full', 'QuotaExceededError'));
    const before = await database.shots.count();
    expect(await acts.openFile(file('harbour.lumbra', bytes), vi.fn())).toBeNull();
    expect(await database.shots.count()).toBe(before);
    expect((await listProductions()).map(({ name }) => name)).toEqual(['Ferry']);
    add.mockRestore();
  });

  it('name and delete no shot that a tab has open without that tab', async () => {
    const acts = useProductionActs();
    vi.mocked(takeShot).mockResolvedValue(null);
    vi.mocked(askTabs).mockResolvedValueOnce({ kind: 'named', shot: 'deck', to: '' }).mockResolvedValue(null);
    await acts.nameShot(await row('Deck'), 'Fore deck', '');
    expect(askTabs).toHaveBeenCalledWith(expect.objectContaining({ kind: 'name', name: 'Fore deck' }), ['named']);
    expect(await names()).toEqual(['Deck', 'Mast']);
    expect(await acts.nameShot(await row('Deck'), 'Aft deck', '')).toBeNull();
    expect(await acts.removeShot(await row('Deck'))).toBeNull();
    expect(await names()).toEqual(['Deck', 'Mast']);
    expect(ElMessage).toHaveBeenLastCalledWith(
      expect.objectContaining({ message: expect.stringContaining('open in another tab') as string }),
    );
    vi.mocked(takeShot).mockResolvedValue({ lost: new Promise(() => undefined), release: () => undefined });
  });

  it('refuse a file that cannot be read, say why, and change nothing', async () => {
    const acts = useProductionActs();
    expect(await acts.openFile(file('broken.lumbra', new Uint8Array([1, 2, 3])), vi.fn())).toBeNull();
    expect(await names()).toEqual(['Deck', 'Mast']);
    expect(ElMessage).toHaveBeenCalledWith(
      expect.objectContaining({ message: expect.stringMatching(/^broken\.lumbra was not opened; nothing/) as string }),
    );
  });

  it('say so when the browser refuses, and then there is nothing to undo', async () => {
    const acts = useProductionActs();
    const put = vi.spyOn(database.productions, 'put').mockRejectedValue(new DOMException('full', 'QuotaExceededError'));
    expect(await acts.newProduction()).toBeNull();
    expect(acts.last).toBeNull();
    expect(ElMessage).toHaveBeenCalledWith(expect.objectContaining({ type: 'error' }));
    put.mockRestore();
  });

  it('save shots and productions with their meshes, or say why not', async () => {
    const acts = useProductionActs();
    writer.shotFile.mockResolvedValue(new Uint8Array([1]));
    writer.productionFile.mockRejectedValue(new Error('Too large.'));
    await acts.saveShotFile(await row('Deck'));
    expect(writer.shotFile).toHaveBeenCalledWith(expect.objectContaining({ name: 'Deck' }), assets);
    expect(download).toHaveBeenCalledExactlyOnceWith('DECK.lumbra', expect.anything(), 'application/zip');
    await acts.saveProductionFile(production);
    expect(ElMessage).toHaveBeenCalledWith(
      expect.objectContaining({ message: 'The file was not written. Too large.' }),
    );
    expect(download).toHaveBeenCalledOnce();
  });
});

describe('the demo production', () => {
  beforeEach(() => Promise.all(database.tables.map((table) => table.clear())));

  it('is there at first, with pictures for all its shots, and only once', async () => {
    await ensureDemo(demoFiles);
    const shots = await listShots('night-ferry');
    expect(shots.length).toBeGreaterThanOrEqual(5);
    for (const { id } of shots) expect(shippedPicture(id)).toMatch(/^\/demo\/NF\d+\.png$/);
    expect(shippedPicture('another')).toBeNull();
    await database.productions.update('night-ferry', { deleted: Date.now() });
    await ensureDemo(demoFiles);
    expect(await listProductions()).toEqual([]);
  });

  it('comes without a shot that cannot be read, which is said and brought back later', async () => {
    const read = (code: string) =>
      code === 'NF090' ? Promise.reject(new Error('The file is not served.')) : demoFiles.read(code);
    expect(await restoreDemo({ ...demoFiles, read })).toEqual(['NF090']);
    const codes = async () => (await listShots('night-ferry')).map(({ shot }) => shot.code);
    expect(await codes()).toContain('NF020');
    expect(await codes()).not.toContain('NF090');
    expect(await restoreDemo(demoFiles)).toEqual([]);
    expect(await codes()).toContain('NF090');
  });

  it('is not there where none of it can be read, and comes with the next time', async () => {
    const read = () => Promise.reject(new Error('Nothing is served.'));
    await ensureDemo({ ...demoFiles, read });
    expect(await listProductions()).toEqual([]);
    await ensureDemo(demoFiles);
    expect(await listShots('night-ferry')).toHaveLength(demoFiles.codes.length);
  });

  it('is brought back without touching shots that were worked on', async () => {
    await ensureDemo(demoFiles);
    const [first, second] = await listShots('night-ferry');
    await database.shots.update(first!.id, { shot: { ...first!.shot, name: 'Mine' } });
    await deleteShot(second!.id);
    await restoreDemo(demoFiles);
    const now = await listShots('night-ferry');
    expect(now.map(({ id }) => id)).toContain(second!.id);
    expect(now.find(({ id }) => id === first!.id)!.shot.name).toBe('Mine');
  });
});
