import type { Mesh as CoreMesh } from '@lumbra/core';
import { shapeMesh } from '@lumbra/core';
import {
  BufferAttribute,
  BufferGeometry,
  Group,
  Mesh,
  MeshBasicMaterial,
  PerspectiveCamera,
  Scene,
  Vector3,
  type WebGLRenderer,
} from 'three';
import { describe, expect, it, vi } from 'vitest';
import type { ClothLayer } from './clothLayer';
import { Picking, type Layers } from './picking';
import type { ThingLayer } from './thingLayer';

const [clientWidth, clientHeight] = [800, 600];

function bodyOf({ positions, triangles }: CoreMesh, id: string, height: number): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setIndex(new BufferAttribute(triangles, 1));
  const body = new Mesh(geometry, new MeshBasicMaterial());
  body.userData['thing'] = id;
  body.position.y = height;
  return body;
}

/** A sheet of 1 by 1 m at 1 m above the ground, with a small box on it, seen from straight above. Nothing is drawn. */
function above() {
  const camera = new PerspectiveCamera(40, clientWidth / clientHeight, 0.1, 50);
  camera.position.set(0, 4, 0);
  camera.up.set(0, 0, -1);
  camera.lookAt(0, 0, 0);
  camera.updateMatrixWorld();
  const sheet = shapeMesh({ kind: 'sheet', width: 1, height: 1, spacing: 0.1 }, new Map());
  const positions = sheet.positions.map((value, i) => (i % 3 === 1 ? value + 1 : value));
  const surface = bodyOf({ ...sheet, positions }, 'sheet', 0);
  const box = bodyOf(shapeMesh({ kind: 'box', width: 0.2, height: 0.2, depth: 0.2 }, new Map()), 'box', 1.1);
  const groups = [surface, box].map((body) => new Group().add(body));
  const scene = new Scene().add(...groups);
  scene.updateMatrixWorld(true);
  const layers = {
    cloths: new Map([['sheet', { surface, group: groups[0], positions } as unknown as ClothLayer]]),
    things: new Map([['box', { group: groups[1] } as unknown as ThingLayer]]),
  } satisfies Layers;
  const renderer = { domElement: { clientWidth, clientHeight } } as unknown as WebGLRenderer;
  const drawn = vi.fn();
  const picking = new Picking(renderer, scene, { camera, target: new Vector3(0, 0.5, 0) }, layers, drawn);
  return { picking, groups, positions, camera, drawn };
}

/** Where a place in m is on the canvas. */
const at = (picking: Picking, x: number, z: number, y = 1) => picking.project([x, y, z])!;

describe('picking', () => {
  it('finds the nearest thing under a place, and nothing beside all', () => {
    const { picking, groups } = above();
    const [middle, side, far] = [at(picking, 0, 0), at(picking, 0.4, 0.3), at(picking, 0.9, 0.9)];
    expect(picking.thingAt(middle.x, middle.y)).toBe('box');
    expect(picking.thingAt(side.x, side.y)).toBe('sheet');
    expect(picking.thingAt(far.x, far.y)).toBeNull();
    // What is not shown is not picked.
    groups[1]!.visible = false;
    expect(picking.thingAt(middle.x, middle.y)).toBe('sheet');
    expect(picking.isCloth('sheet')).toBe(true);
    expect(picking.isCloth('box')).toBe(false);
  });

  it('finds the place under the pointer: on a thing, else on the floor, else where the view looks', () => {
    const { picking, camera } = above();
    const near = (found: readonly number[], wanted: number[]) =>
      found.forEach((value, axis) => expect(value).toBeCloseTo(wanted[axis]!, 4));
    const side = at(picking, 0.4, 0.3);
    near(picking.placeAt(side.x, side.y), [0.4, 1, 0.3]);
    const floor = at(picking, 1.2, -0.9, 0);
    near(picking.placeAt(floor.x, floor.y), [1.2, 0, -0.9]);
    camera.lookAt(0, 8, 0.001);
    camera.updateMatrixWorld();
    near(picking.placeAt(clientWidth / 2, clientHeight / 2), [0, 0.5, 0]);
  });

  it('keeps to a depth while a hand pulls', () => {
    const { picking } = above();
    const grip = [0.2, 1, 0.1] as const;
    const to = at(picking, 0.5, -0.3);
    const place = picking.placeAtDepth(to.x, to.y, grip);
    [0.5, 1, -0.3].forEach((value, axis) => expect(place[axis]).toBeCloseTo(value, 5));
  });

  it('finds points in a part of the canvas, hidden ones too when they are asked for', () => {
    const { picking, positions, drawn } = above();
    const corner = at(picking, 0, 0);
    const quarter = picking.pointsWhere('sheet', (x, y) => x >= corner.x - 1 && y >= corner.y - 1, true);
    // Right and down on the canvas are +x and +z seen from above.
    expect(quarter).toHaveLength(36);
    for (const point of quarter) {
      expect(positions[point * 3]).toBeGreaterThan(-0.01);
      expect(positions[point * 3 + 2]).toBeGreaterThan(-0.01);
    }
    expect(picking.pointsWhere('nobody', () => true, true)).toEqual([]);
    // Where nothing is found, no picture of depths needs to be drawn to know what is hidden.
    expect(picking.pointsWhere('sheet', () => false, false)).toEqual([]);
    expect(drawn).not.toHaveBeenCalled();
  });

  it('finds the nearest point within reach', () => {
    const { picking, positions } = above();
    const { x, y } = at(picking, 0.32, 0.09);
    const found = picking.nearestPoint('sheet', x, y, 30, true);
    expect(positions[found * 3]).toBeCloseTo(0.3, 5);
    expect(positions[found * 3 + 2]).toBeCloseTo(0.1, 5);
    const beside = at(picking, 0.7, 0);
    expect(picking.nearestPoint('sheet', beside.x, beside.y, 10, true)).toBe(-1);
  });

  it('measures how large a metre is on the canvas', () => {
    const { picking } = above();
    const [left, right] = [at(picking, -0.5, 0), at(picking, 0.5, 0)];
    expect(picking.pixelsAt([0, 1, 0])).toBeCloseTo(right.x - left.x, 3);
    expect(picking.pixelsAt([0, 2.5, 0])).toBeCloseTo(2 * picking.pixelsAt([0, 1, 0]), 3);
    expect(picking.project([0, 9, 0])).toBeNull();
  });
});
