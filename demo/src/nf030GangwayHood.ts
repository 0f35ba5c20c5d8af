import {
  createCloth,
  createCollider,
  createMount,
  createPinSet,
  createScenery,
  createShot,
  createTie,
  makePiece,
  newNode,
  pleatsSchema,
  shapeMesh,
  type PatternShape,
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
/** The curtain before the shore end, as it is cut, and how high over the ground and how far before the last hoop it hangs. */
const CURTAIN = { width: 1.52, height: 0.7, spacing: 0.022, top: 0.9, before: 0.05 };

/** A curtain of one piece, lying as a sheet lies, in rolled pleats along its upper border: about a metre wide. */
function curtainShape(): PatternShape {
  const [u, v] = [CURTAIN.width / 2, CURTAIN.height / 2];
  const corner = (id: string, at: [number, number]) => ({ ...newNode(at), id });
  const piece = makePiece({
    ...{ id: 'curtain-cloth', name: 'Piece 1', grain: 0, rotation: [-Math.PI / 2, 0, 0] },
    outline: [
      corner('low-left', [-u, -v]),
      corner('low-right', [u, -v]),
      corner('top-right', [u, v]),
      corner('top-left', [-u, v]),
    ],
    pleats: pleatsSchema.parse({ side: 'top-right', kind: 'rolled', count: 7, depth: 0.07, pressed: 0.5 }),
  });
  return {
    kind: 'pattern',
    spacing: CURTAIN.spacing,
    weave: 'along the grain',
    pieces: [piece],
    seams: [],
    closing: 24,
  };
}

/** The points of the upper border of the curtain. */
function topOf(shape: PatternShape): number[] {
  const { positions } = shapeMesh(shape, new Map());
  return Array.from({ length: positions.length / 3 }, (_, point) => point).filter(
    (point) => positions[point * 3 + 2]! < -CURTAIN.height / 2 + 1e-6,
  );
}

/**
 * A canvas hood on hoops slides out along two wires while the ferry rolls, a pleated curtain before its end: ties to moving things, pleats, keys.
 * 10,200 points.
 */
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
  const curtain = curtainShape();
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
      createCloth({
        ...{ id: 'curtain', name: 'Curtain', card: 'linen-mid', shape: curtain },
        position: [FERRY_END + (HOOPS - 1) * BAY.cut + CURTAIN.before, CURTAIN.top - CURTAIN.height / 2, 0],
        rotation: [degrees(90), degrees(90), 0],
        print: { kind: 'plain', colour: '#E3D8BD' },
        pinSets: [createPinSet({ id: 'rail', name: 'Rail', points: topOf(curtain), rides: hoops.at(-1)!.id })],
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
      createScenery({
        ...{ id: 'curtain-rail', name: 'Curtain rail', parent: hoops.at(-1)!.id, colour: '#4E4C48' },
        shape: { kind: 'cylinder', radius: 0.005, height: 1.06, segments: 12 },
        position: [CURTAIN.before - 0.006, CURTAIN.top - hoopTop, 0],
        rotation: [degrees(90), 0, 0],
      }),
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
