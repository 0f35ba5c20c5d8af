import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SWATCH_BOOK } from '../fabric/swatchBook';
import { sheet } from '../mesh/shapes/sheet';
import { createCloth, createCollider, createMount, createPinSet, createShot } from './create';
import { edit, redo, undo } from './edit';
import { setKnot } from './editKeys';
import { followShapes } from './followShapes';
import { setParent } from './parent';
import { SHOT_VERSION } from './schema';
import { readShot, ShotError } from './readShot';
import type { Cloth, Shot } from './schema';
import { borderPoints, carryPoints, cornerPoints, grownPoints, shrunkPoints, sidePoints } from './selectPoints';

const shot = (): Shot =>
  createShot({
    name: 'Test',
    things: [
      createCloth({ id: 'cover', name: 'Cover', shape: { kind: 'sheet', width: 1, height: 0.5, spacing: 0.1 } }),
      createCollider({ id: 'box', name: 'Box' }),
    ],
  });

describe('reading a shot', () => {
  it('reads what it wrote, unchanged', () => {
    const written = shot();
    expect(readShot(JSON.parse(JSON.stringify(written)))).toEqual(written);
  });

  it.each([
    ['a newer version', { version: SHOT_VERSION + 1 }, /version \d+; this one reads \d+/],
    ['another format', { format: 'other' }, /its format is “other”/],
    ['an unknown entry', { gravty: 1 }, /unknown entry “gravty”/],
    ['an impossible range', { firstFrame: 10, lastFrame: 4 }, /lastFrame: the last frame comes before the first/],
    ['a rate that is no number', { frameRate: Number.NaN }, /frameRate/],
  ])('refuses %s', (_, change, words) => {
    expect(() => readShot({ ...shot(), ...change })).toThrow(words);
    expect(() => readShot({ ...shot(), ...change })).toThrow(ShotError);
  });

  it('names the path of a bad number inside a thing', () => {
    const bad = structuredClone(shot()) as Shot;
    const cloth = bad.things[0]!;
    if (cloth.role === 'cloth') cloth.fabric.weight = -1;
    expect(() => readShot(bad)).toThrow(/things\[0\]\.fabric\.weight: must be at least 0\.005/);
  });

  it.each([
    ['zero size', { width: 0 }, /things\[0\]\.shape\.width/],
    ['spacing larger than the sheet', { spacing: 0.8 }, /larger than the sheet/],
    [
      'more points than any machine has room for',
      { width: 100, height: 100, spacing: 0.001 },
      /more than 400000 points/,
    ],
  ])('refuses a sheet of %s', (_, change, words) => {
    const bad = structuredClone(shot()) as Shot;
    Object.assign((bad.things[0] as { shape: object }).shape, change);
    expect(() => readShot(bad)).toThrow(words);
  });

  it('refuses two things with one id', () => {
    const bad = structuredClone(shot()) as Shot;
    bad.things[1]!.id = 'cover';
    expect(() => readShot(bad)).toThrow(/“cover” is used twice/);
  });

  it('refuses anything that is not a document', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        expect(() => readShot(value)).toThrow(ShotError);
      }),
    );
  });
});

