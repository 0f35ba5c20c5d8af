import { shapeMesh, type Mesh, type Shape } from '@lumbra/core';
import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { moveGeometry, outlineGeometry, solidGeometry } from './solidGeometry';

const meshOf = (shape: Shape) => shapeMesh(shape, new Map());
const box = meshOf({ kind: 'box', width: 1, height: 2, depth: 3 });
const ball = meshOf({ kind: 'ball', radius: 1, detail: 3 });

describe('the geometry that a solid thing is drawn from', () => {
  const normals = (mesh: Mesh) => {
    const attribute = solidGeometry(mesh).getAttribute('normal');
    return Array.from({ length: attribute.count }, (_, i) => new Vector3().fromBufferAttribute(attribute, i));
  };

  it('has hard edges where a shape has edges, and none where it is round', () => {
    const straight = [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ].map((axis) => new Vector3(...axis));
    for (const normal of normals(box)) {
      expect(Math.max(...straight.map((axis) => Math.abs(axis.dot(normal))))).toBeCloseTo(1, 4);
    }
    const geometry = solidGeometry(ball);
    const [position, normal] = [geometry.getAttribute('position'), geometry.getAttribute('normal')];
    for (let i = 0; i < position.count; i++) {
      const out = new Vector3().fromBufferAttribute(position, i).normalize();
      expect(out.dot(new Vector3().fromBufferAttribute(normal, i))).toBeGreaterThan(0.99);
    }
  });

  it('outlines a box by its twelve edges, and what has none by its bounds', () => {
    for (const mesh of [box, ball]) {
      const edges = outlineGeometry(mesh);
      expect(edges.getAttribute('position').count).toBe(24);
      edges.computeBoundingBox();
      const size = edges.boundingBox!.getSize(new Vector3()).toArray();
      const wanted = mesh === box ? [1, 2, 3] : [2, 2, 2];
      size.forEach((value, axis) => expect(value).toBeCloseTo(wanted[axis]!, 1));
    }
  });

  it('knows how large it is, so that drawing it need not find out', () => {
    const geometry = solidGeometry(ball);
    const { boundingBox, boundingSphere } = solidGeometry({ ...ball, motion: { clips: [] } } as unknown as Mesh);
    geometry.computeBoundingBox();
    expect(boundingBox!.equals(geometry.boundingBox!)).toBe(true);
    const position = geometry.getAttribute('position');
    for (let i = 0; i < position.count; i++) {
      const away = new Vector3().fromBufferAttribute(position, i).distanceTo(boundingSphere!.center);
      expect(away).toBeLessThanOrEqual(boundingSphere!.radius);
    }
    const nothing = solidGeometry({
      ...ball,
      positions: new Float32Array(),
      triangles: new Uint32Array(),
      motion: { clips: [] },
    } as unknown as Mesh);
    expect(nothing.boundingSphere!.radius).toBe(0);
  });

  it('goes along with a mesh that moves', () => {
    const moving = { ...box, motion: { clips: [] } } as unknown as Mesh;
    const geometry = solidGeometry(moving);
    const turned = box.positions.map((_, i) => [1, -1, 1][i % 3]! * box.positions[i - (i % 3) + [1, 0, 2][i % 3]!]!);
    moveGeometry(geometry, turned, box.triangles);
    expect([...(geometry.getAttribute('position').array as Float32Array)]).toEqual([...turned]);
    expect(geometry.boundingBox!.getSize(new Vector3()).toArray()).toEqual([2, 1, 3]);
  });
});
