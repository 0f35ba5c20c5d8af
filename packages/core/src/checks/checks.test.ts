import { applyPatches, enablePatches } from 'immer';
import { describe, expect, it } from 'vitest';
import { fabricSchema } from '../fabric/fabric';
import { ball } from '../mesh/shapes/ball';
import { sheet } from '../mesh/shapes/sheet';
import type { Mesh } from '../mesh/mesh';
import {
  createAir,
  createCloth,
  createCollider,
  createLeash,
  createMount,
  createPinSet,
  createShot,
  createTie,
} from '../shot/create';
import { compile } from '../run/compile';
import { parameterAt, placeAt, sidesOf } from '../mesh/outline/path';
import { cueSchema } from '../shot/cueSchemas';
import { makePiece, newNode, rectangleNodes } from '../pattern/makePiece';
import { suitablePleats } from '../pattern/pleatRow';
import type { Seam } from '../pattern/schema';
import { writeMask } from '../shot/masks';
import { readShot } from '../shot/readShot';
import type { Cloth, Shot, Thing } from '../shot/schema';
import { shapeMesh, type Assets } from '../shot/shapes';
import { checkShot, mendFinding } from '.';

enablePatches();

const windOf = (speed: number) => createAir({ id: 'wind', name: 'Wind', air: { kind: 'wind', speed } });
const SHEET = { kind: 'sheet', width: 0.8, height: 0.8, spacing: 0.04 } as const;
const ground = createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } });
const cover = createCloth({ id: 'cover', name: 'Cover', shape: SHEET, position: [0, 0.5, 0] });
const sound = (more: Thing[] = [], change: Partial<Parameters<typeof createShot>[0]> = {}): Shot =>
  createShot({ name: 'Sound', lastFrame: 24, things: [cover, ground, ...more], ...change });
const warm = (of: object) =>
  cueSchema.parse({ id: 'warm', name: 'Warm', when: { kind: 'frame', frame: 3 }, number: 'shear', to: 20, ...of });
const none = { bake: null, bytesFree: null };

/** A sheet whose faces all have points of their own. */
function apart(mesh: Mesh): Mesh {
  return {
    positions: new Float32Array([...mesh.triangles].flatMap((p) => [...mesh.positions.subarray(p * 3, p * 3 + 3)])),
    triangles: Uint32Array.from(mesh.triangles, (_, i) => i),
  };
}

/** Three faces on one edge, in a strip that is long enough not to be odd. */
const crowded: Mesh = {
  positions: new Float32Array([0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -1, 0, 1, 0]),
  triangles: new Uint32Array([0, 2, 1, 1, 3, 0, 0, 1, 4]),
};
const key = (number: string, values: [number, number][]) => ({
  number,
  knots: values.map(([frame, value]) => ({ frame, value, ease: 'linear' as const })),
});
const silk = fabricSchema.parse({ weight: 0.02 });

interface Case {
  check: string;
  text: RegExp;
  shot: Shot;
  assets?: [string, Mesh][];
}
const held = (given: Partial<Parameters<typeof createCloth>[0]>): Shot =>
  createShot({ name: 'Held', lastFrame: 24, things: [{ ...cover, ...createCloth({ ...cover, ...given }) }, ground] });
const pins = (given: Partial<Parameters<typeof createPinSet>[0]>) =>
  createPinSet({ name: 'Pins', points: [0, 20], ...given });

const side = (piece: string, i: number) => ({ piece, from: `${piece}${i}`, to: `${piece}${(i + 1) % 4}` });
const panel = (id: string, width: number, height: number, more: Partial<Parameters<typeof makePiece>[0]> = {}) =>
  makePiece({
    id,
    name: id,
    outline: rectangleNodes(width, height).map((node, i) => ({ ...node, id: `${id}${i}` })),
    ...more,
  });
