import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vector3 } from '../../math/vector';
import { createCollider, createShot } from '../create';
import { edit } from '../edit';
import { cornerPoints, sidePoints } from '../selectPoints';
import { SHAPE_KINDS, SHAPES, shapeMesh } from '../shapes';
import { offersFor } from './offers';
import { readTypedLine } from './readTypedLine';

const shot = () => createShot({ name: 'New' });

describe('things in words', () => {
  const done = (text: string) => {
    const read = readTypedLine(text, shot());
    if (!read.ok) throw new Error(read.reason);
    return edit(createShot({ name: 'New' }), text, (draft) => void read.line.apply(draft)).shot;
  };

  it.each<[string, object]>([
    [
      'box 0.95 × 0.5 × 0.62 at −0.1, 0, 0.2 turned 10',
      { shape: { kind: 'box', width: 0.95, depth: 0.62 }, position: [-0.1, 0.25, 0.2] },
    ],
    [
      'post 3.5 x 210 cm at 1, 0, 1 as scenery',
      { role: 'scenery', shape: { kind: 'cylinder', radius: 0.035, height: 2.1 } },
    ],
    [
      'sheet 2.4 × 2.1 every 23 mm of waxed cotton at 0, 0.86, 0',
      { role: 'cloth', card: 'waxed-cotton', shape: { spacing: 0.023 }, position: [0, 0.86, 0] },
    ],
    ['cylinder 0.05 × 2 at 0, 1, 0 turned 0, 0, 90', { shape: { kind: 'cylinder' }, position: [0, 1.05, 0] }],
    ['mount at 0, 1, 0 named Head of the mast', { role: 'mount', name: 'Head of the mast' }],
    [
      'sheet 3 × 2 of canvas rest 102.5 × 103 % print stripe 50 cm #E9DFC6 #A9503B named Awning',
      {
        name: 'Awning',
        fabric: { restWarp: 1.025, restWeft: 1.03 },
        print: { kind: 'stripe', repeat: 0.5, second: '#A9503B' },
      },
    ],
    [
      'sheet of linen bend 2000 curl 0 × -1.6',
      { fabric: { bendWarp: 2e-3, bendWeft: 2e-3, curlWarp: 0, curlWeft: -1.6, restWarp: 1 } },
    ],
    ['box 1 × 1 × 1 friction 0.35 clearance 4 mm', { role: 'collider', friction: 0.35, clearance: 0.004 }],
    ['ring 40 × 7 cm', { shape: { kind: 'ring', radius: 0.4, tubeRadius: 0.07 }, position: [0, 0.07, 0] }],
    ['box', { shape: { kind: 'box', width: 0.5, height: 0.5, depth: 0.5 }, position: [0, 0.25, 0] }],
    ['box 2', { shape: { kind: 'box', width: 2, height: 0.5, depth: 0.5 } }],
    ['box 2x3x4', { shape: { kind: 'box', width: 2, height: 3, depth: 4 } }],
    ['box 2 by 3 by 4 m', { shape: { kind: 'box', width: 2, height: 3, depth: 4 } }],
    ['box 20 30 40 cm', { shape: { kind: 'box', width: 0.2, height: 0.3, depth: 0.4 } }],
    ['box 2, 3, 4', { shape: { kind: 'box', width: 2, height: 3, depth: 4 } }],
    ['box 1 m × 50 cm × 200 mm', { shape: { kind: 'box', width: 1, height: 0.5, depth: 0.2 } }],
    [
      'cone radius 0.2 height 0.5 at 0.5 0.25 0.2',
      { shape: { kind: 'cone', radius: 0.2, height: 0.5, topRadius: 0 }, position: [0.5, 0.5, 0.2] },
    ],
    ['cone top radius 0.1, radius 0.3', { shape: { kind: 'cone', radius: 0.3, topRadius: 0.1 } }],
    ['ball 0.3', { shape: { kind: 'ball', radius: 0.3 }, position: [0, 0.3, 0] }],
    ['ball diameter 30 cm at 1 0 -2', { shape: { kind: 'ball', radius: 0.15 }, position: [1, 0.15, -2] }],
    ['hoop radius 0.6 leg 40 cm', { shape: { kind: 'hoop', radius: 0.6, leg: 0.4, tubeRadius: 0.015 } }],
    [
      'arch 2.4 × 0.6 × 0.5 every 30 mm of canvas',
      { role: 'cloth', shape: { kind: 'arch', skirt: 0.5, spacing: 0.03 } },
    ],
    ['tube 0.3 0.4 wall 1 cm', { shape: { kind: 'tube', radius: 0.3, height: 0.4, wall: 0.01 } }],
  ])('%s', (text, expected) => {
    expect(done(text).things[0]).toMatchObject(expected);
  });

  it('± makes one on either side', () => {
    const places = done('cylinder 0.07 × 2 at ±1.5, 0, +-1').things.map(
      ({ position }: { position: Vector3 }) => position,
    );
    expect(places).toEqual([
      [-1.5, 1, -1],
      [-1.5, 1, 1],
      [1.5, 1, -1],
      [1.5, 1, 1],
    ]);
  });

  it('adds air, with where it blows to', () => {
    const [wind] = done('wind 4.2 towards 66 rise 17 gusts 40 %, 2.2 s').things;
    expect(wind).toMatchObject({
      ...{ role: 'air', name: 'Wind', air: { kind: 'wind', speed: 4.2, gustDepth: 0.4, gustPeriod: 2.2 } },
      rotation: [(-17 * Math.PI) / 180, (66 * Math.PI) / 180, 0],
    });
    expect(done('draught 6 at 1, 2, 3 named Gap').things[0]).toMatchObject({
      ...{ name: 'Gap', position: [1, 2, 3], air: { kind: 'beam', speed: 6 } },
    });
    expect(done('wind 3 turbulence 25 %, 90 cm').things[0]).toMatchObject({
      air: { turbulence: 0.25, eddySize: 0.9, eddyPace: 1.5 },
    });
    expect(
      done('beam 4.8 width 0.56 edge 60 % fading 30 %, shadow 80 % turbulence 60 %, 0.34 m').things[0],
    ).toMatchObject({
      air: {
        kind: 'beam',
        speed: 4.8,
        width: 0.56,
        edge: 0.6,
        fading: 0.3,
        shadow: 0.8,
        turbulence: 0.6,
        eddySize: 0.34,
      },
    });
    expect(readTypedLine('beam 4 wide 3', shot())).toMatchObject({ ok: false });
    expect(done('attractor 8').things[0]).toMatchObject({ air: { kind: 'attractor', pull: 8 } });
    expect(readTypedLine('turbulence 2 towards 3', shot())).toMatchObject({ ok: false });
  });

  it.each([
    ['', /for example “box/],
    ['crate 1 × 1 × 1', /“crate” is not something to add/],
    ['box 1 × 2 × 3 × 4', /A box is typed as width × height × depth, for example “box 0.5 × 0.5 × 0.5”/],
    ['ball wide 3', /“wide” is no number of it. It has radius, detail/],
    ['ground 3', /A ground takes no sizes/],
    ['mount 3', /A mount has no size/],
    ['box 1 × 2 × zero', /“zero” is no number of it/],
    ['box 1 × 2 × 0', /depth: must be at least 0.001/],
    ['ball 1 of silk', /Only cloth/],
    ['ball 1 print check', /Only cloth has print/],
    ['ball 1 curl 4', /Only cloth has a curl/],
    ['sheet curl 4000', /curl/i],
    ['sheet 1 × 1 friction 0.3', /Only a collider has friction/],
    ['sheet 1 × 1 print tartan', /plain, stripe, check or dots/],
    ['sheet 1 × 1 of tinfoil', /“tinfoil” is not in the swatch book/],
    ['box 1 × 1 × 1 at 2, 3', /three numbers/],
    ['box 1 pinned corners', /Only cloth has pins/],
    ['sheet 1 pinned middle', /“pinned middle” is not known: far side/],
    ['sheet 1 pinned 3 along middle', /“pinned 3 along middle” is not known/],
    ['sheet 1 pinned 3 along border', /is not known/],
    ['sheet 1 tied far side', /Say what is tied to what/],
    ['sheet 1 tied far side to Yard', /There is no “Yard” yet/],
    ['sheet 1 rides Ferry', /There is no “Ferry” yet/],
  ])('says what is wrong with “%s”', (text, words) => {
    const read = readTypedLine(text, shot());
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.reason).toMatch(words);
  });

  it.each([
    ['5 along far side', [0, 3, 5, 8, 10]],
    ['1 along far', [0]],
    ['50 points along far side', Array.from({ length: 11 }, (_, i) => i)],
  ])('is pinned by points that are spread along a side: %s', (where, columns) => {
    const read = readTypedLine(`sheet 1 × 1 every 0.1 m pinned ${where}`, shot());
    if (!read.ok) throw new Error(read.reason);
    const made = edit(shot(), 'add', (draft) => void read.line.apply(draft)).shot.things[0]!;
    if (made.role !== 'cloth') throw new Error('not cloth');
    const side = sidePoints(shapeMesh(made.shape, new Map()), 'top');
    expect(made.pinSets[0]!.points).toEqual(columns.map((column) => side[column]!));
  });

  it('is held and carried by what is there, whatever the capitals', () => {
    let now = shot();
    const add = (text: string) => {
      const read = readTypedLine(text, now);
      if (!read.ok) throw new Error(read.reason);
      now = edit(now, text, (draft) => void read.line.apply(draft)).shot;
      return now.things.at(-1)!;
    };
    const ferry = add('mount at 0, 1, 0 named Ferry');
    const yard = add('cylinder 0.03 × 2 at 0, 2, 0 turned 0, 0, 90 rides ferry named Yard');
    expect(yard).toMatchObject({ parent: ferry.id });
    expect(add('wind 3 rides Ferry')).toMatchObject({ parent: ferry.id });
    const sail = add(
      'sheet 1 × 0.5 every 100 mm of canvas at 0, 1.5, 0 turned 90, 0, 0 tied far to YARD pinned corners',
    );
    if (sail.role !== 'cloth') throw new Error('Not cloth');
    const mesh = shapeMesh(sail.shape, new Map());
    expect(sail.ties).toMatchObject([{ to: yard.id, points: sidePoints(mesh, 'top') }]);
    expect(sail.pinSets).toMatchObject([{ points: cornerPoints(mesh) }]);
    expect(readTypedLine('sheet 1 tied far side to Ferry', now)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/no surface/) as unknown,
    });
    expect(readTypedLine('sheet 1 tied far side to Yarn', now)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/no “Yarn”. Here are Ferry, Yard/) as unknown,
    });
  });

  it('is tied to each thing of a name that it lies at where the run starts', () => {
    const rail = (id: string, z: number, keys: number[] = []) =>
      createCollider({
        id: id.replace(' ', ''),
        name: id,
        shape: { kind: 'box', width: 2, height: 0.01, depth: 0.01 },
        position: [0, 1, z],
        keys:
          keys.length > 0
            ? [{ number: 'position.z', knots: keys.map((value, i) => ({ frame: i * 10 - 9, value })) }]
            : [],
      });
    const now = createShot({
      name: 'Rails',
      preRoll: 10,
      things: [rail('Rail', -0.2), rail('Rail 2', 3, [0.2, 3]), rail('Rail 3', 3), rail('Post', 0)],
    });
    const read = readTypedLine('sheet 0.4 every 50 mm at 0 1 0 tied near to rail', now);
    if (!read.ok) throw new Error(read.reason);
    const sheet = edit(now, 'Type', (draft) => void read.line.apply(draft)).shot.things.at(-1)!;
    expect(sheet).toMatchObject({
      ties: [
        { name: 'Tie 1', to: 'Rail', points: { length: 9 } },
        { name: 'Tie 2', to: 'Rail2', points: { length: 9 } },
      ],
    });
    expect(readTypedLine('sheet 0.4 at 0 2 0 tied near to Rail', now)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/within 20 mm of Rail/) as unknown,
    });
  });

  it('is pinned in even rows of spots', () => {
    const cloth = done('sheet 1.2 × 0.8 every 50 mm pinned 3 × 2 spots').things[0]!;
    expect(cloth).toMatchObject({ pinSets: [{ points: { length: 6 * 5 } }] });
  });

  it('never throws', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(typeof readTypedLine(`box ${text}`, shot()).ok).toBe('boolean');
      }),
    );
  });
});

