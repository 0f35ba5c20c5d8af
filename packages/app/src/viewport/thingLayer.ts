import {
  hasSizeKeys,
  meshAt,
  motionPoints,
  poseAt,
  shapeAt,
  shapeMesh,
  type Assets,
  type Mesh,
  type Shot,
  type Thing,
} from '@lumbra/core';
import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh as ThreeMesh,
  MeshStandardMaterial,
  type Points,
} from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { poseObject } from './poseObject';
import { BODY_LAYER } from './depthPicture';
import { markParts } from './pinMarks';
import { moveGeometry, outlineGeometry, solidGeometry } from './solidGeometry';

const solidMaterial = (colour: string) => new MeshStandardMaterial({ color: colour, roughness: 0.85 });

/** The stitched line around what is selected. */
export function stitchMaterial(): LineMaterial {
  return new LineMaterial({
    linewidth: 2,
    dashed: true,
    dashSize: 0.03,
    gapSize: 0.015,
    polygonOffset: true,
    polygonOffsetFactor: -4,
  });
}

/** Something of each kind that solid things, marks and lines on top are drawn from, too small to be seen. */
export function warmUpParts(): (ThreeMesh | Points | LineSegments)[] {
  const body = new ThreeMesh(new BoxGeometry(1e-5, 1e-5, 1e-5), solidMaterial('#ffffff'));
  body.castShadow = body.receiveShadow = true;
  const lines = new LineSegmentsGeometry().setPositions([0, 0, 0, 1e-5, 0, 0]);
  const tie = new LineMaterial({ linewidth: 2, dashed: true, depthTest: false, transparent: true });
  const parts = [body, new LineSegments2(lines, stitchMaterial()), new LineSegments2(lines, tie), ...markParts()];
  for (const part of parts) part.frustumCulled = false;
  return parts;
}

type Solid = Extract<Thing, { role: 'collider' | 'scenery' }>;

/** A collider, a piece of scenery, a mount or the place of air in the viewport. The endless ground is drawn by the stage's floor. */
export class ThingLayer {
  readonly group = new Group();
  /** What is drawn and clicked; none for a mount, the ground, and a thing whose mesh is missing. */
  body: ThreeMesh | null = null;
  #key: string;
  #mesh: Mesh | null = null;
  #outline: LineSegments2 | null = null;
  #disposables: { dispose: () => void }[] = [];
  #shownMotion = '';

  constructor(thing: Exclude<Thing, { role: 'cloth' }>, assets: Assets) {
    this.group.userData['thing'] = thing.id;
    this.#key = ThingLayer.#keyOf(thing, assets);
    if (!('shape' in thing)) this.#addMount(thing.id);
    else if (thing.shape.kind !== 'ground') this.#addSolid(thing, assets);
    this.group.visible = thing.visible;
  }

  static #keyOf(thing: Thing, assets: Assets): string {
    const shape = 'shape' in thing ? thing.shape : null;
    const missing = shape?.kind === 'mesh' && !assets.has(shape.asset);
    return JSON.stringify([thing.role, shape, 'colour' in thing ? thing.colour : null, missing, hasSizeKeys(thing)]);
  }

  fits(thing: Thing, assets: Assets): boolean {
    return ThingLayer.#keyOf(thing, assets) === this.#key;
  }

  /** Shows a thing as it is at a frame, with what it rides, keyed sizes and its imported animation. */
  update(shot: Shot, thing: Thing, frame: number): void {
    this.group.visible = thing.visible;
    poseObject(this.group, poseAt(shot, thing, frame));
    if (this.body && 'shape' in thing && hasSizeKeys(thing)) this.#resize(this.body, thing, frame);
    if (!this.body || !this.#mesh?.motion || !('motion' in thing)) return;
    const key = JSON.stringify([thing.motion, thing.motion && frame, shot.frameRate]);
    if (key === this.#shownMotion) return;
    this.#shownMotion = key;
    moveGeometry(
      this.body.geometry,
      motionPoints(this.#mesh, thing.motion, shot.frameRate, frame),
      this.#mesh.triangles,
    );
  }

  /** Gives it the size of a frame. */
  #resize(body: ThreeMesh, thing: Extract<Thing, { shape: unknown }>, frame: number): void {
    const key = JSON.stringify(shapeAt(thing, frame));
    if (key === this.#shownMotion) return;
    this.#shownMotion = key;
    // What has numbers to be keyed needs no mesh of the shot.
    const mesh = meshAt(thing, new Map(), frame);
    const before = body.geometry;
    body.geometry = solidGeometry(mesh);
    before.dispose();
    this.#mesh = mesh;
    if (!this.#outline) return;
    const edges = outlineGeometry(mesh);
    this.#outline.geometry.setPositions(edges.getAttribute('position').array as Float32Array);
    this.#outline.computeLineDistances();
    edges.dispose();
  }

  setSelected(selected: boolean, colour: string): void {
    // Made when it is first shown: finding edges takes a while.
    if (selected && this.#mesh) this.#outline ??= this.#makeOutline(this.#mesh);
    if (!this.#outline) return;
    this.#outline.visible = selected;
    this.#outline.material.color.set(colour);
  }

  #addSolid(thing: Solid, assets: Assets): void {
    try {
      this.#mesh = shapeMesh(thing.shape, assets);
    } catch {
      // The Stage says that the mesh is missing.
      return;
    }
    const geometry = solidGeometry(this.#mesh);
    const material = solidMaterial(thing.colour);
    const body = new ThreeMesh(geometry, material);
    body.castShadow = body.receiveShadow = true;
    body.userData['thing'] = thing.id;
    body.layers.enable(BODY_LAYER);
    this.group.add(body);
    this.body = body;
    this.#disposables.push(geometry, material);
  }

  #makeOutline(mesh: Mesh): LineSegments2 {
    const edges = outlineGeometry(mesh);
    const lines = new LineSegmentsGeometry().setPositions(edges.getAttribute('position').array as Float32Array);
    edges.dispose();
    const stitch = stitchMaterial();
    const outline = new LineSegments2(lines, stitch);
    outline.computeLineDistances();
    this.group.add(outline);
    this.#disposables.push(lines, stitch);
    return outline;
  }

  /** A mount, or where air comes from, is a small cross in space. */
  #addMount(id: string): void {
    const s = 0.06;
    const geometry = new BufferGeometry();
    const places = [-s, 0, 0, s, 0, 0, 0, -s, 0, 0, s, 0, 0, 0, -s, 0, 0, s];
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(places), 3));
    const material = new LineBasicMaterial({ color: '#4A5162' });
    const cross = new LineSegments(geometry, material);
    cross.userData['thing'] = id;
    const stitch = new LineMaterial({ linewidth: 3, polygonOffset: true, polygonOffsetFactor: -4 });
    const lines = new LineSegmentsGeometry().setPositions(places);
    this.#outline = new LineSegments2(lines, stitch);
    this.#outline.visible = false;
    this.group.add(cross, this.#outline);
    this.#disposables.push(geometry, material, lines, stitch);
  }

  dispose(): void {
    this.body?.geometry.dispose();
    for (const item of this.#disposables) item.dispose();
  }
}
