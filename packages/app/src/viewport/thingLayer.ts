import { pointNormals, shapeMesh, type Assets, type Thing, type Vector3 } from '@lumbra/core';
import {
  BufferAttribute,
  BufferGeometry,
  EdgesGeometry,
  Euler,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh as ThreeMesh,
  MeshStandardMaterial,
  type Material,
} from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';

type Solid = Extract<Thing, { role: 'collider' | 'scenery' }>;

/** A collider, a piece of scenery or a peg in the viewport. The endless ground is drawn by the stage's floor. */
export class ThingLayer {
  readonly group = new Group();
  #key = '';
  #outline: LineSegments2 | null = null;
  #disposables: { dispose: () => void }[] = [];

  constructor(thing: Exclude<Thing, { role: 'cloth' }>, assets: Assets) {
    this.group.userData['thing'] = thing.id;
    this.#key = ThingLayer.key(thing);
    if (thing.role === 'peg') this.#addPeg();
    else if (thing.shape.kind !== 'ground') this.#addSolid(thing, assets);
    this.update(thing);
  }

  static key(thing: Thing): string {
    return JSON.stringify([thing.role, 'shape' in thing ? thing.shape : null, 'colour' in thing ? thing.colour : null]);
  }

  fits(thing: Thing): boolean {
    return ThingLayer.key(thing) === this.#key;
  }

  update(thing: Thing): void {
    this.group.visible = thing.visible;
    this.place(thing);
  }

  place({ position, rotation }: { position: Vector3; rotation: Vector3 }): void {
    this.group.position.set(...position);
    const [x, y, z] = rotation;
    // Turned about x, then y, then z, each about the fixed axes.
    this.group.setRotationFromEuler(new Euler(x, y, z, 'ZYX'));
  }

  setSelected(selected: boolean, colour: string): void {
    if (!this.#outline) return;
    this.#outline.visible = selected;
    (this.#outline.material as LineMaterial).color.set(colour);
  }

  #addSolid(thing: Solid, assets: Assets): void {
    const mesh = shapeMesh(thing.shape, assets);
    let geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
    geometry.setIndex(new BufferAttribute(mesh.triangles, 1));
    const edges = new EdgesGeometry(geometry, 35);
    if (thing.shape.kind === 'box' || thing.shape.kind === 'cylinder') {
      // Hard edges: every face has its own points.
      const split = geometry.toNonIndexed();
      geometry.dispose();
      geometry = split;
      geometry.computeVertexNormals();
      if (thing.shape.kind === 'cylinder') roundSides(geometry, thing.shape.height);
    } else {
      geometry.setAttribute('normal', new BufferAttribute(pointNormals(mesh.positions, mesh.triangles), 3));
    }
    const material = new MeshStandardMaterial({ color: thing.colour, roughness: 0.85 });
    const body = new ThreeMesh(geometry, material);
    body.castShadow = body.receiveShadow = true;
    body.userData['thing'] = thing.id;
    const lines = new LineSegmentsGeometry().fromEdgesGeometry(edges);
    const stitch = new LineMaterial({
      linewidth: 2,
      dashed: true,
      dashSize: 0.03,
      gapSize: 0.015,
      polygonOffset: true,
      polygonOffsetFactor: -4,
    });
    this.#outline = new LineSegments2(lines, stitch);
    this.#outline.computeLineDistances();
    this.#outline.visible = false;
    this.group.add(body, this.#outline);
    this.#disposables.push(geometry, material, edges, lines, stitch);
  }

  /** A peg is a small cross in space. */
  #addPeg(): void {
    const s = 0.06;
    const geometry = new BufferGeometry();
    geometry.setAttribute(
      'position',
      new BufferAttribute(new Float32Array([-s, 0, 0, s, 0, 0, 0, -s, 0, 0, s, 0, 0, 0, -s, 0, 0, s]), 3),
    );
    const material: Material = new LineBasicMaterial({ color: '#4A5162' });
    this.group.add(new LineSegments(geometry, material));
    this.#disposables.push(geometry, material);
  }

  dispose(): void {
    for (const item of this.#disposables) item.dispose();
  }
}

/** The side of a cylinder is smooth: its normals point away from the axis. */
function roundSides(geometry: BufferGeometry, height: number): void {
  const position = geometry.getAttribute('position');
  const normal = geometry.getAttribute('normal');
  for (let i = 0; i < position.count; i++) {
    if (Math.abs(normal.getY(i)) > 0.5 || Math.abs(position.getY(i)) > height) continue;
    const size = Math.hypot(position.getX(i), position.getZ(i)) || 1;
    normal.setXYZ(i, position.getX(i) / size, 0, position.getZ(i) / size);
  }
}