/** Two panels side by side, 1 mm apart, over the ground, sewn where seams say so. */
const sewn = (seams: Seam[], right = panel('r', 0.4, 0.5, { position: [0.401, 0, 0] }), more: Thing[] = []): Shot =>
  createShot({
    ...{ name: 'Sewn', lastFrame: 24 },
    things: [
      createCloth({
        ...{ id: 'hood', name: 'Hood', position: [0, 1, 0] },
        shape: { kind: 'pattern', spacing: 0.03, pieces: [panel('l', 0.4, 0.5), right], seams, closing: 24 },
      }),
      ground,
      ...more,
    ],
  });
const seam = (a: Seam['a'], b: Seam['b'], turned = false): Seam => ({ id: 's', a, b, turned });

/** Two panels so many m apart that are sewn, both pinned along their tops, on a mount. */
function pinnedAlongTheTop(gap: number): Shot {
  const shot = sewn([seam(side('l', 1), side('r', 3))], panel('r', 0.4, 0.5, { position: [0.4 + gap, 0, 0] }));
  const hood = shot.things[0] as Cloth;
  const { positions } = shapeMesh(hood.shape, new Map());
  const points = Array.from({ length: positions.length / 3 }, (_, i) => i);
  const top = points.filter((i) => positions[i * 3 + 1]! > 0.249);
  const bar = createMount({ id: 'bar', name: 'Bar' });
  const pinned = { ...hood, pinSets: [createPinSet({ name: 'Top', points: top, rides: 'bar' })] };
  return { ...shot, things: [pinned, bar, ground] };
}

