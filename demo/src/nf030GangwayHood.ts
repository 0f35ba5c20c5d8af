import {
  createCloth,
  createCollider,
  createMount,
  createScenery,
  createShot,
  createTie,
  shapeMesh,
  type Shot,
} from '@lumbra/core';
import { degrees, keyedRows } from './keyed';

const HOOD = { length: 2.4, radius: 0.62, skirt: 0.45, spacing: 0.03 };
const HOOPS = 9;
/** The hoops are so much narrower than the hood: it lies on them. */
const ROD = { radius: 0.011, inside: 0.02 };
/** Height of the hems over the gangway, where the hoops run on their wires. */
const HEM = 0.14;
/** From hoop to hoop: as cut, pushed together, and slid out, with a little slack that hangs in pleats. */
const BAY = { cut: HOOD.length / (HOOPS - 1), closed: 0.085, open: 0.27 };
/** In the pre-roll the hood is pushed together and comes to rest. */
const CLOSED = { from: -69, to: -20 };
const SLIDE = { from: 10, to: 104 };
/** How far apart the hoops are, frame by frame. */
const SLIDES = [
  [CLOSED.from, BAY.cut],
  [CLOSED.to, BAY.closed],
  [SLIDE.from, BAY.closed],
  [SLIDE.to, BAY.open],
] as const;
const FERRY_END = -HOOD.length / 2;

/** A pleated canvas hood on hoops slides out along two wires while the ferry rolls: ties to moving things, pleats, keys. 7,800 points. */
export function nf030GangwayHood(): Shot {
  const shape = { kind: 'arch' as const, ...HOOD };
  const { material } = shapeMesh(shape, new Map());
  /** The points of the hood from hem to hem, so far along it. */
  const girth = (along: number) =>
    Array.from({ length: material!.length / 2 }, (_, point) => point).filter(
      (point) => Math.abs(material![point * 2]! - along) < HOOD.spacing / 4,
    );
  const hoops = Array.from({ length: HOOPS }, (_, i) => ({
    id: `hoop-${i + 1}`,
    name: i === 0 ? 'Hoop' : `Hoop ${i + 1}`,
    i,
  }));
  const middle = (top: number) => HEM + top / 2;
  const hoopTop = middle(HOOD.radius - ROD.inside + ROD.radius + HOOD.skirt);
  const wood = { parent: 'ferry', colour: '#9C8A70' };
  return createShot({
    id: 'nf030',
    code: 'NF030',
    name: 'Gangway hood',
    lastFrame: 156,
    preRoll: 70,
    run: { quality: 'shot' },
    camera: { position: [2.5, 2.15, 3.1], target: [-0.1, 0.62, 0] },
    things: [
      createCloth({
        id: 'hood',
        name: 'Hood',
        card: 'canvas',
        shape,
        position: [0, middle(HOOD.radius + HOOD.skirt), 0],
        print: { kind: 'stripe', colour: '#E3D8BD', second: '#40646B', repeat: 0.6 },
        ties: hoops.map(({ id, name, i }) =>
          createTie({ id: `tie-${id}`, name: `Tie to ${name.toLowerCase()}`, points: girth(i * BAY.cut), to: id }),
        ),
      }),
      createMount({
        id: 'ferry',
        name: 'Ferry',
        keys: keyedRows('rotation', [
          [6, 0, 0, 0],
          [40, degrees(5), 0, degrees(1.2)],
          [84, degrees(-6), 0, degrees(0.6)],
          [126, degrees(4), 0, degrees(-1.6)],
          [154, 0, 0, 0],
        ]),
      }),
      ...hoops.map(({ id, name, i }) =>
        createCollider({
          id,
          name,
          shape: {
            kind: 'hoop',
            radius: HOOD.radius - ROD.inside,
            leg: HOOD.skirt,
            tubeRadius: ROD.radius,
            segments: 32,
          },
          position: [FERRY_END + i * BAY.cut, hoopTop, 0],
          parent: 'ferry',
          friction: 0.3,
          colour: '#6A5A3C',
          // The first one stands.
          keys:
            i === 0
              ? []
              : keyedRows(
                  'position',
                  SLIDES.map(([frame, bay]) => [frame, FERRY_END + i * bay, hoopTop, 0]),
                ),
        }),
      ),
      ...[1, -1].map((side) =>
        createScenery({
          id: side === 1 ? 'wire-near' : 'wire-far',
          name: side === 1 ? 'Wire, near' : 'Wire, far',
          shape: { kind: 'cylinder', radius: 0.005, height: 2.9, segments: 12 },
          position: [0, HEM - 0.004, side * (HOOD.radius - ROD.inside)],
          rotation: [0, 0, degrees(90)],
          parent: 'ferry',
          colour: '#4E4C48',
        }),
      ),
      createCollider({
        id: 'gangway',
        name: 'Gangway',
        shape: { kind: 'box', width: 2.9, height: 0.05, depth: 1.36 },
        position: [0, 0.035, 0],
        friction: 0.5,
        ...wood,
      }),
      ...[
        ['post-ferry-near', 'Post, ferry near', -1.43, 1],
        ['post-ferry-far', 'Post, ferry far', -1.43, -1],
        ['post-shore-near', 'Post, shore near', 1.43, 1],
        ['post-shore-far', 'Post, shore far', 1.43, -1],
      ].map(([id, name, x, side]) =>
        createScenery({
          id: id as string,
          name: name as string,
          shape: { kind: 'cylinder', radius: 0.022, height: 0.22, segments: 24 },
          position: [x as number, 0.17, (side as number) * (HOOD.radius - ROD.inside)],
          ...wood,
        }),
      ),
    ],
  });
}
