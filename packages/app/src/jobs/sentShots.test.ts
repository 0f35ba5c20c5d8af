import { createCloth, createCollider, createShot, shapeMesh, type Mesh, type Shape, type Shot } from '@lumbra/core';
import { beforeEach, describe, expect, it } from 'vitest';
import { ReceivedShots, ShotSender, type SentShot } from './sentShots';

const mesh = (): Mesh => ({ positions: new Float32Array(9), triangles: new Uint32Array([0, 1, 2]) });
const shot = (id = 's'): Shot =>
  createShot({
    ...{ id, name: 'Shot' },
    things: [
      createCloth({ id: 'c', name: 'Cloth', shape: { kind: 'sheet', width: 1, height: 1, spacing: 0.1 } }),
      createCollider({ id: 'b', name: 'Box', shape: { kind: 'mesh', asset: 'm' } }),
    ],
  });
/** As it comes from the page: a copy of everything. */
const sent = (of: Shot, meshes = new Map([['m', mesh()]])): SentShot =>
  structuredClone({ shot: of, uses: [...meshes.keys()], meshes });
const shapeOf = ({ things }: Shot, i: number) => (things[i] as { shape: Shape }).shape;

let received: ReceivedShots;

describe('shots from the page', () => {
  beforeEach(() => (received = new ReceivedShots()));

  it('say the same as they were sent', () => {
    const given = sent(shot());
    const { shot: got, assets } = received.receive(structuredClone(given));
    expect(got).toEqual(given.shot);
    expect(assets).toEqual(given.meshes);
  });

  it('have the same shapes and meshes as before, where those say the same, so that what is known of them stays known', () => {
    const first = received.receive(sent(shot()));
    const lighter = shot();
    (lighter.things[0] as { fabric: { weight: number } }).fabric.weight = 0.05;
    const second = received.receive(sent(lighter));
    expect(second.shot.things[0]).not.toBe(first.shot.things[0]);
    expect(shapeOf(second.shot, 0)).toBe(shapeOf(first.shot, 0));
    expect(second.assets.get('m')).toBe(first.assets.get('m'));
    expect(shapeMesh(shapeOf(second.shot, 0), second.assets)).toBe(shapeMesh(shapeOf(first.shot, 0), first.assets));
  });

  it('have other shapes where those were changed, and the old ones are forgotten', () => {
    const first = received.receive(sent(shot()));
    const finer = shot();
    (finer.things[0] as { shape: { spacing: number } }).shape.spacing = 0.05;
    const second = received.receive(sent(finer));
    expect(shapeMesh(shapeOf(second.shot, 0), second.assets).positions).toHaveLength(21 * 21 * 3);
    const third = received.receive(sent(shot()));
    expect(shapeOf(third.shot, 0)).not.toBe(shapeOf(first.shot, 0));
    expect(shapeOf(third.shot, 0)).toEqual(shapeOf(first.shot, 0));
  });

  it('share no meshes with another shot, whose ids may be the same', () => {
    const first = received.receive(sent(shot('one')));
    const second = received.receive(sent(shot('two')));
    expect(second.assets.get('m')).not.toBe(first.assets.get('m'));
  });

  it('have one shape for things that are the same', () => {
    const two = createShot({
      name: 'Two',
      things: ['a', 'b'].map((id) => createCloth({ id, name: id, shape: { kind: 'sheet', spacing: 0.1 } })),
    });
    const { shot: got } = received.receive(sent(two, new Map()));
    expect(shapeOf(got, 0)).toBe(shapeOf(got, 1));
  });
});

describe('meshes on their way to a worker', () => {
  const assets = () =>
    new Map([
      ['m', mesh()],
      ['unused', mesh()],
    ]);

  it('are sent once, and are there again with the next version of the shot', () => {
    const sender = new ShotSender({ generation: 0 });
    const all = assets();
    const first = sender.pack(shot(), all);
    expect([...first.meshes.keys()]).toEqual(['m']);
    received = new ReceivedShots();
    const got = received.receive(structuredClone(first));
    const again = sender.pack(shot(), all);
    expect(again.meshes.size).toBe(0);
    expect(received.receive(structuredClone(again)).assets.get('m')).toBe(got.assets.get('m'));
  });

  it('are sent again to another worker, and for another shot', () => {
    const host = { generation: 0 };
    const sender = new ShotSender(host);
    sender.pack(shot(), assets());
    host.generation = 1;
    expect(sender.pack(shot(), assets()).meshes.size).toBe(1);
    expect(sender.pack(shot('other'), assets()).meshes.size).toBe(1);
    expect(sender.pack(shot(), assets()).meshes.size).toBe(1);
  });
});
