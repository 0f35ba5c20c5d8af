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

/** Sets with more points than this are shown as dots without shafts. */
const MOST_SHAFTS = 24;
const SHAFT_PIXELS = 24;

export interface PinMarks {
  /** Places of the points, x y z in metres. */
  places: number[];
  colour: string;
  /** Dots for selected points, pins for held ones. */
  kind: 'pin' | 'dot';
}

/** Dressmaker's pins at held points and dots at selected ones. */
export class PinLayer {
  readonly group = new Group();
  #disc = discTexture();
  #marks: PinMarks[] = [];
  #disposables: { dispose: () => void }[] = [];

  set(marks: PinMarks[]): void {
    this.#marks = marks;
  }

  /** Draws the marks for a camera: shafts are so many pixels long wherever they stand. */
  draw(camera: PerspectiveCamera, viewHeight: number): void {
    this.clear();
    for (const { places, colour, kind } of this.#marks) {
      const shafts = kind === 'pin' && places.length / 3 <= MOST_SHAFTS;
      const heads = new Float32Array(places);
      const lines = new Float32Array(shafts ? places.length * 2 : 0);
      const at = new Vector3();
      const lean = new Vector3(0.38, 0.92, 0).applyQuaternion(camera.quaternion);
      if (shafts) {
        for (let i = 0; i < places.length; i += 3) {
          at.set(places[i]!, places[i + 1]!, places[i + 2]!);
          const perPixel = (2 * Math.tan((camera.fov * Math.PI) / 360) * camera.position.distanceTo(at)) / viewHeight;
          lines.set([at.x, at.y, at.z], i * 2);
          at.addScaledVector(lean, SHAFT_PIXELS * perPixel);
          lines.set([at.x, at.y, at.z], i * 2 + 3);
          heads.set([at.x, at.y, at.z], i);
        }
        const shaft = new BufferGeometry().setAttribute('position', new BufferAttribute(lines, 3));
        const ink = new LineBasicMaterial({ color: colour, depthTest: false });
        this.group.add(new LineSegments(shaft, ink));
        this.#disposables.push(shaft, ink);
      }
      const dots = new BufferGeometry().setAttribute('position', new BufferAttribute(heads, 3));
      const material = new PointsMaterial({
        color: colour,
        size: shafts ? 10 : 5,
        sizeAttenuation: false,
        map: this.#disc,
        alphaTest: 0.4,
        depthTest: !shafts,
        transparent: true,
      });
      const cloud = new Points(dots, material);
      cloud.renderOrder = 2;
      cloud.frustumCulled = false;
      this.group.add(cloud);
      this.#disposables.push(dots, material);
    }
  }

  clear(): void {
    for (const item of this.#disposables) item.dispose();
    this.#disposables = [];
    this.group.clear();
  }
}

function discTexture(): CanvasTexture {
  const element = document.createElement('canvas');
  element.width = element.height = 32;
  const pen = element.getContext('2d')!;
  pen.fillStyle = '#ffffff';
  pen.beginPath();
  pen.arc(16, 16, 15, 0, 2 * Math.PI);
  pen.fill();
  return new CanvasTexture(element);
}
