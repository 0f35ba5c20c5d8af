import {
  createAir,
  cornerPoints,
  createCloth,
  createCollider,
  createScenery,
  createShot,
  fadeMask,
  finishEntrySchema,
  finishNumber,
  grownPoints,
  shapeMesh,
  writeMask,
  type Shot,
} from '@lumbra/core';
import { keyed } from './keyed';

const WIDTH = 3;
const HEIGHT = 2.3;
/** The awning leans forward: its back corners are high, its front corners low. */
const TILT = (6 * Math.PI) / 180;
const POST = { radius: 0.035, z: 1.144, back: 2.15, front: 1.91 };
const FOOT_HEIGHT = 0.06;

/** A striped awning between four posts in gusts: pins, wind with turbulence, print, slowed down by its finish list. */
export function nf020Awning(): Shot {
  const shape = { kind: 'sheet' as const, width: WIDTH, height: HEIGHT, spacing: 0.03 };
  const mesh = shapeMesh(shape, new Map());
  // A patch at each corner, held less and less away from the post: a single point would pull out a spike.
  const patches = grownPoints(mesh, grownPoints(mesh, cornerPoints(mesh)));
  const posts = [
    { id: 'left-back', name: 'Post, left back', x: -WIDTH / 2, z: -POST.z, top: POST.back },
    { id: 'right-back', name: 'Post, right back', x: WIDTH / 2, z: -POST.z, top: POST.back },
    { id: 'left-front', name: 'Post, left front', x: -WIDTH / 2, z: POST.z, top: POST.front },
    { id: 'right-front', name: 'Post, right front', x: WIDTH / 2, z: POST.z, top: POST.front },
  ];
  return createShot({
    id: 'nf020',
    code: 'NF020',
    name: 'Awning',
    lastFrame: 144,
    run: { quality: 'shot' },
    camera: { position: [3.9, 2.9, 5.6], target: [0.25, 1.1, 0.1] },
    things: [
      createCloth({
        id: 'awning',
        // Slowed where the gust lifts it.
        finish: [finishEntrySchema.parse({ id: 'slow', step: { kind: 'retime', speed: 1 } })],
        keys: [
          keyed(finishNumber('slow', 'speed'), [
            [40, 1],
            [56, 0.4],
            [100, 0.4],
            [116, 1],
          ]),
        ],
        name: 'Awning',
        card: 'canvas',
        shape,
        fabric: { restWarp: 1.025, restWeft: 1.03 },
        position: [0, 2.05, 0],
        rotation: [TILT, 0, 0],
        print: { kind: 'stripe', colour: '#E9DFC6', second: '#A9503B', repeat: 0.5 },
        masks: [{ id: 'fading', name: 'Posts, fading', values: writeMask(fadeMask(mesh, patches)) }],
        pinSets: [{ id: 'posts', name: 'Posts', points: patches, mask: 'fading' }],
      }),
      ...posts.map(({ id, name, x, z, top }) =>
        createCollider({
          id,
          name,
          shape: { kind: 'cylinder', radius: POST.radius, height: top, segments: 32 },
          position: [x, top / 2, z],
          colour: '#93836B',
        }),
      ),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, clearance: 0.002, friction: 0.5 }),
      createAir({
        id: 'wind',
        name: 'Wind',
        position: [-2.1, 1.6, -0.9],
        rotation: [(-17 * Math.PI) / 180, (66 * Math.PI) / 180, 0],
        air: {
          kind: 'wind',
          speed: 4.2,
          gustDepth: 0.4,
          gustPeriod: 2.2,
          turbulence: 0.25,
          eddySize: 0.9,
          eddyPace: 1.4,
        },
      }),
      ...posts.map(({ id, name, x, z }) =>
        createScenery({
          id: `${id}-foot`,
          name: name.replace('Post', 'Foot'),
          shape: { kind: 'cylinder', radius: 0.12, height: FOOT_HEIGHT, segments: 40 },
          position: [x, FOOT_HEIGHT / 2, z],
          colour: '#55504A',
        }),
      ),
    ],
  });
}
