import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { difference } from '../difference';
import { undo, type Edit } from '../edit';
import { readShot, ShotError } from '../readShot';
import { SHOT_VERSION, type Shot } from '../schema';
import { inputsFromVersion1 } from './fromVersion1';
import { UPGRADES, type RawDocument, type Upgrade } from './index';
import { upgradeDocument } from './upgradeDocument';
import { upgradeHistory } from './upgradeHistory';

/** A shot as version 1 wrote it, with everything that it could hold. It stays as it is, whatever comes after. */
const VERSION_1 = JSON.parse(readFileSync(new URL('./testing/version1.json', import.meta.url), 'utf8')) as RawDocument;

/** Made-up upgrades: version 0 called the name “title”, and version −1 had no things. */
const upgrades: Record<number, Upgrade> = {
  [-1]: (document) => ({ ...document, things: [] }),
  0: ({ title, ...document }) => ({ ...document, name: title }),
};
const options = { upgrades, to: 1 };

describe('files of older versions', () => {
  it('there is an upgrade for every version before this one', () => {
    for (let version = 1; version < SHOT_VERSION; version++) expect(UPGRADES[version]).toBeTypeOf('function');
    expect(Object.keys(UPGRADES)).toHaveLength(SHOT_VERSION - 1);
  });

  it('of version 1 are read with all that they hold', () => {
    const shot = readShot(VERSION_1);
    expect(shot.version).toBe(SHOT_VERSION);
    expect(shot.things.map(({ name }) => name)).toEqual(['Cover', 'Crate', 'Hook', 'Jetty', 'Wind']);
    const cloth = shot.things[0]!;
    if (cloth.role !== 'cloth') throw new Error('The cover is cloth.');
    expect([cloth.pinSets.length, cloth.ties.length, cloth.leashes.length, cloth.masks.length]).toEqual([1, 1, 1, 2]);
    expect(cloth.keys[0]!.knots).toHaveLength(2);
    expect(shot.things.map(({ role }) => role)).toEqual(['cloth', 'collider', 'mount', 'scenery', 'air']);
    expect(shot.things[1]).toMatchObject({ contactShape: 'box' });
    // But for what has another name now, and the wind, which is a thing now, every entry is as it was.
    const old = JSON.stringify(VERSION_1).replaceAll('"standIn"', '"contactShape"').replaceAll('"peg"', '"mount"');
    const { gravity, ...whole } = JSON.parse(old) as Record<string, object>;
    const rest = Object.fromEntries(Object.entries(whole).filter(([name]) => name !== 'wind' && name !== 'keys'));
    const { gravity: now, keys, things, ...shown } = shot;
    expect({ ...shown, things: things.slice(0, -1) }).toMatchObject({ ...rest, version: SHOT_VERSION });
    expect(now).toMatchObject(gravity!);
    expect(keys).toEqual([]);
  });

  it('of version 1 that name an entry of version 2 as well are refused with its place, unless both say the same', () => {
    const collider = (entries: object) => ({
      ...{ format: 'lumbra.shot', version: 1, id: 's', name: 'S' },
      things: [{ id: 'crate', name: 'Crate', role: 'collider', shape: { kind: 'box' }, ...entries }],
    });
    const read = (entries: object) => readShot(collider(entries)).things[0];
    expect(read({ standIn: 'box', contactShape: 'box' })).toMatchObject({ contactShape: 'box' });
    for (const both of [
      { standIn: 'box', contactShape: 'ball' },
      { contactShape: 'ball', standIn: 'box' },
    ]) {
      expect(() => read(both)).toThrow(/things\[0\] names both “standIn”.*“contactShape”.*take one of them out/);
    }
    expect(() => readShot({ ...collider({ standIn: 'box' }), version: 2 })).toThrow(/things\[0\].*“standIn”/);
    expect(() => readShot({ ...collider({ role: 'peg' }), version: 2 })).toThrow(ShotError);
  });

  it('of version 2 have their wind as a thing, turned to where it blew, with its keys', () => {
    const of = (wind: object | undefined, keys: object[] = []) =>
      readShot({ ...{ format: 'lumbra.shot', version: 2, id: 's', name: 'S' }, ...(wind && { wind }), keys });
    const knots = (value: number) => [{ frame: 1, value, ease: 'smooth' as const }];
    const gravity = { number: 'gravity.strength', knots: knots(5) };
    const rise = { number: 'wind.rise', knots: knots(0.5) };
    const speed = { number: 'wind.speed', knots: knots(7) };
    const shot = of({ enabled: true, speed: 4, heading: 0.5, rise: 0.25, gustDepth: 0.3 }, [gravity, rise, speed]);
    expect(shot.keys).toEqual([gravity]);
    expect(shot.things).toHaveLength(1);
    expect(shot.things[0]).toMatchObject({
      ...{ role: 'air', enabled: true, rotation: [-0.25, 0.5, 0], air: { kind: 'wind', speed: 4, gustDepth: 0.3 } },
      keys: [
        { number: 'rotation.x', knots: knots(-0.5) },
        { number: 'air.speed', knots: knots(7) },
      ],
    });
    // A wind that was never touched is none; one that is switched off keeps its numbers.
    expect(of(undefined).things).toEqual([]);
    expect(of({ enabled: false }).things).toEqual([]);
    expect(of({ enabled: false, speed: 9 }).things[0]).toMatchObject({ enabled: false, air: { speed: 9 } });
  });

  it('bring along what a bake of theirs depended on', () => {
    const inputs = { 'crate.standIn': 'box', 'crate.friction': 0.4, frameRate: 24 };
    expect(inputsFromVersion1(inputs)).toEqual({ 'crate.contactShape': 'box', 'crate.friction': 0.4, frameRate: 24 });
  });

  it('go through one version after the other, and are not changed themselves', () => {
    const old = Object.freeze({ version: -1, title: 'Old' });
    expect(upgradeDocument(old, options)).toEqual({ version: 1, name: 'Old', things: [] });
    expect(upgradeDocument({ version: 7 }, options)).toEqual({ version: 7 });
    const { name, ...rest } = VERSION_1;
    const everything = { upgrades: { ...UPGRADES, ...upgrades }, to: SHOT_VERSION };
    expect(readShot({ ...rest, version: 0, title: name }, everything)).toEqual(readShot(VERSION_1));
  });

  it('that are damaged are refused with a sentence', () => {
    const broken = { upgrades: { 0: () => (undefined as unknown as { a: { b: object } }).a.b as RawDocument }, to: 1 };
    expect(() => readShot({ ...VERSION_1, version: 0 }, broken)).toThrow(ShotError);
    expect(() => readShot({ ...VERSION_1, version: 0 }, broken)).toThrow(/version “0” is damaged/);
  });
});

