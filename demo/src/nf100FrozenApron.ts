import {
  createAir,
  createCloth,
  createCollider,
  createPinSet,
  createScenery,
  createShot,
  cueSchema,
  everyNth,
  finishEntrySchema,
  shapeMesh,
  sidePoints,
  type Cue,
  type Shot,
} from '@lumbra/core';
import { degrees, keyed, keyedRows } from './keyed';

const APRON = { width: 0.84, height: 1.05, spacing: 0.021 };
const LINE = { y: 1.95, radius: 0.006, length: 1.9 };
/** Bending of frozen linen, and of it once it is warm, in N.m: a board, and cloth. */
const FROZEN = 2e-3;
const LIMP = 4e-6;
/** The ice has bent it out of its plane, in 1/m along the weft, which hangs. */
const BENT = 1.6;
/** The ice lets go from an upper corner over the apron, at the lower corner across last. */
const THAW = { from: 14, to: 62 };
/** The lamp passes before it. */
const LAMP = { from: 60, to: 144, reach: 0.34, radius: 0.075, past: 1.05, y: 1.32, z: 0.17 };

/** An apron on a line comes free of ice patch by patch, stiff and bent as a board, until a passing lamp makes it limp: release, cues, wind. 2,100 points. */
export function nf100FrozenApron(): Shot {
  const shape = { kind: 'sheet' as const, ...APRON };
  const mesh = shapeMesh(shape, new Map());
  const top = sidePoints(mesh, 'top');
  const clips = everyNth(mesh, top, 10);
  const ice = Array.from({ length: mesh.positions.length / 3 }, (_, point) => point);
  const warms = (id: string, name: string, number: Cue['number'], to: number): Cue =>
    cueSchema.parse({
      ...{ id, name, number, to, over: 14, spread: 0.05 },
      when: { kind: 'touch', thing: 'lamp', within: LAMP.reach },
    });
  return createShot({
    id: 'nf100',
    code: 'NF100',
    name: 'Frozen apron',
    lastFrame: 168,
    run: { quality: 'shot' },
    camera: { position: [1.25, 1.55, 2.35], target: [0, 1.38, 0] },
    things: [
      createCloth({
        id: 'apron',
        name: 'Apron',
        card: 'linen-mid',
        shape,
        position: [0, LINE.y - APRON.height / 2 - 0.004, 0],
        rotation: [degrees(90), 0, 0],
        fabric: { bendWarp: FROZEN, bendWeft: FROZEN, curlWeft: BENT },
        print: { kind: 'stripe', colour: '#E7E1D2', second: '#7D8C93', repeat: 0.21 },
        pinSets: [
          createPinSet({ id: 'clips', name: 'Clips', points: clips }),
          createPinSet({ id: 'ice', name: 'Ice', points: ice, release: 'thaw' }),
        ],
        masks: [
          {
            id: 'thaw',
            name: 'Thaw',
            values: '',
            ramp: { kind: 'round', from: [0, 1], to: [1, 0], waves: false, inverted: false, phase: 0 },
          },
        ],
        keys: [
          keyed('hold:ice.released', [
            [THAW.from, 0],
            [THAW.to, 1],
          ]),
        ],
        cues: [
          warms('warm-warp', 'Warm, warp', 'bendWarp', LIMP),
          warms('warm-weft', 'Warm, weft', 'bendWeft', LIMP),
          warms('warm-curl', 'Warm, flat', 'curlWeft', 0),
        ],
        finish: [finishEntrySchema.parse({ id: 'thick', step: { kind: 'thicken', thickness: 0.0015 } })],
      }),
      createCollider({
        id: 'lamp',
        name: 'Lamp',
        shape: { kind: 'ball', radius: LAMP.radius },
        position: [-LAMP.past, LAMP.y, LAMP.z],
        colour: '#C98F3A',
        keys: keyedRows('position', [
          [LAMP.from, -LAMP.past, LAMP.y, LAMP.z],
          [LAMP.to, LAMP.past, LAMP.y, LAMP.z],
        ]),
      }),
      createAir({
        ...{ id: 'wind', name: 'Night wind', position: [-1.3, 1.6, -0.5], rotation: [0, degrees(66), 0] },
        air: { kind: 'wind', speed: 1.2, gustDepth: 0.5, gustPeriod: 1.6, turbulence: 0.35, eddySize: 0.35 },
      }),
      createScenery({
        id: 'line',
        name: 'Line',
        shape: { kind: 'cylinder', radius: LINE.radius, height: LINE.length, segments: 16 },
        position: [0, LINE.y, 0],
        rotation: [0, 0, degrees(90)],
        colour: '#6F6A60',
      }),
      ...[-1, 1].map((side) =>
        createScenery({
          id: side < 0 ? 'post-left' : 'post-right',
          name: side < 0 ? 'Post, left' : 'Post, right',
          shape: { kind: 'cylinder', radius: 0.035, height: 2.05, segments: 24 },
          position: [(side * LINE.length) / 2, 1.025, 0],
          colour: '#55504A',
        }),
      ),
      createScenery({
        id: 'deck',
        name: 'Deck',
        shape: { kind: 'box', width: 2.6, height: 0.06, depth: 1.8 },
        position: [0, -0.03, 0],
        colour: '#8C8170',
      }),
    ],
  });
}
