import { DoubleSide, Mesh, MeshBasicMaterial, Shape, ShapeGeometry, type Camera } from 'three';

/** A flat standing figure of 1.75 m, for scale; it turns to the camera about its own height. */
export class Silhouette {
  readonly object: Mesh;
  readonly #material = new MeshBasicMaterial({ transparent: true, opacity: 0.3, side: DoubleSide, depthWrite: false });

  constructor() {
    this.object = new Mesh(figure(), this.#material);
    this.object.visible = false;
    this.object.renderOrder = 2;
  }

  setColour(colour: string): void {
    this.#material.color.set(colour);
  }

  /** Turns to the camera; called before each drawing. */
  face(camera: Camera): void {
    const { x, z } = this.object.position;
    this.object.rotation.y = Math.atan2(camera.position.x - x, camera.position.z - z);
  }

  dispose(): void {
    this.object.geometry.dispose();
    this.#material.dispose();
  }
}

/** The right half of the outline from the feet up, x and y in m; mirrored to make the whole. */
const HALF: [number, number][] = [
  [0.02, 0],
  [0.17, 0],
  [0.17, 0.04],
  [0.12, 0.09],
  [0.14, 0.48],
  [0.18, 0.86],
  [0.19, 0.98],
  [0.2, 1.0],
  [0.225, 0.78],
  [0.29, 0.78],
  [0.3, 0.84],
  [0.27, 1.12],
  [0.235, 1.36],
  [0.19, 1.45],
  [0.07, 1.49],
  [0.065, 1.53],
  [0.1, 1.6],
  [0.1, 1.67],
  [0.06, 1.735],
  [0, 1.75],
];

function figure(): ShapeGeometry {
  const outline = new Shape();
  outline.moveTo(...HALF[0]!);
  for (const point of HALF.slice(1)) outline.lineTo(...point);
  for (const [x, y] of [...HALF].reverse().slice(1)) outline.lineTo(-x, y);
  outline.lineTo(-0.02, 0);
  outline.lineTo(0, 0.8);
  outline.closePath();
  return new ShapeGeometry(outline);
}
