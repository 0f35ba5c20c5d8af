import {
  BufferAttribute,
  BufferGeometry,
  CanvasTexture,
  Group,
  LineBasicMaterial,
  LineSegments,
  Points,
  PointsMaterial,
  Vector3,
  type PerspectiveCamera,
} from 'three';

/** Sets with more points than this have only a few shafts; their other points are dots. */
const MOST_SHAFTS = 24;
const FEW_SHAFTS = 8;
const SHAFT_PIXELS = 24;

export interface PinMarks {
  /** Places of the points, x y z in metres. */
  places: number[];
  colour: string;
  /** Dots for selected points, pins for held ones, larger dots for points of a lattice, seen through cloth. */
  kind: 'pin' | 'dot' | 'control';
}

/**
 * Materials are kept for good, by how they look: a renderer forgets a shader with its last material, and compiling it anew makes the page wait for the
 * graphics driver.
 */
const inks = new Map<string, LineBasicMaterial>();
const dotMaterials = new Map<string, PointsMaterial>();

function inkOf(colour: string): LineBasicMaterial {
  const ink = inks.get(colour) ?? new LineBasicMaterial({ color: colour, depthTest: false });
  inks.set(colour, ink);
  return ink;
}

function dotsOf(colour: string, size: number, hides: boolean): PointsMaterial {
  const key = `${colour} ${size} ${hides}`;
  const known = dotMaterials.get(key);
  if (known) return known;
  const made = new PointsMaterial({
    ...{ color: colour, size, sizeAttenuation: false },
    ...{ map: discTexture(), alphaTest: 0.4, depthTest: hides, transparent: true },
  });
  dotMaterials.set(key, made);
  return made;
}

/** Something of each kind that marks are drawn from, too small to be seen. */
export function markParts(): (Points | LineSegments)[] {
  const at = () => new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(6), 3));
  return [new Points(at(), dotsOf('#ffffff', 5, true)), new LineSegments(at(), inkOf('#ffffff'))];
}

/** Dressmaker's pins at held points and dots at selected ones. */
export class PinMarksDrawing {
  readonly group = new Group();
  #marks: PinMarks[] = [];
  #geometries: BufferGeometry[] = [];

  set(marks: PinMarks[]): void {
    this.#marks = marks;
  }

  /** Draws the marks for a camera: shafts are so many pixels long wherever they stand. */
  draw(camera: PerspectiveCamera, viewHeight: number): void {
    this.clear();
    for (const { places, colour, kind } of this.#marks) {
      const count = places.length / 3;
      const few = count > MOST_SHAFTS ? Math.ceil(count / FEW_SHAFTS) : 1;
      const every = kind === 'pin' ? few : Infinity;
      const pinned: number[] = [];
      const bare: number[] = [];
      for (let i = 0; i < count; i++) {
        const place = places.slice(i * 3, i * 3 + 3);
        if (i % every === 0 && every < Infinity) pinned.push(...place);
        else bare.push(...place);
      }
      this.#drawPins(pinned, colour, camera, viewHeight);
      if (kind === 'control') this.#drawDots(bare, colour, 9, false);
      else this.#drawDots(bare, colour, 5, true);
    }
  }

  /** Pins whose shafts stand to the camera’s upper right, so that they are seen from every side, also through cloth. */
  #drawPins(places: readonly number[], colour: string, camera: PerspectiveCamera, viewHeight: number): void {
    if (places.length === 0) return;
    const lean = new Vector3(0.38, 0.92, 0).applyQuaternion(camera.quaternion);
    const lines = new Float32Array(places.length * 2);
    const heads = new Float32Array(places);
    const at = new Vector3();
    for (let i = 0; i < places.length; i += 3) {
      at.set(places[i]!, places[i + 1]!, places[i + 2]!);
      const perPixel = (2 * Math.tan((camera.fov * Math.PI) / 360) * camera.position.distanceTo(at)) / viewHeight;
      lines.set([at.x, at.y, at.z], i * 2);
      at.addScaledVector(lean, SHAFT_PIXELS * perPixel);
      lines.set([at.x, at.y, at.z], i * 2 + 3);
      heads.set([at.x, at.y, at.z], i);
    }
    const shaft = new BufferGeometry().setAttribute('position', new BufferAttribute(lines, 3));
    const shafts = new LineSegments(shaft, inkOf(colour));
    shafts.frustumCulled = false;
    this.group.add(shafts);
    this.#geometries.push(shaft);
    this.#drawDots(heads, colour, 10, false);
  }

  #drawDots(places: ArrayLike<number>, colour: string, size: number, hides: boolean): void {
    if (places.length === 0) return;
    const dots = new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(places), 3));
    const cloud = new Points(dots, dotsOf(colour, size, hides));
    cloud.renderOrder = 2;
    cloud.frustumCulled = false;
    this.group.add(cloud);
    this.#geometries.push(dots);
  }

  clear(): void {
    for (const geometry of this.#geometries) geometry.dispose();
    this.#geometries = [];
    this.group.clear();
  }
}

let disc: CanvasTexture | undefined;

function discTexture(): CanvasTexture {
  if (disc) return disc;
  const element = document.createElement('canvas');
  element.width = element.height = 32;
  const pen = element.getContext('2d')!;
  pen.fillStyle = '#ffffff';
  pen.beginPath();
  pen.arc(16, 16, 15, 0, 2 * Math.PI);
  pen.fill();
  disc = new CanvasTexture(element);
  return disc;
}
