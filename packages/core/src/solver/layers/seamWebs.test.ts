import { describe, expect, it } from 'vitest';
import { closedSeams } from '../../mesh/closeSeams';
import type { Mesh } from '../../mesh/mesh';
import { patternMesh } from '../../pattern/patternMesh';
import type { Piece } from '../../pattern/schema';
import { rectangle, side } from '../../run/sewnShots';
import type { PatternShape } from '../../shot/shapes/pattern';
import { withWebs, type WebbedCloth } from './seamWebs';

/** Two squares of 20 cm, sewn along one side. */
function twoSquares(back: Partial<Piece>): Mesh {
  const shape: PatternShape = {
    ...{ kind: 'pattern', spacing: 0.05, weave: 'along the grain', closing: 12 },
    pieces: [rectangle('f', 0.2, 0.2, { position: [0, 1, 0.1] }), rectangle('b', 0.2, 0.2, back)],
    seams: [{ id: 's', a: side('f', 0), b: side('b', 0), turned: true }],
  };
  return patternMesh(shape);
}

const asLaid = (rest: Mesh) => ({ rest, positions: rest.positions });
const faces = ({ triangles }: Mesh) => triangles.length / 3;

describe('webs in open seams', () => {
  const rest = twoSquares({ position: [0, 1, -0.1] });
  const stitches = rest.sewn!.filter((first, point) => first !== point).length;

  it('have two faces from stitch to stitch, after those of the cloth, between sewn points only', () => {
    const webbed = withWebs([asLaid(rest)])[0]!.mesh;
    expect(faces(webbed)).toBe(faces(rest) + 2 * (stitches - 1));
    expect(webbed.triangles.subarray(0, rest.triangles.length)).toEqual(rest.triangles);
    const { sewn } = rest;
    const inSeams = new Set([...sewn!.entries()].flatMap(([point, first]) => (first === point ? [] : [first, point])));
    for (const point of webbed.triangles.subarray(rest.triangles.length)) expect(inSeams).toContain(point);
  });

  it('are as wide as the seam is open, all the way', () => {
    const webbed = withWebs([asLaid(rest)])[0]!.mesh;
    const { positions, triangles } = webbed;
    let area = 0;
    for (let i = rest.triangles.length; i < triangles.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => positions.subarray(triangles[i + k]! * 3, triangles[i + k]! * 3 + 3));
      const u = [0, 1, 2].map((axis) => b![axis]! - a![axis]!);
      const v = [0, 1, 2].map((axis) => c![axis]! - a![axis]!);
      area +=
        0.5 * Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!);
    }
    // As long as the side, as wide as the pieces are apart.
    expect(area).toBeCloseTo(0.2 * 0.2, 6);
  });

  it('end in a point where a seam begins closed', () => {
    const positions = rest.positions.slice();
    const end = rest.sewn!.findIndex((first, point) => first !== point && atEnd(rest, point));
    positions.set(positions.subarray(rest.sewn![end]! * 3, rest.sewn![end]! * 3 + 3), end * 3);
    const webbed = withWebs([{ rest, positions }])[0]!.mesh;
    expect(faces(webbed)).toBe(faces(rest) + 2 * (stitches - 1) - 1);
  });

  it('are none in closed seams, and in cloth that is not sewn', () => {
    const closed = closedSeams(rest)!.mesh;
    const positions = rest.positions.map(
      (value, i) => rest.positions[rest.sewn![Math.floor(i / 3)]! * 3 + (i % 3)] ?? value,
    );
    expect(withWebs([asLaid(closed)])).toEqual([{ mesh: closed, apart: null }]);
    expect(withWebs([{ rest, positions }])).toEqual([{ mesh: rest, apart: null }]);
  });

  it('are left out where cloth passes through them from the start, and only there', () => {
    // A strip that stands across the seam, 5 cm wide at its middle.
    const strip: Mesh = {
      positions: Float32Array.of(0.01, 0.5, 0, 0.04, 0.5, 0, 0.025, 1.5, 0),
      triangles: Uint32Array.of(0, 1, 2),
    };
    const [webbed, other] = withWebs([asLaid(rest), asLaid(strip)]).map(({ mesh }) => mesh);
    expect(other).toBe(strip);
    const left = faces(webbed!) - faces(rest);
    expect(left).toBeLessThan(2 * (stitches - 1));
    expect(left).toBeGreaterThanOrEqual(2 * (stitches - 1) - 4);
  });

  it('let what is around a stitch pass itself where it starts crossed there', () => {
    // The back one is tilted so that it lies across the lower border of the front one at one end.
    const crossed = twoSquares({ position: [0, 1, 0.1], rotation: [0.2, 0.3, 0] });
    const [{ mesh, apart }] = withWebs([asLaid(crossed)]) as [WebbedCloth];
    expect(faces(mesh) - faces(crossed)).toBeLessThan(2 * (stitches - 1));
    const all = crossed.sewn!.filter((first, point) => first !== point).length;
    expect(apart!.filter((is) => is).length).toBeLessThan(all);
  });
});

/** Whether a sewn point is at the end of its side. */
function atEnd({ positions }: Mesh, point: number): boolean {
  return Math.abs(Math.abs(positions[point * 3]!) - 0.1) < 1e-6;
}
