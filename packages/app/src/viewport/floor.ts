import {
  BufferGeometry,
  CanvasTexture,
  CircleGeometry,
  Color,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  ShadowMaterial,
} from 'three';

const RADIUS = 8;

/** The floor: a tone that fades into the ground colour, a grid in metres that fades with it, and shadows. */
export class Floor {
  readonly group = new Group();
  #tone: MeshBasicMaterial;
  #shadow: ShadowMaterial;
  #shadows: Mesh;
  #lines: { object: LineSegments; major: boolean }[] = [];

  constructor() {
    const disc = new CircleGeometry(RADIUS, 64).rotateX(-Math.PI / 2);
    this.#tone = new MeshBasicMaterial({
      transparent: true,
      alphaMap: fadeTexture(),
      depthWrite: false,
      toneMapped: false,
    });
    this.#shadow = new ShadowMaterial({ transparent: true, opacity: 0.34, depthWrite: false });
    const tone = new Mesh(disc, this.#tone);
    tone.position.y = -0.002;
    tone.renderOrder = -3;
    this.#shadows = new Mesh(disc, this.#shadow);
    this.#shadows.position.y = -0.001;
    this.#shadows.receiveShadow = true;
    this.#shadows.renderOrder = -1;
    this.group.add(tone, this.#shadows);
    this.#addGrid(0.25, false);
    this.#addGrid(1, true);
  }

  setColours(floor: string, line: string, shadow: number): void {
    this.#tone.color.set(floor);
    this.#shadow.opacity = shadow;
    for (const { object, major } of this.#lines) {
      const material = object.material as LineBasicMaterial;
      material.color = new Color(line);
      material.opacity = major ? 0.5 : 0.2;
    }
  }

  /** Where nothing casts a shadow, none is looked for all over the floor. */
  showShadows(on: boolean): void {
    this.#shadows.visible = on;
  }

  /** Lines cut into short pieces whose alpha fades with the distance from the middle. */
  #addGrid(step: number, major: boolean): void {
    const places: number[] = [];
    const colours: number[] = [];
    const piece = 0.25;
    const add = (x: number, z: number) => {
      const distance = Math.min(1, Math.hypot(x, z) / RADIUS);
      places.push(x, 0, z);
      colours.push(1, 1, 1, (1 - distance) ** 2);
    };
    const count = Math.round(RADIUS / step);
    for (let n = -count; n <= count; n++) {
      if (!major && n % 4 === 0) continue;
      for (let at = -RADIUS; at < RADIUS; at += piece) {
        add(n * step, at);
        add(n * step, at + piece);
        add(at, n * step);
        add(at + piece, n * step);
      }
    }
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new Float32BufferAttribute(places, 3));
    geometry.setAttribute('color', new Float32BufferAttribute(colours, 4));
    const lines = new LineSegments(
      geometry,
      new LineBasicMaterial({ vertexColors: true, transparent: true, depthWrite: false, toneMapped: false }),
    );
    lines.renderOrder = -2;
    this.#lines.push({ object: lines, major });
    this.group.add(lines);
  }
}

function fadeTexture(): CanvasTexture {
  const element = document.createElement('canvas');
  element.width = element.height = 256;
  const pen = element.getContext('2d')!;
  const fade = pen.createRadialGradient(128, 128, 20, 128, 128, 128);
  fade.addColorStop(0, '#ffffff');
  fade.addColorStop(1, '#000000');
  pen.fillStyle = fade;
  pen.fillRect(0, 0, 256, 256);
  return new CanvasTexture(element);
}