const CASES: Case[] = [
  {
    check: 'seams-turned',
    text: /Seam 1 of Hood crosses itself/,
    shot: sewn([seam(side('l', 1), side('r', 3), true)]),
  },
  {
    check: 'seams-gathered',
    text: /60 % longer than the other: it will be gathered/,
    shot: sewn([seam(side('l', 1), side('r', 3))], panel('r', 0.4, 0.8, { position: [0.401, 0, 0] })),
  },
  {
    check: 'borders-open',
    text: /Two borders of Hood lie within 3 mm of each other and are not sewn/,
    shot: sewn([seam(side('l', 0), side('r', 0))]),
  },
  {
    check: 'seams-through',
    text: /Seam 1 of Hood would be drawn together through Post/,
    shot: sewn([seam(side('l', 1), side('r', 3))], panel('r', 0.4, 0.5, { position: [0.8, 0, 0] }), [
      createCollider({
        id: 'post',
        name: 'Post',
        shape: { kind: 'cylinder', radius: 0.05, height: 2 },
        position: [0.4, 1, 0],
      }),
    ]),
  },
  {
    check: 'seams-through',
    text: /Seam 1 of Hood would be drawn together through Scarf/,
    shot: sewn([seam(side('l', 1), side('r', 3))], panel('r', 0.4, 0.5, { position: [0.8, 0, 0] }), [
      createCloth({
        ...{ id: 'scarf', name: 'Scarf', position: [0.4, 1, 0], rotation: [0, 0, Math.PI / 2] },
        shape: { kind: 'sheet', width: 2, height: 0.3, spacing: 0.05 },
      }),
    ]),
  },
  {
    check: 'given-motion',
    text: /What “Cover” follows is not in the shot any more/,
    shot: held({ given: { asset: 'gone', start: 1, from: 'Take 1' } }),
  },
  {
    check: 'given-motion',
    text: /All cloth in the run follows a take or an animation/,
    shot: held({ given: { asset: 'kept', start: 1, from: 'Take 1' } }),
    assets: [['kept', sheet(SHEET)]],
  },
  {
    check: 'lost-holds',
    text: /Numbers of the fabric of Cover have a mask that was deleted/,
    shot: held({ fabricMasks: { weight: 'gone' } }),
  },
  {
    check: 'lost-holds',
    text: /Tie of Cover is tied to a thing that was deleted/,
    shot: held({ ties: [createTie({ name: 'Tie', points: [0], to: 'rail' })] }),
  },
  {
    check: 'lost-holds',
    text: /Pins of Cover rides a thing that was deleted/,
    shot: held({ pinSets: [pins({ rides: 'mount' })] }),
  },
  { check: 'lost-holds', text: /has a mask that was deleted/, shot: held({ pinSets: [pins({ mask: 'm' })] }) },
  { check: 'lost-holds', text: /Pins of Cover has no points/, shot: held({ pinSets: [pins({ points: [] })] }) },
  { check: 'lost-holds', text: /gathered to nothing/, shot: held({ pinSets: [pins({ id: 'p', gather: [0, 1, 1] })] }) },
  {
    check: 'lost-holds',
    text: /gathered to nothing/,
    shot: held({
      pinSets: [pins({ id: 'p' })],
      keys: [
        key('hold:p.gather.x', [
          [1, 1],
          [20, 0],
        ]),
      ],
    }),
  },
  {
    check: 'lost-holds',
    text: /mask Fade of Cover was made for another mesh/,
    shot: held({ masks: [{ id: 'm', name: 'Fade', values: writeMask(new Uint8Array(5)) }] }),
  },
  {
    check: 'lost-parts',
    text: /held at 1 points/,
    shot: held({ leashes: [createLeash({ name: 'L', points: [99999] })] }),
  },
  { check: 'no-cloth', text: /There is no cloth/, shot: createShot({ name: 'Empty', things: [ground] }) },
  {
    check: 'no-cloth',
    text: /The only cloth, Cover, is left out/,
    shot: createShot({ name: 'Off', things: [{ ...cover, enabled: false }, ground] }),
  },
  { check: 'nothing-below', text: /Nothing holds Cover/, shot: createShot({ name: 'Falls', things: [cover] }) },
  {
    check: 'too-coarse',
    text: /only 5 points along its shorter side/,
    shot: sound([createCloth({ id: 'rag', name: 'Rag', shape: { ...SHEET, spacing: 0.2 }, position: [3, 0.5, 0] })]),
  },
  {
    check: 'too-large',
    text: /needs about \d\.\d GB of memory/,
    shot: sound([
      createCloth({
        ...{ id: 'vast', name: 'Vast', position: [0, 9, 0] },
        shape: { ...SHEET, width: 3.3, height: 3.3, spacing: 0.01 },
      }),
      ...Array.from({ length: 60 }, (_, i) =>
        createCollider({
          id: `post-${i}`,
          name: `Post ${i}`,
          shape: { kind: 'ball', radius: 0.1 },
          position: [i, 3, 0],
        }),
      ),
    ]),
  },
  {
    check: 'starts-inside',
    text: /Cloth starts .* mm deep inside Crate/,
    shot: sound([createCollider({ id: 'crate', name: 'Crate', position: [0, 0.3, 0] })]),
  },
  {
    check: 'starts-inside',
    text: /Cloth starts through the surface of Board, with \d+ faces/,
    shot: sound([
      createCollider({
        ...{ id: 'board', name: 'Board', shape: { kind: 'mesh', asset: 'board' }, position: [0.013, 0.51, 0.017] },
        rotation: [1.5, 0, 0],
      }),
    ]),
    assets: [['board', sheet({ width: 0.3, height: 0.3, spacing: 0.1 })]],
  },
  {
    check: 'starts-inside',
    text: /Cloth starts between Table and Lid, which leave it 4\.\d+ mm less room than it is thick/,
    shot: sound(
      [
        ['Table', 0.452],
        ['Lid', 0.548],
      ].map(([name, height]) =>
        createCollider({
          ...{ id: String(name), name: String(name), position: [0, Number(height), 0] },
          shape: { kind: 'box', width: 2, height: 0.1, depth: 2 },
        }),
      ),
    ),
  },
  {
    check: 'layers-too-wide',
    text: /Layers of Doily keep 2 mm apart, and its points are 2 mm apart/,
    shot: sound([
      createCloth({
        ...{ id: 'doily', name: 'Doily', position: [0, 0.8, 0], selfContact: { thickness: 0.002 } },
        shape: { kind: 'sheet', width: 0.06, height: 0.06, spacing: 0.002 },
      }),
    ]),
  },
  {
    check: 'starts-crossed',
    text: /Cloth starts crossed with other cloth or itself in \d+ places/,
    shot: sound([
      createCloth({ id: 'notice', name: 'Notice', shape: SHEET, position: [0.03, 0.507, 0.03], rotation: [1.2, 0, 0] }),
    ]),
  },
  {
    check: 'odd-size',
    text: /Stone is 400 m large/,
    shot: sound([
      createCollider({ id: 'stone', name: 'Stone', shape: { kind: 'mesh', asset: 'big' }, position: [0, 0, 900] }),
    ]),
    assets: [['big', ball({ radius: 200, detail: 2 })]],
  },
  {
    check: 'wind-and-weight',
    text: /Wind pulls Cover with \d+ times its weight/,
    shot: sound([], { things: [{ ...cover, fabric: silk }, ground, windOf(30)] }),
  },
  {
    check: 'wind-and-weight',
    text: /Cover is too heavy for Wind/,
    shot: sound([windOf(0.2)]),
  },
  {
    check: 'cues-never',
    text: /Warm of Cover never happens: the thing was deleted/,
    shot: held({ cues: [warm({ when: { kind: 'inside', thing: 'gone' } })] }),
  },
  {
    check: 'cues-never',
    text: /Warm of Cover changes nothing: the thing that it changes was deleted/,
    shot: held({ cues: [warm({ of: 'gone', number: 'friction', to: 0 })] }),
  },
  {
    check: 'curl-too-tight',
    text: /Cover wants to roll to a radius of 20 mm, but its points are 40 mm apart/,
    shot: sound([], { things: [{ ...cover, fabric: { ...cover.fabric, curlWeft: -50 } }, ground] }),
  },
  {
    check: 'pleats-too-coarse',
    text: /The pleats of Frill are 15 mm deep, and its points 10 mm apart/,
    shot: sound([frill(0.015)]),
  },
  {
    check: 'borders-crossed',
    text: /Arch, Arch: with points 100 mm apart a border crosses itself or another/,
    shot: sound([arch()]),
  },
  {
    check: 'releases',
    text: /Pins of Cover lets go of nothing in this shot/,
    shot: held({
      pinSets: [pins({ release: 'm' })],
      masks: [{ id: 'm', name: 'Ramp', values: '', ramp: { kind: 'straight', from: [0, 0], to: [0.3, 0] } }] as never,
    }),
  },
  {
    check: 'air-misses',
    text: /Draught blows past all cloth/,
    shot: sound([createAir({ name: 'Draught', position: [0, 0.5, -4], rotation: [0, 2, 0], air: { kind: 'beam' } })]),
  },
  {
    check: 'air-misses',
    text: /Pull is too far from all cloth/,
    shot: sound([createAir({ name: 'Pull', position: [0, 9, 0], air: { kind: 'attractor' } })]),
  },
  { check: 'gravity-off', text: /Gravity is off/, shot: sound([], { gravity: { enabled: false } }) },
  {
    check: 'fast-collider',
    text: /At frame \d+, Blade moves .* m\/s/,
    shot: sound([
      createCollider({
        ...{ id: 'blade', name: 'Blade', shape: { kind: 'box', width: 0.004, height: 0.4, depth: 0.4 } },
        keys: [
          key('position.x', [
            [1, -4],
            [4, 6],
          ]),
        ],
      }),
    ]),
  },
  {
    check: 'too-fine',
    text: /Stone has 20 480 faces, far finer/,
    shot: sound([
      createCollider({ id: 'stone', name: 'Stone', shape: { kind: 'mesh', asset: 'fine' }, position: [0, 0, 2] }),
    ]),
    assets: [['fine', ball({ radius: 0.3, detail: 5 })]],
  },
  {
    check: 'duplicate-points',
    text: /Notice is not sewn at \d+ points/,
    shot: sound([
      createCloth({ id: 'notice', name: 'Notice', shape: { kind: 'mesh', asset: 'notice' }, position: [2, 0.5, 0] }),
    ]),
    assets: [['notice', apart(sheet({ width: 0.5, height: 0.5, spacing: 0.02 }))]],
  },
  {
    check: 'crowded-edges',
    text: /Fin has 1 edge with more than two faces/,
    shot: sound([
      createCloth({ id: 'fin', name: 'Fin', shape: { kind: 'mesh', asset: 'fin' }, position: [3, 0.5, 0] }),
    ]),
    assets: [['fin', crowded]],
  },
  {
    check: 'lost-parts',
    text: /The mesh of Stone is not in the shot/,
    shot: sound([createCollider({ id: 'stone', name: 'Stone', shape: { kind: 'mesh', asset: 'gone' } })]),
  },
  {
    check: 'lost-parts',
    text: /Cover is held at 1 points that it no longer has/,
    shot: createShot({
      name: 'Pins',
      things: [{ ...cover, pinSets: [{ id: 'p', name: 'Pins', points: [0, 9999] }] }, ground],
    }),
  },
  {
    check: 'lost-parts',
    text: /Cover starts from a settled pose that does not fit/,
    shot: createShot({ name: 'Pose', things: [{ ...cover, start: 'gone' }, ground] }),
  },
  {
    check: 'keys-outside',
    text: /Rail has keys up to frame 60, after the last frame 24/,
    shot: sound([
      createMount({
        id: 'rail',
        name: 'Rail',
        keys: [
          key('position.x', [
            [1, 0],
            [60, 1],
          ]),
        ],
      }),
    ]),
  },
];

