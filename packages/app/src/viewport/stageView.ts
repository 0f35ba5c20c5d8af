import {
  poseAt,
  type Assets,
  type Cloth,
  type Collider,
  type Pose,
  type Shot,
  type Vector3 as Place,
} from '@lumbra/core';
import {
  Box3,
  Color,
  DirectionalLight,
  HemisphereLight,
  Matrix4,
  MOUSE,
  NeutralToneMapping,
  type Object3D,
  PCFShadowMap,
  PerspectiveCamera,
  Plane,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { ViewMode } from '../stores/selection';
import { ClothLayer } from './clothLayer';
import { ContactLayer } from './contactLayer';
import { Floor } from './floor';
import { PinLayer, type PinMarks } from './pinLayer';
import { PlaceTool, type PlaceEvents, type PlaceMode } from './placeTool';
import { Silhouette } from './silhouette';
import { StitchLayer } from './stitchLayer';
import { ThingLayer, warmUpParts } from './thingLayer';
import { depthAt, depthPicture, placeInDepth, visiblePoints, type DepthPicture } from './depthPicture';

interface Look {
  ground: string;
  floor: string;
  line: string;
  shadow: number;
  key: [string, number];
  sky: [string, number];
  hemisphere: number;
  exposure: number;
  stitch: string;
  /** Handles along x, y and z and the one that is held, and the surfaces that cloth meets. */
  handles: [string, string, string, string];
  contact: string;
  figure: string;
}

const DAY: Look = {
  ground: '#CDC9C1',
  floor: '#CFCBC3',
  line: '#8A8474',
  shadow: 0.3,
  key: ['#FFF6EA', 2.3],
  sky: ['#E3E9F0', 0.6],
  hemisphere: 1.45,
  exposure: 1.02,
  stitch: '#2F4A7D',
  handles: ['#B4442F', '#2F7F7A', '#2F4A7D', '#A67A0C'],
  contact: '#2F7F7A',
  figure: '#4A5162',
};
const EVENING: Look = {
  ground: '#2B2D32',
  floor: '#34353A',
  line: '#5A5D66',
  shadow: 0.55,
  key: ['#FFE6C4', 1.9],
  sky: ['#AEBBD6', 0.5],
  hemisphere: 0.75,
  exposure: 1,
  stitch: '#8FA9DA',
  handles: ['#E08A73', '#6CBDB6', '#8FA9DA', '#E0BC5A'],
  contact: '#6CBDB6',
  figure: '#B9B4A9',
};

/** Direction to the key light, from the left and a little in front: raking light lets folds read. */
const KEY = new Vector3(-0.8, 0.86, 0.52).normalize();
/** Direction to the sky's broad, weaker light, from the camera's usual side. */
const SKY = new Vector3(0.55, 0.7, 0.75);

/**
 * The three.js side of the viewport: one layer per kind of thing. Draws on demand only; every change ends in
 * `invalidate`.
 */
export class StageView {
  readonly camera = new PerspectiveCamera(35, 1, 0.05, 100);
  readonly controls: OrbitControls;
  readonly #renderer: WebGLRenderer;
  readonly #scene = new Scene();
  readonly #key = new DirectionalLight();
  readonly #sky = new DirectionalLight();
  readonly #hemisphere = new HemisphereLight('#FFFFFF', '#CFC8BC');
  readonly #floor = new Floor();
  readonly #pins = new PinLayer();
  readonly #stitches = new StitchLayer();
  readonly #silhouette = new Silhouette();
  readonly #contact = new ContactLayer();
  readonly #tool: PlaceTool;
  readonly #cloths = new Map<string, ClothLayer>();
  readonly #things = new Map<string, ThingLayer>();
  #look = DAY;
  #selected: readonly string[] = [];
  readonly #depthPictures = new Map<string | null, DepthPicture>();
  #pending = 0;
  #warm = false;
  #disposed = false;
  /** Called after each drawing. */
  onDraw: (() => void) | null = null;

  constructor(canvas: HTMLCanvasElement, events: Omit<PlaceEvents, 'changed'>) {
    this.#renderer = new WebGLRenderer({ canvas, antialias: true, powerPreference: 'high-performance' });
    // Asking the driver whether a shader compiled makes the page wait for it.
    this.#renderer.debug.checkShaderErrors = import.meta.env.DEV;
    this.#renderer.toneMapping = NeutralToneMapping;
    this.#renderer.shadowMap.enabled = true;
    this.#renderer.shadowMap.type = PCFShadowMap;
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.zoomToCursor = true;
    this.controls.addEventListener('change', () => {
      this.#moved();
      this.invalidate();
    });
    this.#key.castShadow = true;
    this.#key.shadow.mapSize.set(2048, 2048);
    this.#key.shadow.bias = -0.0012;
    this.#key.shadow.normalBias = 0.014;
    this.#key.shadow.radius = 6;
    this.#tool = new PlaceTool(this.camera, canvas, {
      ...events,
      dragging: (on) => {
        this.controls.enabled = !on;
        events.dragging(on);
      },
      changed: () => this.invalidate(),
    });
    this.#scene.add(this.#key, this.#key.target, this.#sky, this.#hemisphere, this.#floor.group, this.#pins.group);
    this.#scene.add(this.#stitches.group);
    this.#scene.add(this.#silhouette.object, this.#contact.group, this.#tool.handle, this.#tool.object);
    this.setEvening(false);
  }

  /**
   * Compiles what solid things are drawn with before the first one comes, and draws it once: the first use of a shader waits for
   * the graphics driver, and then it would be the import or the press of a button that waits.
   */
  async #warmUp(): Promise<void> {
    this.#warm = true;
    const parts = warmUpParts();
    for (const part of parts) await this.#renderer.compileAsync(part, this.camera, this.#scene).catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 100));
    if (this.#disposed) return;
    this.#scene.add(...parts);
    this.#renderer.render(this.#scene, this.camera);
    this.#scene.remove(...parts);
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
    this.#tool.setColours(...look.handles);
    this.#contact.setColour(look.contact);
    this.#silhouette.setColour(look.figure);
    this.invalidate();
  }

  resize(width: number, height: number): void {
    if (width === 0 || height === 0) return;
    this.#renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2));
    this.#renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.#moved();
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
    const layer = new ClothLayer(cloth, assets, mode);
    this.#cloths.set(cloth.id, layer);
    this.#scene.add(layer.group);
  }

  #remove<L extends ClothLayer | ThingLayer>(layers: Map<string, L>, id: string, layer: L): void {
    this.#scene.remove(layer.group);
    layer.dispose();
    layers.delete(id);
  }

  setPositions(positions: ReadonlyMap<string, Float32Array>): void {
    this.#moved();
    for (const [id, values] of positions) this.#cloths.get(id)?.setPositions(values);
    this.#fitShadow();
    this.invalidate();
  }

  /** Takes everything but cloth to where it is at a frame. */
  moveThings(shot: Shot, frame: number): void {
    this.#moved();
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

  /** Puts the handles of a tool at a thing, or takes them away. */
  setTool(mode: PlaceMode | null, shot: Shot, id: string | null, frame: number): void {
    const thing = shot.things.find((candidate) => candidate.id === id);
    this.setToolAt(mode, thing ? poseAt(shot, thing, frame) : null);
  }

  /** Puts the handles of a tool at a pose, or takes them away. */
  setToolAt(mode: PlaceMode | null, pose: Pose | null): void {
    this.#tool.show(mode, pose);
    this.invalidate();
  }

  /** Whether the pointer is on a handle of the tool. */
  get toolEngaged(): boolean {
    return this.#tool.engaged;
  }

  /** Lets the handles keep to whole steps. */
  setSteps(on: boolean): void {
    this.#tool.setSteps(on);
  }

  /** Shows a thing so many times as large along its own axes, while its size is dragged. */
  previewSize(id: string, by: Place): void {
    const thing = this.#things.get(id)?.group;
    const cloth = this.#cloths.get(id)?.group;
    thing?.scale.set(...by);
    if (cloth) {
      // The points of cloth are in the world's axes, its size is along its own.
      const { handle } = this.#tool;
      const pose = new Matrix4().compose(handle.position, handle.quaternion, new Vector3(1, 1, 1));
      const sized = pose
        .clone()
        .multiply(new Matrix4().makeScale(...by))
        .multiply(pose.invert());
      sized.decompose(cloth.position, cloth.quaternion, cloth.scale);
    }
    this.invalidate();
  }

  /** Shows the surfaces that cloth meets of a collider, or none. */
  showContact(shot: Shot, collider: Collider | null, assets: Assets, frame: number): void {
    void this.#contact.show(shot, collider, assets, frame).then(() => this.invalidate());
  }

  /** Stands a figure for scale beside everything, or takes it away. */
  showSilhouette(on: boolean): void {
    const { object } = this.#silhouette;
    if (on && !object.visible) {
      const box = this.#box(null);
      object.position.set(box ? box.low.x - 0.45 : -1, 0, box ? (box.low.z + box.high.z) / 2 : 0);
    }
    object.visible = on;
    this.invalidate();
  }

  setPins(marks: PinMarks[]): void {
    this.#pins.set(marks);
    this.invalidate();
  }

  /** The shadow covers what is there, and no more, so that it stays sharp. */
  #fitShadow(): void {
    const low = new Vector3(Infinity, 0, Infinity);
    const high = new Vector3(-Infinity, 0.2, -Infinity);
    for (const { positions } of this.#cloths.values()) {
      for (let i = 0; i < positions.length; i += 30) {
        const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
        low.set(Math.min(low.x, x), Math.min(low.y, y), Math.min(low.z, z));
        high.set(Math.max(high.x, x), Math.max(high.y, y), Math.max(high.z, z));
      }
    }
    if (!(high.x > low.x)) {
      const box = this.#box(null);
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

  /** The thing under a place of the canvas, in CSS pixels; the nearest one. */
  thingAt(x: number, y: number): string | null {
    const hit = this.#ray(x, y).intersectObjects(this.#bodies(), false)[0];
    return (hit?.object.userData['thing'] as string | undefined) ?? null;
  }

  /** The place in m under a place of the canvas: on the nearest thing, else on the floor, else where the camera looks. */
  placeAt(x: number, y: number): Place {
    const caster = this.#ray(x, y);
    const hit = caster.intersectObjects(this.#bodies(), false)[0]?.point;
    const floor = caster.ray.intersectPlane(new Plane(new Vector3(0, 1, 0), 0), new Vector3());
    const near = floor && floor.distanceTo(this.controls.target) < 20 ? floor : null;
    return (hit ?? near ?? this.controls.target).toArray();
  }

  isCloth(id: string): boolean {
    return this.#cloths.has(id);
  }

  /** The place in m under a place of the canvas that is as far into the picture as another one. */
  placeAtDepth(x: number, y: number, depth: Place): Place {
    const facing = this.camera.getWorldDirection(new Vector3());
    const plane = new Plane().setFromNormalAndCoplanarPoint(facing, new Vector3(...depth));
    return (this.#ray(x, y).ray.intersectPlane(plane, new Vector3()) ?? new Vector3(...depth)).toArray();
  }

  #ray(x: number, y: number): Raycaster {
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    const caster = new Raycaster();
    caster.params.Line.threshold = 0.02;
    caster.setFromCamera(new Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2), this.camera);
    return caster;
  }

  #bodies(): Object3D[] {
    return [
      ...[...this.#cloths.values()].map(({ surface }) => surface),
      ...[...this.#things.values()].flatMap(({ group }) => group.children.filter((child) => child.userData['thing'])),
    ].filter((body) => body.parent?.visible);
  }

  /** Points of a cloth for whose place on the canvas, in CSS pixels, a test holds; hidden ones only when they are asked for. */
  pointsWhere(cloth: string, test: (x: number, y: number) => boolean, hidden: boolean): number[] {
    const layer = this.#cloths.get(cloth);
    if (!layer) return [];
    const places = this.#onCanvas(layer.positions);
    const found: number[] = [];
    for (let point = 0; point < places.length / 2; point++) {
      if (test(places[point * 2]!, places[point * 2 + 1]!)) found.push(point);
    }
    if (hidden || found.length === 0) return found;
    const seen = visiblePoints(this.#depths(), this.camera, layer.positions);
    return found.filter((point) => seen[point]);
  }

  /** The point of a cloth that is nearest to a place of the canvas, within so many CSS pixels; -1 for none. */
  nearestPoint(cloth: string, x: number, y: number, pixels: number, hidden: boolean): number {
    const layer = this.#cloths.get(cloth);
    if (!layer) return -1;
    const near = this.pointsWhere(cloth, (px, py) => Math.hypot(px - x, py - y) <= pixels, hidden);
    const places = this.#onCanvas(layer.positions);
    const away = (point: number) => Math.hypot(places[point * 2]! - x, places[point * 2 + 1]! - y);
    return near.reduce((best, point) => (best < 0 || away(point) < away(best) ? point : best), -1);
  }

  /** Where points are on the canvas, x and y in CSS pixels; far away where they are behind the camera. */
  #onCanvas(positions: ArrayLike<number>): Float32Array {
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    const at = new Vector3();
    const places = new Float32Array((positions.length / 3) * 2);
    this.camera.updateMatrixWorld();
    for (let point = 0; point < places.length / 2; point++) {
      at.set(positions[point * 3]!, positions[point * 3 + 1]!, positions[point * 3 + 2]!).project(this.camera);
      places[point * 2] = at.z < 1 ? ((at.x + 1) / 2) * clientWidth : -1e6;
      places[point * 2 + 1] = at.z < 1 ? ((1 - at.y) / 2) * clientHeight : -1e6;
    }
    return places;
  }

  /** Where a place of the canvas is on a cloth, in m, when nothing else is before it. */
  placeOnCloth(cloth: string, x: number, y: number): Place | null {
    const only = this.#depths(cloth);
    const depth = depthAt(only, x, y);
    // Equal to within rounding where the cloth is what is seen.
    if (depth === Infinity || depth > depthAt(this.#depths(), x, y) * 1.0001) return null;
    return placeInDepth(only, this.camera, x, y, depth).toArray();
  }

  /** The picture of depths of everything, or of one cloth alone; drawn anew when something has moved. */
  #depths(cloth: string | null = null): DepthPicture {
    const known = this.#depthPictures.get(cloth);
    if (known) return known;
    const layers = [...this.#cloths, ...this.#things];
    const shown = layers.map(([, { group }]) => group.visible);
    if (cloth !== null) for (const [id, { group }] of layers) group.visible &&= id === cloth;
    this.camera.updateMatrixWorld();
    const picture = depthPicture(this.#renderer, this.#scene, this.camera);
    layers.forEach(([, { group }], i) => (group.visible = shown[i]!));
    this.#depthPictures.set(cloth, picture);
    this.invalidate();
    return picture;
  }

  /** Something has moved: pictures of depths are no longer true. */
  #moved(): void {
    this.#depthPictures.clear();
  }

  /** How many CSS pixels a metre is at a place. */
  pixelsAt(place: Place): number {
    const away = this.camera.position.distanceTo(new Vector3(...place));
    const seen = 2 * Math.tan((this.camera.fov * Math.PI) / 360) * away;
    return this.#renderer.domElement.clientHeight / Math.max(1e-6, seen);
  }

  /** Shows a mask on a cloth in colour; on all others, or with null, none. */
  setMask(cloth: string | null, mask: Uint8Array | null): void {
    for (const [id, layer] of this.#cloths) layer.setMask(id === cloth ? mask : null);
    this.invalidate();
  }

  /** Draws stitches between places, two by two, x y z in m each. */
  setTies(places: number[], colour: string): void {
    this.#stitches.set(places, colour);
    this.invalidate();
  }

  /** Moves the camera so that a thing, or everything, fills the view. */
  centreOn(id: string | null): void {
    const box = this.#box(id);
    if (!box) return;
    const { low, high } = box;
    const centre = low.clone().add(high).multiplyScalar(0.5);
    const distance = (high.distanceTo(low) / 2 + 0.1) / Math.sin((this.camera.fov * Math.PI) / 360);
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    this.lookFrom(centre.clone().addScaledVector(direction, distance).toArray(), centre.toArray());
  }

  /** The box around a thing as it is shown, or around everything. */
  #box(id: string | null): { low: Vector3; high: Vector3 } | null {
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

  /** Where a place in m is on the canvas, in CSS pixels; null behind the camera. */
  project(place: readonly [number, number, number]): { x: number; y: number } | null {
    this.camera.updateMatrixWorld();
    const at = new Vector3(...place).project(this.camera);
    if (at.z >= 1) return null;
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    return { x: ((at.x + 1) / 2) * clientWidth, y: ((1 - at.y) / 2) * clientHeight };
  }

  invalidate(): void {
    if (this.#pending !== 0) return;
    this.#pending = requestAnimationFrame(() => {
      this.#pending = 0;
      this.draw();
    });
  }

  draw(): void {
    this.#silhouette.face(this.camera);
    this.#pins.draw(this.camera, this.#renderer.domElement.clientHeight || 1);
    this.#renderer.render(this.#scene, this.camera);
    this.onDraw?.();
    if (!this.#warm) void this.#warmUp();
  }

  /** A small picture of the view for the shot's card. */
  async picture(width: number, height: number): Promise<Blob | null> {
    this.draw();
    const source = this.#renderer.domElement;
    const element = document.createElement('canvas');
    element.width = width;
    element.height = height;
    const scale = Math.max(width / source.width, height / source.height);
    const [w, h] = [source.width * scale, source.height * scale];
    element.getContext('2d')!.drawImage(source, (width - w) / 2, (height - h) / 2, w, h);
    return new Promise((resolve) => element.toBlob(resolve, 'image/png'));
  }

  dispose(): void {
    this.#disposed = true;
    cancelAnimationFrame(this.#pending);
    for (const layer of [...this.#cloths.values(), ...this.#things.values()]) layer.dispose();
    this.#pins.clear();
    this.#stitches.dispose();
    this.#tool.dispose();
    this.#contact.dispose();
    this.#silhouette.dispose();
    this.controls.dispose();
    this.#renderer.dispose();
  }
}
