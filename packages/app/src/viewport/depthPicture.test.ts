import fc from 'fast-check';
import { PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { depthOf, placeInDepth, visiblePoints, type DepthPicture } from './depthPicture';

const [width, height] = [120, 80];

function camera(): PerspectiveCamera {
  const made = new PerspectiveCamera(40, width / height, 0.1, 50);
  made.position.set(0.5, 1.5, 3);
  made.lookAt(0, 0.5, 0);
  made.updateMatrixWorld();
  return made;
}

/** A picture in which everything is as far away, and belongs to “wall”. */
function wall(depth: number): DepthPicture {
  return {
    ...{ width, height, owners: ['wall', 'sheet'] },
    depths: new Float32Array(width * height).fill(depth),
    owned: new Uint16Array(width * height),
  };
}

/** How far into the picture a place is. */
const away = (place: Vector3, from: PerspectiveCamera) => -place.clone().applyMatrix4(from.matrixWorldInverse).z;

describe('a picture of depths', () => {
  it('has its pixels from the lower left, and gives nothing beyond its edges', () => {
    const picture = wall(4);
    picture.depths[0] = 7;
    expect(depthOf('wall', picture, 0.5, height - 0.5)).toBe(7);
    expect(depthOf('wall', picture, 0.5, 0.5)).toBe(4);
    for (const [x, y] of [
      [-0.1, 5],
      [width, 5],
      [5, -0.1],
      [5, height],
    ] as const) {
      expect(depthOf('wall', picture, x, y)).toBe(Infinity);
    }
  });

  it('gives the depth of an owner only where that owner is what is seen', () => {
    const picture = wall(4);
    picture.owned[(height - 1 - 20) * width + 30] = 1;
    expect(depthOf('sheet', picture, 30.4, 20.6)).toBe(4);
    expect(depthOf('wall', picture, 30.4, 20.6)).toBe(Infinity);
    expect(depthOf('sheet', picture, 31.4, 20.6)).toBe(Infinity);
    expect(depthOf('nobody', picture, 31.4, 20.6)).toBe(Infinity);
  });

  it('leads back to the place in the world that was drawn', () => {
    const view = camera();
    fc.assert(
      fc.property(
        fc.tuple(...[-1, -0.5, -1].map((low) => fc.double({ min: low, max: low + 2, noNaN: true }))),
        ([x, y, z]) => {
          const place = new Vector3(x, y, z);
          const seen = place.clone().project(view);
          const at = [((seen.x + 1) / 2) * width, ((1 - seen.y) / 2) * height] as const;
          expect(placeInDepth(wall(1), view, ...at, away(place, view)).distanceTo(place)).toBeLessThan(1e-6);
        },
      ),
    );
  });

  it('sees points before the surface and on it, not those behind it or outside the picture', () => {
    const view = camera();
    const middle = placeInDepth(wall(1), view, width / 2, height / 2, 3);
    const farther = (metres: number) => {
      const way = middle.clone().sub(view.position).normalize();
      return middle.clone().addScaledVector(way, metres).toArray();
    };
    const outside = placeInDepth(wall(1), view, -10, height / 2, 3).toArray();
    const behindCamera = view.position.clone().sub(middle.clone().sub(view.position)).toArray();
    const points = [farther(0), farther(-0.5), farther(0.01), farther(0.2), outside, behindCamera].flat();
    expect([...visiblePoints(wall(3), view, points)]).toEqual([1, 1, 1, 0, 0, 0]);
  });

  it('sees a point at the edge of a surface: the farthest depth around it counts', () => {
    const view = camera();
    const picture = wall(Infinity);
    const point = placeInDepth(picture, view, width / 2 + 0.5, height / 2 + 0.5, 3).toArray();
    // A nearer surface covers the pixel of the point and all but one around it.
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) picture.depths[(height / 2 - 1 + dy) * width + width / 2 + dx] = 1;
    }
    expect(visiblePoints(picture, view, point)[0]).toBe(0);
    picture.depths[(height / 2) * width + width / 2 + 1] = 3;
    expect(visiblePoints(picture, view, point)[0]).toBe(1);
  });
});
