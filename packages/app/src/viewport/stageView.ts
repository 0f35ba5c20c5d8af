import { type Assets, type Cloth, type Pose, type Shot, type Vector3 as Place } from '@lumbra/core';
import {
  Box3,
  Color,
  DirectionalLight,
  Group,
  HemisphereLight,
  Matrix4,
  MOUSE,
  PerspectiveCamera,
  Scene,
  Vector3,
  type BufferGeometry,
  type Mesh as ThreeMesh,
  type MeshStandardMaterial,
  type Object3D,
  type WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';

import { ClothLayer } from './clothLayer';
import { DrawPace } from './drawPace';
import { Floor } from './floor';
import { giveBack, type Drawing } from './keptDrawing';
import { DAY, EVENING } from './looks';
import { Picking } from './picking';
import type { ViewMode } from '../stores/selection';
import { pixelRatio } from './pixelRatio';
import { readPicture } from './readPicture';
import type { ShownMesh } from './scene';
import { PlaceTool, type PlaceMode } from './placeTool';
import { ThingLayer, warmUpParts } from './thingLayer';

/** Direction to the key light, from the left and a little in front: raking light lets folds read. */
const KEY = new Vector3(-0.8, 0.86, 0.52).normalize();
/** Direction to the sky's broad, weaker light, from the camera's usual side. */
const SKY = new Vector3(0.55, 0.7, 0.75);

/** How long the view takes to bring something in, in ms. */
const BRING_IN = 300;
const REDUCED_MOTION = window.matchMedia('(prefers-reduced-motion: reduce)');

/**
 * The three.js side of the viewport: one layer per kind of thing. Draws on demand only; every change ends in
 * `invalidate`.
 */
export class StageView {
  readonly camera = new PerspectiveCamera(35, 1, 0.05, 100);
  readonly controls: OrbitControls;
  /** What is where in the picture. */
  readonly picking: Picking;
  readonly #drawing: Drawing;
  readonly #scene = new Scene();
  readonly #key = new DirectionalLight();
  readonly #sky = new DirectionalLight();
  readonly #hemisphere = new HemisphereLight('#FFFFFF', '#CFC8BC');
  readonly #floor = new Floor();
  /** Handles for whoever is served by them. */
  readonly handles: PlaceTool;
  /** What is besides the scene, and what it does before it is drawn. */
  readonly #added = new Map<Object3D, ((camera: PerspectiveCamera, height: number) => void) | undefined>();
  readonly #cloths = new Map<string, ClothLayer>();
  readonly #things = new Map<string, ThingLayer>();
  #look = DAY;
  #selected: readonly string[] = [];
  #masks: ReadonlyMap<string, Uint8Array> = new Map();
  #quick = false;
  #size: [width: number, height: number] = [0, 0];
  #pending = false;
  readonly #pace = new DrawPace();
  #warm = false;
  #warmed = false;
  #ready = false;
  /** Shaders that the driver is waited for. */
  #coming: Promise<void> | null = null;
  #disposed = false;
  /** Called after each drawing. */
  onDraw: (() => void) | null = null;

  constructor(drawing: Drawing) {
    this.#drawing = drawing;
    const { canvas } = drawing;
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.zoomToCursor = true;
    this.picking = new Picking(
      this.#renderer,
      this.#scene,
      { camera: this.camera, target: this.controls.target },
      { cloths: this.#cloths, things: this.#things },
      () => this.invalidate(),
    );
    this.controls.addEventListener('change', () => {
      this.picking.forget();
      this.invalidate();
    });
    this.#key.castShadow = true;
    this.#key.shadow.mapSize.set(2048, 2048);
    this.#key.shadow.bias = -0.0012;
    this.#key.shadow.normalBias = 0.014;
    this.#key.shadow.radius = 6;
    this.handles = new PlaceTool(this.camera, canvas, {
      dragging: (on) => (this.controls.enabled = !on),
      changed: () => this.invalidate(),
    });
    this.#scene.add(this.#key, this.#key.target, this.#sky, this.#hemisphere, this.#floor.group);
    this.#scene.add(this.handles.handle, this.handles.object);
    this.setEvening(false);
  }

  get #renderer(): WebGLRenderer {
    return this.#drawing.renderer;
  }

  /** Adds an object besides the scene, and what it does before each drawing, given the height of the picture in CSS pixels; returns what ends it. */
  add(object: Object3D, beforeDraw?: (camera: PerspectiveCamera, height: number) => void): () => void {
    this.#added.set(object, beforeDraw);
    this.#scene.add(object);
    this.invalidate();
    return () => {
      this.#added.delete(object);
      this.#scene.remove(object);
      this.invalidate();
    };
  }

  /** Draws the shot as soon as the driver has what it is drawn with. Nothing is drawn before. */
  prepare(): void {
    this.#ready = true;
    this.invalidate();
  }

  /**
   * Draws what solid things are drawn with once before the first one comes, so that it is not the import or the press of a button that
   * waits for the driver.
   */
  async #warmUp(): Promise<void> {
    this.#warm = true;
    const parts = warmUpParts();
    const group = new Group().add(...parts);
    await this.#drawing.shaders.ask(this.#scene, this.camera, group);
    if (this.#disposed) return;
    // By itself in the light of the scene: a picture of all would be drawn twice.
    const others = this.#scene.children.filter((object) => object.visible && !('isLight' in object));
    for (const object of others) object.visible = false;
    this.#scene.add(group);
    this.#render();
    this.#scene.remove(group);
    for (const object of others) object.visible = true;
    this.#warmed = true;
    this.draw();
    for (const part of parts) part.geometry.dispose();
  }

  /** Leaves the left button to a tool; the right one and the wheel still move the view, and the middle one turns it. */
  setPointing(on: boolean): void {
    this.controls.mouseButtons.LEFT = on ? (-1 as MOUSE) : MOUSE.ROTATE;
    this.controls.mouseButtons.MIDDLE = on ? MOUSE.ROTATE : MOUSE.DOLLY;
  }

  setEvening(evening: boolean): void {
    const look = evening ? EVENING : DAY;
    this.#look = look;
    this.#scene.background = new Color(look.ground);
    this.#floor.setColours(look.floor, look.line, look.shadow);
    this.#key.color.set(look.key[0]);
    this.#key.intensity = look.key[1];
    this.#sky.color.set(look.sky[0]);
    this.#sky.intensity = look.sky[1];
    this.#sky.position.copy(SKY);
    this.#hemisphere.intensity = look.hemisphere;
    this.#renderer.toneMappingExposure = look.exposure;
    this.handles.setColours(...look.handles);
    this.invalidate();
  }

  /** Draws with fewer pixels and without shadows, or as well as it can. */
  setQuick(quick: boolean): void {
    if (quick === this.#quick) return;
    this.#quick = quick;
    this.#key.castShadow = !quick;
    this.#floor.showShadows(!quick);
    this.resize(...this.#size);
  }

  /** To a size in CSS pixels, with so many pixels for each. */
  resize(width: number, height: number, ratio = pixelRatio(this.#quick)): void {
    if (width === 0 || height === 0) return;
    this.#size = [width, height];
    const { width: wide, height: high } = this.#renderer.domElement;
    this.#renderer.setPixelRatio(ratio);
    if (wide !== Math.floor(width * ratio) || high !== Math.floor(height * ratio))
      this.#renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.picking.forget();
    this.invalidate();
  }

  lookFrom(position: readonly number[], target: readonly number[]): void {
    this.camera.position.set(position[0]!, position[1]!, position[2]!);
    this.controls.target.set(target[0]!, target[1]!, target[2]!);
    this.controls.update();
    this.invalidate();
  }

  /** Brings the layers in line with the shot as it is at a frame. Layers whose mesh is unchanged are kept. */
  setShot(shot: Shot, assets: Assets, mode: ViewMode, frame: number): void {
    const roles = new Map(shot.things.map(({ id, role }) => [id, role]));
    for (const [id, layer] of this.#cloths) if (roles.get(id) !== 'cloth') this.#remove(this.#cloths, id, layer);
    for (const [id, layer] of this.#things) {
      if (!roles.has(id) || roles.get(id) === 'cloth') this.#remove(this.#things, id, layer);
    }
    for (const thing of shot.things) {
      if (thing.role === 'cloth') {
        const known = this.#cloths.get(thing.id);
        if (known?.fits(thing)) known.update(thing, mode);
        else {
          if (known) this.#remove(this.#cloths, thing.id, known);
          this.#addCloth(thing, assets, mode);
        }
        continue;
      }
      const known = this.#things.get(thing.id);
      if (known?.fits(thing, assets)) continue;
      if (known) this.#remove(this.#things, thing.id, known);
      const layer = new ThingLayer(thing, assets);
      this.#things.set(thing.id, layer);
      this.#scene.add(layer.group);
    }
    this.moveThings(shot, frame);
    this.select(this.#selected);
  }

  #addCloth(cloth: Cloth, assets: Assets, mode: ViewMode): void {
    // The Stage says which mesh is missing.
    if (cloth.shape.kind === 'mesh' && !assets.has(cloth.shape.asset)) return;
    const layer = new ClothLayer(cloth, assets, mode, () => this.invalidate());
    layer.setMask(this.#masks.get(cloth.id) ?? null);
    this.#cloths.set(cloth.id, layer);
    this.#scene.add(layer.group);
  }

  #remove<L extends ClothLayer | ThingLayer>(layers: Map<string, L>, id: string, layer: L): void {
    this.#scene.remove(layer.group);
    layer.dispose();
    layers.delete(id);
  }

  /** Takes cloth to its places; what is shown in place of its own mesh is drawn, and tools keep to its own points. */
  setPositions(positions: ReadonlyMap<string, Float32Array>, shown?: ReadonlyMap<string, ShownMesh>): void {
    this.picking.forget();
    for (const [id, layer] of this.#cloths) {
      const [own, instead] = [positions.get(id), shown?.get(id)];
      if (own) layer.setPositions(own, instead);
      else if (instead) layer.showInstead(instead);
    }
    this.#fitShadow();
    this.invalidate();
  }

  /** Takes everything but cloth to where it is at a frame. */
  moveThings(shot: Shot, frame: number): void {
    this.picking.forget();
    for (const thing of shot.things) this.#things.get(thing.id)?.update(shot, thing, frame);
    for (const layer of this.#cloths.values()) layer.setFrame(frame);
    this.invalidate();
  }

  select(ids: readonly string[]): void {
    this.#selected = ids;
    for (const [key, layer] of this.#cloths) layer.setSelected(ids.includes(key), this.#look.stitch);
    for (const [key, layer] of this.#things) layer.setSelected(ids.includes(key), this.#look.stitch);
    this.invalidate();
  }

  /** Puts the handles at a pose, or takes them away. */
  showHandles(mode: PlaceMode | null, pose: Pose | null): void {
    this.handles.show(mode, pose);
    this.invalidate();
  }

  /** Shows a thing so many times as large along its own axes, while its size is dragged. */
  previewSize(id: string, by: Place): void {
    const thing = this.#things.get(id)?.group;
    const cloth = this.#cloths.get(id)?.group;
    thing?.scale.set(...by);
    if (cloth) {
      // The points of cloth are in the world's axes, its size is along its own.
      const { handle } = this.handles;
      const pose = new Matrix4().compose(handle.position, handle.quaternion, new Vector3(1, 1, 1));
      const sized = pose
        .clone()
        .multiply(new Matrix4().makeScale(...by))
        .multiply(pose.invert());
      sized.decompose(cloth.position, cloth.quaternion, cloth.scale);
    }
    this.invalidate();
  }

  /** The shadow covers what is there, and no more, so that it stays sharp. */
  #fitShadow(): void {
    const low = new Vector3(Infinity, 0, Infinity);
    const high = new Vector3(-Infinity, 0.2, -Infinity);
    for (const { drawn: positions } of this.#cloths.values()) {
      for (let i = 0; i < positions.length; i += 30) {
        const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
        low.set(Math.min(low.x, x), Math.min(low.y, y), Math.min(low.z, z));
        high.set(Math.max(high.x, x), Math.max(high.y, y), Math.max(high.z, z));
      }
    }
    if (!(high.x > low.x)) {
      const box = this.boxAround(null);
      low.copy(box?.low ?? new Vector3(-1, 0, -1)).max(new Vector3(-3, 0, -3));
      high.copy(box?.high ?? new Vector3(1, 1, 1)).min(new Vector3(3, 3, 3));
    }
    const centre = low.clone().add(high).multiplyScalar(0.5);
    // In steps, so that the shadow's edge does not swim while the cloth moves.
    const radius = Math.ceil((high.distanceTo(low) / 2 + 0.6) * 2) / 2;
    this.#key.target.position.copy(centre);
    this.#key.position.copy(centre).addScaledVector(KEY, 12);
    const { camera } = this.#key.shadow;
    camera.left = camera.bottom = -radius;
    camera.right = camera.top = radius;
    camera.near = 12 - radius * 2;
    camera.far = 12 + radius * 2;
    camera.updateProjectionMatrix();
  }

  /** Shows masks in colour on cloths, by their ids, and none on all others. They stay when a cloth is meshed anew. */
  setMasks(masks: ReadonlyMap<string, Uint8Array>): void {
    this.#masks = masks;
    for (const [id, layer] of this.#cloths) layer.setMask(masks.get(id) ?? null);
    this.invalidate();
  }

  /** Moves the camera so that a thing, or everything, fills the view. */
  centreOn(id: string | null): void {
    const box = this.boxAround(id);
    if (!box) return;
    const { low, high } = box;
    const centre = low.clone().add(high).multiplyScalar(0.5);
    const distance = (high.distanceTo(low) / 2 + 0.1) / Math.sin((this.camera.fov * Math.PI) / 360);
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    this.lookFrom(centre.clone().addScaledVector(direction, distance).toArray(), centre.toArray());
  }

  /** Brings a thing into the view when any of it lies outside: gently, and with all that is there, so that one sees where it is. */
  bringIn(id: string, done: () => void): void {
    const box = this.boxAround(id);
    if (!box) return;
    this.camera.updateMatrixWorld();
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((corner) =>
      new Vector3(
        (corner & 1 ? box.high : box.low).x,
        (corner & 2 ? box.high : box.low).y,
        (corner & 4 ? box.high : box.low).z,
      ).project(this.camera),
    );
    if (corners.every(({ x, y, z }) => Math.abs(x) < 1 && Math.abs(y) < 1 && z < 1)) return;
    const from = { position: this.camera.position.toArray(), target: this.controls.target.toArray() };
    this.centreOn(null);
    const to = { position: this.camera.position.toArray(), target: this.controls.target.toArray() };
    const began = performance.now();
    // Whoever takes the view meanwhile has it.
    let taken = false;
    const take = () => (taken = true);
    this.controls.addEventListener('start', take);
    const end = () => {
      this.controls.removeEventListener('start', take);
      done();
    };
    const go = () => {
      if (this.#disposed) return;
      if (taken) return end();
      const share = REDUCED_MOTION.matches ? 1 : Math.min(1, (performance.now() - began) / BRING_IN);
      const eased = share * share * (3 - 2 * share);
      const between = (a: number[], b: number[]) => a.map((value, axis) => value + (b[axis]! - value) * eased);
      this.lookFrom(between(from.position, to.position), between(from.target, to.target));
      if (share < 1) requestAnimationFrame(go);
      else end();
    };
    go();
  }

  /** The box around a thing as it is shown, or around everything. */
  boxAround(id: string | null): { low: Vector3; high: Vector3 } | null {
    const layers = [...this.#cloths, ...this.#things].flatMap(([key, layer]) =>
      id === null || key === id ? [layer] : [],
    );
    const box = new Box3();
    const part = new Box3();
    for (const { group } of layers) {
      group.updateWorldMatrix(true, true);
      group.traverse((object) => {
        if (!object.userData['thing'] || !('geometry' in object)) return;
        const { geometry } = object as ClothLayer['surface'];
        if (!geometry.boundingBox) geometry.computeBoundingBox();
        box.union(part.copy(geometry.boundingBox!).applyMatrix4(object.matrixWorld));
      });
    }
    return box.isEmpty() ? null : { low: box.min, high: box.max };
  }

  invalidate(): void {
    if (this.#pending || !this.#ready) return;
    this.#tell('rest', false);
    this.#pending = true;
    this.#pace.soon(() => {
      this.#pending = false;
      this.draw();
    });
  }

  draw(): void {
    this.#coming ??= this.#drawing.shaders.ask(this.#scene, this.camera);
    if (this.#coming) return void this.#drawOnce(this.#coming);
    this.#render();
    this.onDraw?.();
    this.#tell('rest', this.#warmed && !this.#pending);
    this.#tell('handle', this.handles.engaged);
    if (!this.#warm) void this.#warmUp();
  }

  /** What was drawn last is seen until then. */
  async #drawOnce(come: Promise<void>): Promise<void> {
    await come;
    if (this.#coming !== come) return;
    this.#coming = null;
    if (!this.#disposed) this.draw();
  }

  #render(): void {
    const height = this.#renderer.domElement.clientHeight || 1;
    for (const beforeDraw of this.#added.values()) beforeDraw?.(this.camera, height);
    this.#renderer.render(this.#scene, this.camera);
    this.#drawing.shaders.drawn();
  }

  /** Says on the canvas what a person sees at a glance, and whoever waits for it must know: that all is drawn, that a handle is taken. */
  #tell(what: 'rest' | 'handle', is: boolean): void {
    this.#renderer.domElement.dataset[what] = String(is);
  }

  /** The view as it would be drawn now without what marks and handles it, in its own pixels; null where the driver was lost. */
  async picture(): Promise<ImageBitmap | null> {
    await Promise.all([...this.#cloths.values()].map(({ ready }) => ready));
    const selected = this.#selected;
    const besides = [...this.#added.keys(), this.handles.handle, this.handles.object].filter(({ visible }) => visible);
    if (selected.length > 0) this.select([]);
    for (const object of besides) object.visible = false;
    this.#render();
    const picture = readPicture(this.#renderer.getContext() as WebGL2RenderingContext);
    if (besides.length + selected.length > 0) {
      for (const object of besides) object.visible = true;
      this.select(selected);
      // In the same turn, so that nobody sees it without them.
      this.#render();
    }
    return picture;
  }

  dispose(): void {
    this.#disposed = true;
    this.#pace.cancel();
    this.handles.dispose();
    this.controls.dispose();
    // Materials stay, so that the renderer keeps what it has compiled for the next shot.
    this.#scene.traverse((object) => {
      const { geometry, material } = object as Partial<ThreeMesh<BufferGeometry, MeshStandardMaterial>>;
      geometry?.dispose();
      material?.map?.dispose();
    });
    this.#key.dispose();
    giveBack(this.#drawing);
  }
}
