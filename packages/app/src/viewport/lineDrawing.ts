import { Group } from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';

export interface LineLook {
  /** In CSS pixels. */
  width: number;
  /** Length of a stitch and of the gap after it, in m; unbroken where it is missing. */
  stitch?: { dash: number; gap: number };
  /** Seen through whatever is in front. */
  onTop?: boolean;
}

/** Lines of one look, from place to place. Its material is not let go of: a renderer forgets a shader with its last material. */
export class LineDrawing {
  readonly group = new Group();
  readonly #material: LineMaterial;
  readonly #onTop: boolean;
  #lines: LineSegments2 | null = null;

  constructor({ width, stitch, onTop = false }: LineLook) {
    this.#onTop = onTop;
    this.#material = new LineMaterial({
      linewidth: width,
      depthTest: !onTop,
      // Drawn with what lets light through, or the floor would be drawn over it.
      transparent: onTop,
      ...(stitch && { dashed: true, dashSize: stitch.dash, gapSize: stitch.gap }),
    });
  }

  /** Places two by two, x y z in m each. */
  set(places: number[], colour: string): void {
    this.#clear();
    if (places.length === 0) return;
    this.#material.color.set(colour);
    this.#lines = new LineSegments2(new LineSegmentsGeometry().setPositions(places), this.#material);
    if (this.#material.dashed) this.#lines.computeLineDistances();
    this.#lines.frustumCulled = false;
    if (this.#onTop) this.#lines.renderOrder = 1;
    this.group.add(this.#lines);
  }

  #clear(): void {
    this.group.clear();
    this.#lines?.geometry.dispose();
    this.#lines = null;
  }

  dispose(): void {
    this.#clear();
  }
}