describe('what is offered while typing', () => {
  it('begins with what can be added, and goes on with sizes, parts and what is known of them', () => {
    expect(offersFor('c')).toEqual(
      ['cloth 1 × 1', 'capsule 0.1 × 1', 'cylinder 0.1 × 1', 'cone 0.25 × 0.5 × 0'].sort(byOrder),
    );
    expect(offersFor('cone ra')).toEqual(['cone radius']);
    expect(offersFor('box 1 × 1 a')).toEqual(['box 1 × 1 at', 'box 1 × 1 as']);
    expect(offersFor('sheet 1 of wax')).toEqual(['sheet 1 of waxed cotton']);
    expect(offersFor('sheet 1 of waxed c')).toEqual(['sheet 1 of waxed cotton']);
    expect(offersFor('box as s')).toEqual(['box as scenery']);
    expect(offersFor('sheet 1 tied far')).toEqual(['sheet 1 tied far side to']);
    expect(offersFor('box named at')).toEqual([]);
  });

  it('is understood: every line that is offered to begin with', () => {
    for (const kind of SHAPE_KINDS) {
      for (const word of SHAPES[kind].words) {
        const offered = offersFor(word);
        expect(offered.length).toBeGreaterThan(0);
        for (const line of offered) expect(readTypedLine(line, shot())).toMatchObject({ ok: true });
      }
    }
  });
});

/** As they are offered: in the order of the shapes. */
function byOrder(a: string, b: string): number {
  const order = ['cloth', 'cylinder', 'capsule', 'cone'];
  return order.indexOf(a.split(' ')[0]!) - order.indexOf(b.split(' ')[0]!);
}

it('reads every kind of print that there is', () => {
  for (const kind of ['plain', 'stripe', 'check', 'dots']) {
    const read = readTypedLine(`sheet 1 × 1 print ${kind} 12 cm #AABBCC`, shot());
    if (!read.ok) throw new Error(read.reason);
    const [cloth] = edit(shot(), 'x', (draft) => void read.line.apply(draft)).shot.things;
    expect(cloth).toMatchObject({ print: { kind, repeat: 0.12, colour: '#AABBCC' } });
  }
});