describe('undo lists of older versions', () => {
  const titled = (title: string) => ({ version: 0, title });
  const edit = (from: string, to: string): Edit => difference(`To ${to}`, titled(from), titled(to));

  it('lead through the same states in the new version', () => {
    const history = { done: [edit('A', 'B'), edit('B', 'C')], undone: [edit('D', 'E'), edit('C', 'D')] };
    const now = upgradeDocument(titled('C'), options);
    const { done, undone } = upgradeHistory(titled('C'), history, options);
    expect(done.map(({ label }) => label)).toEqual(['To B', 'To C']);
    const before = undo(now as unknown as Shot, done[1]!);
    expect(before.name).toBe('B');
    expect(undo(before, done[0]!).name).toBe('A');
    expect(undone.at(-1)!.forward).toEqual([{ op: 'replace', path: ['name'], value: 'D' }]);
  });

  it('end where they cannot be followed, and keep what is nearer to now', () => {
    const lost: Edit = { label: 'Lost', forward: [], backward: [{ op: 'replace', path: ['gone', 'deep'], value: 1 }] };
    const { done } = upgradeHistory(titled('C'), { done: [edit('A', 'B'), lost, edit('B', 'C')], undone: [] }, options);
    expect(done.map(({ label }) => label)).toEqual(['To C']);
  });

  it('of this version are left as they are', () => {
    const history = { done: [edit('A', 'B')], undone: [] };
    expect(upgradeHistory({ version: 1 }, history, options)).toBe(history);
  });
});
