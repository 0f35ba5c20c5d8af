import { placementAt, type Assets, type Shot } from '@lumbra/core';
import {
  Color,
  DirectionalLight,
  HemisphereLight,
  NeutralToneMapping,
  PCFShadowMap,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { ViewMode } from '../stores/selection';
import { ClothLayer } from './clothLayer';
import { Floor } from './floor';
import { PinLayer, type PinMarks } from './pinLayer';
import { ThingLayer } from './thingLayer';

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
  readonly #cloths = new Map<string, ClothLayer>();
  readonly #things = new Map<string, ThingLayer>();
  #look = DAY;
  #selected: string | null = null;
  #pending = 0;
  /** Called after each drawing. */
  onDraw: (() => void) | null = null;

  constructor(canvas: HTMLCanvasElement) {
    this.#renderer = new WebGLRenderer({ canvas, antialias: true, powerPreference: 'high-performance' });
    // Asking the driver whether a shader compiled makes the page wait for it.
    this.#renderer.debug.checkShaderErrors = import.meta.env.DEV;
    this.#renderer.toneMapping = NeutralToneMapping;
    this.#renderer.shadowMap.enabled = true;
    this.#renderer.shadowMap.type = PCFShadowMap;
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.zoomToCursor = true;
    this.controls.addEventListener('change', () => this.invalidate());
    this.#key.castShadow = true;
    this.#key.shadow.mapSize.set(2048, 2048);
    this.#key.shadow.bias = -0.0012;
    this.#key.shadow.normalBias = 0.014;
    this.#key.shadow.radius = 6;
    this.#scene.add(this.#key, this.#key.target, this.#sky, this.#hemisphere, this.#floor.group, this.#pins.group);
    this.setEvening(false);
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
    this.invalidate();
  }

  resize(width: number, height: number): void {
    if (width === 0 || height === 0) return;
    this.#renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2));
    this.#renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.invalidate();
  }

  lookFrom(position: readonly number[], target: readonly number[]): void {
    this.camera.position.set(position[0]!, position[1]!, position[2]!);
    this.controls.target.set(target[0]!, target[1]!, target[2]!);
    this.controls.update();
    this.invalidate();
  }

  /** Brings the layers in line with the shot. Layers whose mesh is unchanged are kept. */
  setShot(shot: Shot, assets: Assets, mode: ViewMode): void {
    const present = new Set(shot.things.map(({ id }) => id));
    for (const [id, layer] of this.#cloths) if (!present.has(id)) this.#remove(this.#cloths, id, layer);
    for (const [id, layer] of this.#things) if (!present.has(id)) this.#remove(this.#things, id, layer);
    for (const thing of shot.things) {
      if (thing.role === 'cloth') {
        const stale = this.#things.get(thing.id);
        if (stale) this.#remove(this.#things, thing.id, stale);
        const known = this.#cloths.get(thing.id);
        if (known?.fits(thing)) {
          known.update(thing, mode);
          continue;
        }
        if (known) this.#remove(this.#cloths, thing.id, known);
        const layer = new ClothLayer(thing, assets, mode);
        this.#cloths.set(thing.id, layer);
        this.#scene.add(layer.group);
        continue;
      }
      const stale = this.#cloths.get(thing.id);
      if (stale) this.#remove(this.#cloths, thing.id, stale);
      const known = this.#things.get(thing.id);
      if (known?.fits(thing)) {
        known.update(thing);
        continue;
      }
      if (known) this.#remove(this.#things, thing.id, known);
      const layer = new ThingLayer(thing, assets);
      this.#things.set(thing.id, layer);
      this.#scene.add(layer.group);
    }
    this.select(this.#selected);
  }

  #remove<L extends ClothLayer | ThingLayer>(layers: Map<string, L>, id: string, layer: L): void {
    this.#scene.remove(layer.group);
    layer.dispose();
    layers.delete(id);
  }

  setPositions(positions: ReadonlyMap<string, Float32Array>): void {
    for (const [id, values] of positions) this.#cloths.get(id)?.setPositions(values);
    this.#fitShadow();
    this.invalidate();
  }

  /** Takes keyed things to where they are at a frame. */
  moveThings(shot: Shot, frame: number): void {
    for (const thing of shot.things) {
      if (thing.keys.length > 0) this.#things.get(thing.id)?.place(placementAt(thing, frame));
    }
    this.invalidate();
  }

  select(id: string | null): void {
    this.#selected = id;
    for (const [key, layer] of this.#cloths) layer.setSelected(key === id, this.#look.stitch);
    for (const [key, layer] of this.#things) layer.setSelected(key === id, this.#look.stitch);
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
      low.set(-1, 0, -1);
      high.set(1, 1, 1);
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
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    const caster = new Raycaster();
    caster.setFromCamera(new Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2), this.camera);
    const bodies = [
      ...[...this.#cloths.values()].map(({ surface }) => surface),
      ...[...this.#things.values()].flatMap(({ group }) => group.children.filter((child) => child.userData['thing'])),
    ].filter((body) => body.parent?.visible);
    const hit = caster.intersectObjects(bodies, false)[0];
    return (hit?.object.userData['thing'] as string | undefined) ?? null;
  }

  /** Points of a cloth inside a box of the canvas, in CSS pixels. */
  pointsIn(cloth: string, box: { left: number; top: number; right: number; bottom: number }): number[] {
    const layer = this.#cloths.get(cloth);
    if (!layer) return [];
    const { clientWidth, clientHeight } = this.#renderer.domElement;
    const at = new Vector3();
    const found: number[] = [];
    this.camera.updateMatrixWorld();
    for (let point = 0; point < layer.positions.length / 3; point++) {
      at.fromArray(layer.positions, point * 3).project(this.camera);
      const x = ((at.x + 1) / 2) * clientWidth;
      const y = ((1 - at.y) / 2) * clientHeight;
      const inside = x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
      if (inside && at.z < 1) found.push(point);
    }
    return found;
  }

  /** Moves the camera so that a thing, or everything, fills the view. */
  centreOn(id: string | null): void {
    const layers = id !== null ? [this.#cloths.get(id), this.#things.get(id)] : [...this.#cloths.values()];
    const low = new Vector3(Infinity, Infinity, Infinity);
    const high = new Vector3(-Infinity, -Infinity, -Infinity);
    const at = new Vector3();
    for (const layer of layers) {
      layer?.group.updateWorldMatrix(true, true);
      layer?.group.traverse((object) => {
        if (!object.userData['thing'] || !('geometry' in object)) return;
        const place = (object as ClothLayer['surface']).geometry.getAttribute('position');
        for (let i = 0; i < place.count; i++) {
          at.fromBufferAttribute(place, i).applyMatrix4(object.matrixWorld);
          low.min(at);
          high.max(at);
        }
      });
    }
    if (!(high.x >= low.x)) return;
    const centre = low.clone().add(high).multiplyScalar(0.5);
    const distance = (high.distanceTo(low) / 2 + 0.1) / Math.sin((this.camera.fov * Math.PI) / 360);
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    this.lookFrom(centre.clone().addScaledVector(direction, distance).toArray(), centre.toArray());
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
    this.#pins.draw(this.camera, this.#renderer.domElement.clientHeight || 1);
    this.#renderer.render(this.#scene, this.camera);
    this.onDraw?.();
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
    cancelAnimationFrame(this.#pending);
    for (const layer of [...this.#cloths.values(), ...this.#things.values()]) layer.dispose();
    this.#pins.clear();
    this.controls.dispose();
    this.#renderer.dispose();
  }
}
