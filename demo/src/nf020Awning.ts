import { createCloth, createCollider, createScenery, createShot, shapeMesh, type Shot } from '@lumbra/core';

const WIDTH = 3;
const HEIGHT = 2.3;
const TILT = 0.1;
const CENTRE = 2.05;

/** A striped awning between four posts in gusts: pins, wind, print. */
export function nf020Awning(): Shot {
  const shape = { kind: 'sheet' as const, width: WIDTH, height: HEIGHT, spacing: 0.03 };
  const mesh = shapeMesh(shape, new Map());
  const near = (u: number, v: number) => {
    const m = mesh.material!;
    const points: number[] = [];
    for (let i = 0; i < m.length / 2; i++) {
      if (Math.abs(m[i * 2]! - u) + Math.abs(m[i * 2 + 1]! - v) < 0.085) points.push(i);
    }
    return points;
  };
  const posts = [
    { id: 'left-back', name: 'Post, left back', x: -WIDTH / 2, z: -HEIGHT / 2 },
    { id: 'right-back', name: 'Post, right back', x: WIDTH / 2, z: -HEIGHT / 2 },
    { id: 'left-front', name: 'Post, left front', x: -WIDTH / 2, z: HEIGHT / 2 },
    { id: 'right-front', name: 'Post, right front', x: WIDTH / 2, z: HEIGHT / 2 },
  ].map(({ id, name, x, z }) => {
    // The awning leans forward: its corners lie where a turn by TILT about x puts them.
    const top = CENTRE - z * Math.sin(TILT) - 0.02;
    const place = z * Math.cos(TILT);
    return {
      id,
      name,
      top,
      position: [x, top / 2, place] as [number, number, number],
      foot: [x, 0.03, place] as [number, number, number],
    };
  });
  return createShot({
    id: 'nf020',
    code: 'NF020',
    name: 'Awning',
    lastFrame: 144,
    run: { quality: 'final' },
    camera: { position: [3.9, 2.9, 5.6], target: [0.25, 1.1, 0.1] },
    wind: { enabled: true, speed: 4.2, heading: 1.15, rise: 0.3, gustDepth: 0.4, gustPeriod: 2.2 },
    things: [
      createCloth({
        id: 'awning',
        name: 'Awning',
        card: 'canvas',
        shape,
        fabric: { weight: 0.36, bendWarp: 90e-6, bendWeft: 80e-6, restWarp: 1.025, restWeft: 1.03 },
        position: [0, CENTRE, 0],
        rotation: [TILT, 0, 0],
        print: { kind: 'stripe', colour: '#E9DFC6', second: '#A9503B', repeat: 0.5 },
        pinSets: [
          { id: 'back-posts', name: 'Back posts', points: [...near(0, 0), ...near(WIDTH, 0)] },
          { id: 'front-posts', name: 'Front posts', points: [...near(0, HEIGHT), ...near(WIDTH, HEIGHT)] },
        ],
      }),
      ...posts.map(({ id, name, top, position }) =>
        createCollider({
          id,
          name,
          shape: { kind: 'cylinder', radius: 0.035, height: top, segments: 32 },
          position,
          colour: '#93836B',
        }),
      ),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, clearance: 0.002, friction: 0.5 }),
      ...posts.map(({ id, name, foot }) =>
        createScenery({
          id: `${id}-foot`,
          name: name.replace('Post', 'Foot'),
          shape: { kind: 'cylinder', radius: 0.12, height: 0.06, segments: 40 },
          position: foot,
          colour: '#55504A',
        }),
      ),
    ],
  });
}