describe('editing', () => {
  it('undoes and redoes any list of edits', () => {
    const recipes: ((draft: Shot) => void)[] = [
      (draft) => (draft.name = 'Other'),
      (draft) => (draft.gravity.enabled = !draft.gravity.enabled),
      (draft) => draft.things.push(createCollider({ name: 'New' })),
      (draft) => draft.things.splice(0, 1),
      (draft) => (draft.lastFrame += 5),
      (draft) => (draft.things[0]!.position[1] += 0.25),
    ];
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...recipes.keys()), { maxLength: 12 }), (picks) => {
        let now = shot();
        const states = [now];
        const edits = [];
        for (const pick of picks) {
          if (pick >= 3 && now.things.length === 0) continue;
          const result = edit(now, 'Edit', recipes[pick]!);
          now = result.shot;
          states.push(now);
          edits.push(result.edit);
        }
        for (let i = edits.length - 1; i >= 0; i--) {
          now = undo(now, edits[i]!);
          expect(now).toEqual(states[i]);
        }
        edits.forEach((made, i) => {
          now = redo(now, made);
          expect(now).toEqual(states[i + 1]);
        });
      }),
      { numRuns: 40 },
    );
  });

  it('refuses an impossible result and leaves the shot as it was', () => {
    const before = shot();
    expect(() => edit(before, 'Bad', (draft) => (draft.lastFrame = -5))).toThrow(/Nothing was changed: lastFrame/);
    expect(before.lastFrame).toBe(120);
  });

  it('keeps pins at their places of the fabric when the spacing changes, and drops a settled pose', () => {
    const before = edit(shot(), 'Pin', (draft) => {
      const cloth = draft.things[0]!;
      if (cloth.role !== 'cloth') return;
      cloth.pinSets = [createPinSet({ name: 'Corners', points: [0, 10, 55, 65] })];
      cloth.start = 'pose';
    }).shot;
    const after = edit(before, 'Finer', (draft) => {
      const cloth = draft.things[0]!;
      if (cloth.role === 'cloth' && cloth.shape.kind === 'sheet') cloth.shape.spacing = 0.05;
      followShapes(draft, before, new Map());
    }).shot;
    const cloth = after.things[0]!;
    expect(cloth.role === 'cloth' && cloth.pinSets[0]!.points).toEqual([0, 20, 210, 230]);
    expect(cloth.role === 'cloth' && cloth.start).toBeNull();
  });

  it.each<[string, boolean, (draft: Shot) => void]>([
    ['the cloth is moved', false, (draft) => (draft.things[0]!.position[0] += 0.1)],
    ['what carries it is moved', false, (draft) => (draft.things[1]!.position[1] += 0.1)],
    ['what carries it is keyed elsewhere at the start', false, (draft) => setKnot(draft, atStart, 3)],
    ['what carries it is keyed later', true, (draft) => (setKnot(draft, atStart, 0), setKnot(draft, later, 3))],
    ['its carrier lets it go where it is', true, (draft) => setParent(draft, 'c', null)],
    ['its fabric is changed', true, (draft) => ((draft.things[0] as Cloth).fabric.weight = 0.5)],
  ])('when %s, a settled pose is kept: %s', (_, kept, recipe) => {
    const mount = createMount({ id: 'mount', name: 'Mount', position: [0, 1, 2], rotation: [0.2, 0.4, 0.1] });
    const cloth = createCloth({ id: 'c', name: 'Cloth', start: 'pose', parent: 'mount', position: [1, 0, 0] });
    const before = createShot({ name: 'Carried', things: [cloth, mount] });
    const after = edit(before, 'Change', (draft) => {
      recipe(draft);
      followShapes(draft, before, new Map());
    }).shot;
    expect((after.things[0] as Cloth).start).toBe(kept ? 'pose' : null);
  });
});

const atStart = { thing: 'mount', number: 'position.x', frame: 1 };
const later = { ...atStart, frame: 20 };

describe('selecting points', () => {
  const mesh = sheet({ width: 0.5, height: 0.3, spacing: 0.1 });

  it('finds borders, sides and corners', () => {
    expect(borderPoints(mesh)).toHaveLength(2 * 6 + 2 * 4 - 4);
    expect(sidePoints(mesh, 'top')).toEqual([0, 1, 2, 3, 4, 5]);
    expect(sidePoints(mesh, 'end')).toEqual([5, 11, 17, 23]);
    expect(cornerPoints(mesh)).toEqual([0, 5, 18, 23]);
  });

  it('grows and shrinks along edges', () => {
    const inner = [8, 9, 14, 15];
    expect(shrunkPoints(mesh, grownPoints(mesh, inner))).toEqual(expect.arrayContaining(inner));
    expect(grownPoints(mesh, inner).length).toBeGreaterThan(inner.length + 7);
    expect(grownPoints(mesh, [])).toEqual([]);
    expect(shrunkPoints(mesh, inner)).toEqual([]);
  });

  it('comes back when spacing is made finer and coarser again', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 23 }), { maxLength: 24 }),
        fc.integer({ min: 2, max: 4 }),
        (points, times) => {
          const fine = sheet({ width: 0.5, height: 0.3, spacing: 0.1 / times });
          expect(carryPoints(fine, mesh, carryPoints(mesh, fine, points))).toEqual(points);
        },
      ),
    );
  });
});

it('every fabric card makes a valid cloth', () => {
  for (const { id } of SWATCH_BOOK) expect(() => createCloth({ name: id, card: id })).not.toThrow();
});
