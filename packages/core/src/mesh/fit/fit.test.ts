import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyPose, invertPose } from '../../math/pose';
import type { Vector3 } from '../../math/vector';
import { isClosed, topology } from '../topology';
import { place } from '../place';
import { box } from '../shapes/box';
import { capsule } from '../shapes/capsule';
import { ring } from '../shapes/ring';
import { signedVolume } from '../volume';
import { coarseHull } from './coarseHull';
import { fitBall, fitBox, fitCapsule, fitCylinder } from './fitShapes';

const angle = fc.double({ min: -3, max: 3, noNaN: true });
const turned = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vector3>;
const placesOf = (positions: Float32Array): Vector3[] =>
  Array.from({ length: positions.length / 3 }, (_, i) => [
    positions[i * 3]!,
    positions[i * 3 + 1]!,
    positions[i * 3 + 2]!,
  ]);

describe('fitted shapes', () => {
  it('the box around a turned box is that box', () => {
    fc.assert(
      fc.property(turned, (rotation) => {
        const { positions } = place(box({ size: [1, 0.5, 0.2] }), { position: [3, -1, 2], rotation });
        const fitted = fitBox(positions);
        // A box that is turned next to nothing is fitted along the mesh's own axes, if that is larger by less than 0.1 %.
        expect([...fitted.size].sort((a, b) => a - b)).toEqual([
          expect.closeTo(0.2, 3),
          expect.closeTo(0.5, 3),
          expect.closeTo(1, 3),
        ]);
        expect(fitted.size[0] * fitted.size[1] * fitted.size[2]).toBeLessThan(0.1 * 1.00101);
      }),
      { numRuns: 30 },
    );
  });

  it('the capsule around a turned capsule is that capsule', () => {
    const mesh = capsule({ radius: 0.1, height: 0.9, segments: 32 });
    fc.assert(
      fc.property(turned, (rotation) => {
        const fitted = fitCapsule(place(mesh, { position: [0, 2, 0], rotation }).positions);
        expect(fitted.radius).toBeCloseTo(0.1, 3);
        expect(fitted.height).toBeCloseTo(0.9, 2);
      }),
      { numRuns: 20 },
    );
  });

  it('hold every point of any cloud', () => {
    const coordinate = fc.double({ min: -2, max: 2, noNaN: true });
    fc.assert(
      fc.property(fc.array(coordinate, { minLength: 30, maxLength: 90 }), (values) => {
        const positions = new Float32Array(values.slice(0, values.length - (values.length % 3)));
        const places = placesOf(positions);
        const ballAround = fitBall(positions);
        const boxAround = fitBox(positions);
        const [cylinderAround, capsuleAround] = [fitCylinder(positions), fitCapsule(positions)];
        for (const at of places) {
          expect(Math.hypot(...at.map((v, i) => v - ballAround.center[i]!))).toBeLessThanOrEqual(
            ballAround.radius + 1e-5,
          );
          const inBox = applyPose(invertPose(boxAround.pose), at);
          inBox.forEach((v, i) => expect(Math.abs(v)).toBeLessThanOrEqual(boxAround.size[i]! / 2 + 1e-5));
          const [x, y, z] = applyPose(invertPose(cylinderAround.pose), at);
          expect(Math.hypot(x, z)).toBeLessThanOrEqual(cylinderAround.radius + 1e-5);
          expect(Math.abs(y)).toBeLessThanOrEqual(cylinderAround.height / 2 + 1e-5);
          const [cx, cy, cz] = applyPose(invertPose(capsuleAround.pose), at);
          const half = capsuleAround.height / 2 - capsuleAround.radius;
          const up = cy - Math.max(-half, Math.min(half, cy));
          expect(Math.hypot(cx, up, cz)).toBeLessThanOrEqual(capsuleAround.radius + 1e-5);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('the ball is nearly the smallest one', () => {
    const { positions } = box({ size: [2, 2, 2] });
    expect(fitBall(positions).radius).toBeCloseTo(Math.sqrt(3), 2);
  });

  it('the hull is closed, looks outwards and fills the hole of a ring', () => {
    const mesh = ring({ radius: 0.5, tubeRadius: 0.1, segments: 48 });
    const hull = coarseHull(mesh);
    expect(isClosed(topology(hull))).toBe(true);
    expect(hull.triangles.length / 3).toBeLessThanOrEqual(320);
    expect(signedVolume(hull)).toBeGreaterThan(signedVolume(mesh) * 2);
  });
});
