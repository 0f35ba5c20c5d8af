import { Group } from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';

/** Unbroken lines of so many CSS pixels, seen where nothing is in front of them. */
export class PlainLines {
  readonly group = new Group();
  readonly #material: LineMaterial;
  #lines: LineSegments2 | null = null;

  constructor(width: number) {
    this.#material = new LineMaterial({ linewidth: width });
  }

  /** Places two by two, x y z in m each. */
  set(places: number[], colour: string): void {
    this.#clear();
    if (places.length === 0) return;
    this.#material.color.set(colour);
    this.#lines = new LineSegments2(new LineSegmentsGeometry().setPositions(places), this.#material);
    this.#lines.frustumCulled = false;
    this.group.add(this.#lines);
  }

  #clear(): void {
    this.group.clear();
    this.#lines?.geometry.dispose();
    this.#lines = null;
  }

  dispose(): void {
    this.#clear();
    this.#material.dispose();
  }
}