/** A hanging with pleats so deep, in m. */
/** An arched piece with a notch that comes nearer to its arch than the chord of two points does. */
function arch(): Cloth {
  const places = [
    [-0.8, -0.8],
    [0.8, -0.8],
    [0.8, 0.8],
    [-0.8, 0.8],
  ] as const;
  const outline = places.map(([u, v]) => newNode([u, v]));
  outline[2]!.after = [-0.4, 0.32];
  outline[3]!.before = [0.4, 0.32];
  // Between two of 18 points of the arch, 0.4 mm below it.
  const [u, v] = placeAt(sidesOf(outline)[2]!, parameterAt(sidesOf(outline)[2]!, 4.25 / 17));
  outline.splice(1, 0, newNode([u - 0.01, -0.8]), newNode([u, v - 4e-4]), newNode([u + 0.01, -0.8]));
  const shape = { kind: 'pattern' as const, spacing: 0.1, weave: 'all directions' as const, seams: [], closing: 24 };
  const pieces = [makePiece({ name: 'Arch', outline })];
  const made = createCloth({ id: 'arch', name: 'Arch', shape: { ...shape, pieces }, position: [3, 1, 0] });
  return { ...made, pinSets: [pins({ points: [0, 1] })] };
}

function frill(depth: number): Cloth {
  const outline = rectangleNodes(0.6, 0.4);
  const pleats = { ...suitablePleats(makePiece({ name: 'x', outline }), outline[2]!.id, 'knife'), depth };
  const piece = makePiece({ name: 'Frill', outline, pleats });
  const shape = {
    kind: 'pattern' as const,
    spacing: 0.01,
    weave: 'all directions' as const,
    pieces: [piece],
    seams: [],
  };
  const made = createCloth({ id: 'frill', name: 'Frill', shape: { ...shape, closing: 24 }, position: [3, 0.5, 0] });
  return { ...made, pinSets: [pins({ points: [0, 1] })] };
}

