import { Group } from 'three';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';

/** Stitches between tied points and what they are tied to. */
export class StitchLines {
  readonly group = new Group();
  readonly #material = new LineMaterial({
    linewidth: 2,
    dashed: true,
    dashSize: 0.008,
    gapSize: 0.004,
    depthTest: false,
  });
  #lines: LineSegments2 | null = null;

  /** Places two by two, x y z in m each. */
  set(places: number[], colour: string): void {
    this.#clear();
    if (places.length === 0) return;
    this.#material.color.set(colour);
    this.#lines = new LineSegments2(new LineSegmentsGeometry().setPositions(places), this.#material);
    this.#lines.computeLineDistances();
    this.#lines.frustumCulled = false;
    this.#lines.renderOrder = 1;
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
