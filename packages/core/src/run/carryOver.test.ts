import { describe, expect, it } from 'vitest';
import type { Mesh } from '../mesh/mesh';
import { composePoses, applyPose, invertPose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import { createCloth, createCollider, createMount, createPinSet, createShot } from '../shot/create';
import { sidePoints } from '../shot/selectPoints';
import { shapeMesh } from '../shot/shapes';
import { poseAt } from '../shot/placement';
import type { Shot } from '../shot/schema';
import { BakeRun } from './bakeRun';
import { compile } from './compile';
import { runInputs } from './inputs';

const none = new Map<string, Mesh>();
const SHAPE = { kind: 'sheet', width: 0.5, height: 0.6, spacing: 0.05 } as const;
const LAST = 66;

const knots = (...stops: [number, number][]) =>
  stops.map(([frame, value]) => ({ frame, value, ease: 'smooth' as const }));
/** Drives 3 m, and turns by 80° on the way. */
const DRIVE = [
  { number: 'position.x', knots: knots([1, 0], [56, 3]) },
  { number: 'rotation.y', knots: knots([6, 0], [60, 1.4]) },
];

/** A cloth that hangs from a mount by its top. */
function shot(carry: object, keys: typeof DRIVE, more: object = {}): Shot {
  const pins = createPinSet({
    id: 'p',
    name: 'Top',
    points: sidePoints(shapeMesh(SHAPE, none), 'top'),
    rides: 'mount',
  });
  return createShot({
    ...{ name: 'Carried', lastFrame: LAST, run: { substeps: 40 } },
    things: [
      createCloth({
        ...{ id: 'c', name: 'Cape', card: 'wool-suiting', shape: SHAPE, pinSets: [pins], carry },
        ...{ position: [0.4, 1.5, 0.2], rotation: [Math.PI / 2, 0, 0], ...more },
      }),
      createMount({ id: 'mount', name: 'Mount', position: [0, 1, 0], keys: keys as never }),
    ],
  });
}

/** Points at the last frame in the axes of the mount, and how far apart two such lists are at most, in m. */
function carriedPoints(of: Shot): Vector3[] {
  const run = new BakeRun(of, none);
  let positions = new Float32Array();
  for (let n = 1; n <= LAST; n++) positions = run.next().positions[0]! as Float32Array<ArrayBuffer>;
  const mount = of.things.find(({ id }) => id === 'mount')!;
  const back = composePoses(poseAt(of, mount, 1), invertPose(poseAt(of, mount, LAST)));
  return Array.from({ length: positions.length / 3 }, (_, i) =>
    applyPose(back, [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!]),
  );
}
const apart = (a: readonly Vector3[], b: readonly Vector3[]) =>
  Math.max(...a.map((place, i) => Math.hypot(...place.map((value, axis) => value - b[i]![axis]!))));

describe('carry-over', () => {
  it('of 0 % hangs on a carrier that drives and turns as if that stood still, within 1 mm', () => {
    const still = carriedPoints(shot({}, []));
    expect(apart(carriedPoints(shot({ share: 0 }, DRIVE)), still)).toBeLessThan(0.001);
    // Of all of it, far from it.
    expect(apart(carriedPoints(shot({ share: 1 }, DRIVE)), still)).toBeGreaterThan(0.05);
  }, 60_000);

  it('of half is between', () => {
    const still = carriedPoints(shot({}, []));
    const [half, whole] = [0.5, 1].map((share) => apart(carriedPoints(shot({ share }, DRIVE)), still));
    expect(half!).toBeGreaterThan(0.01);
    expect(half!).toBeLessThan(0.8 * whole!);
  }, 60_000);

  it('of 100 %, or of a carrier that never moves, adds nothing to the run', () => {
    const field = (of: Shot) => compile(of, none).air.field;
    expect(field(shot({ share: 1 }, DRIVE))).toBeUndefined();
    expect(field(shot({ share: 0 }, []))).toBeUndefined();
    expect(field(shot({ share: 0.5 }, DRIVE))).toBeDefined();
    expect(runInputs(shot({ share: 0.5 }, DRIVE), none)).not.toEqual(runInputs(shot({ share: 1 }, DRIVE), none));
  });

  it('sways by itself, each seed otherwise, and goes on with it bit for bit', () => {
    const swaying = (seed: number) => shot({ sway: 1.5, swaySeed: seed }, []);
    const still = carriedPoints(shot({}, []));
    expect(apart(carriedPoints(swaying(1)), still)).toBeGreaterThan(0.01);
    expect(apart(carriedPoints(swaying(1)), carriedPoints(swaying(2)))).toBeGreaterThan(0.005);
    const whole = new BakeRun(swaying(1), none);
    for (let n = 0; n < 5; n++) whole.next();
    const resumed = new BakeRun(swaying(1), none, whole.checkpoint());
    expect([...resumed.next().positions[0]!]).toEqual([...whole.next().positions[0]!]);
  }, 60_000);

  it('keeps to colliders that are carried along', () => {
    // It lies on a tray that drives off: spared its motion, it stays on the tray without friction.
    const tray = createCollider({
      ...{ id: 'tray', name: 'Tray', shape: { kind: 'box', width: 1, height: 0.05, depth: 1 } as never, friction: 0 },
      keys: [{ number: 'position.x', knots: knots([1, 0], [24, 2]) }] as never,
      position: [0, 0.5, 0],
    });
    const lying = (share: number) =>
      createShot({
        ...{ name: 'Tray', lastFrame: 24, run: { substeps: 40 } },
        things: [
          createCloth({
            ...{ id: 'c', name: 'Napkin', shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.05 } },
            ...{ carry: { share }, parent: 'tray', position: [0, 0.035, 0] },
          }),
          tray,
        ],
      });
    const middleX = (of: Shot) => {
      const run = new BakeRun(of, none);
      let positions = new Float32Array();
      for (let n = 1; n <= 24; n++) positions = run.next().positions[0]! as Float32Array<ArrayBuffer>;
      const xs = [...positions].filter((_, i) => i % 3 === 0);
      return xs.reduce((sum, value) => sum + value, 0) / xs.length;
    };
    expect(middleX(lying(0))).toBeGreaterThan(1.9);
    expect(middleX(lying(1))).toBeLessThan(1.2);
  }, 60_000);
});