describe('checks before a run', () => {
  it('find nothing in a sound shot', () => {
    expect(checkShot(sound(), new Map(), none)).toEqual([]);
  });

  it('let a strap be narrow, which needs only to bend along its length', () => {
    const strap = (spacing: number) =>
      createCloth({ name: 'Strap', shape: { ...SHEET, width: 0.8, height: 0.06, spacing }, position: [3, 0.5, 0] });
    expect(checkShot(sound([strap(0.015)]), new Map(), none)).toEqual([]);
    expect(checkShot(sound([strap(0.06)]), new Map(), none)).toMatchObject([{ check: 'too-coarse' }]);
  });

  it.each(CASES.map((given) => [given.check, given] as const))(
    '%s is found, and mended by its remedy',
    async (check, given) => {
      const assets: Assets = new Map(given.assets ?? []);
      const found = checkShot(given.shot, assets, none).filter((finding) => finding.check === check);
      expect(found).toHaveLength(1);
      expect(found[0]!.text).toMatch(given.text);
      expect(found[0]!.remedy).toBeTruthy();
      const { forward, assets: made } = await mendFinding(given.shot, assets, found[0]!);
      const mended = applyPatches(given.shot, forward);
      expect(readShot(JSON.parse(JSON.stringify(mended)))).toEqual(mended);
      expect(
        checkShot(mended, new Map([...assets, ...made]), none).filter((finding) => finding.check === check),
      ).toEqual([]);
    },
  );

  it('say which seam cannot close because both of its sides are held apart, and leave it to the artist', () => {
    const found = checkShot(pinnedAlongTheTop(0.02), new Map(), none).filter(
      ({ check }) => check === 'seams-held-apart',
    );
    expect(found).toMatchObject([{ thing: 'hood', station: 'hold', grave: true, remedy: null }]);
    expect(found[0]!.text).toMatch(/Seam 1 of Hood cannot close: both of its sides are held, up to 20 mm apart/);
  });

  it('let seams be whose sides are held where they meet, or held by one side', () => {
    const apart = (shot: Shot) =>
      checkShot(shot, new Map(), none).filter(({ check }) => check === 'seams-held-apart').length;
    expect(apart(pinnedAlongTheTop(0.0005))).toBe(0);
    expect(apart(pinnedAlongTheTop(0.01))).toBe(1);
    const oneSide = pinnedAlongTheTop(0.01);
    const [hood, ...others] = oneSide.things as [Cloth, ...Thing[]];
    const { positions } = shapeMesh(hood.shape, new Map());
    const sets = hood.pinSets.map((set) => ({ ...set, points: set.points.filter((i) => positions[i * 3]! < 0.2) }));
    expect(sets[0]!.points.length).toBeGreaterThan(3);
    expect(apart({ ...oneSide, things: [{ ...hood, pinSets: sets }, ...others] })).toBe(0);
  });

  it('say what hinders a run, which can be made with all the rest', () => {
    for (const { check, shot, assets: own = [] } of CASES) {
      const assets: Assets = new Map(own);
      const hindered = checkShot(shot, assets, none).some(({ hinders }) => hinders);
      const run = () => {
        compile(shot, assets);
        // A run of that size is refused before anything is built.
        if (check === 'too-large') throw new Error('too large');
      };
      if (hindered) expect(run, check).toThrow();
      else expect(run, `${check}: ${shot.name}`).not.toThrow();
    }
  });

  it('say when a bake is stale and when there is no room for one', () => {
    const stale = checkShot(sound(), new Map(), { bake: { stale: true, frames: 12 }, bytesFree: 1e12 });
    expect(stale.map(({ text, act }) => [text, act])).toEqual([
      ['The bake of 12 frames is stale: the shot has changed since.', 'bake'],
    ]);
    const full = checkShot(sound(), new Map(), { bake: null, bytesFree: 1000 });
    expect(full[0]!.text).toBe('This bake needs 1 MB, and the browser has 1 MB left.');
  });

  it('never throw, whatever is wrong', () => {
    const shot = sound([createCollider({ id: 'stone', name: 'Stone', shape: { kind: 'mesh', asset: 'gone' } })]);
    expect(() => checkShot(shot, new Map(), none)).not.toThrow();
  });
});
