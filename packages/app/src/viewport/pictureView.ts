import type { Assets, Shot } from '@lumbra/core';
import type { ViewMode } from '../stores/selection';
import { takeDrawing } from './keptDrawing';
import type { ShownMesh } from './scene';
import { StageView } from './stageView';

/** What pictures are taken of, and how: like the viewport shows it, from where the shot is looked at. */
export interface PictureOf {
  shot: Shot;
  assets: Assets;
  mode: ViewMode;
  evening: boolean;
  /** In pixels. */
  width: number;
  height: number;
}

/** Takes pictures off the page, in a size of their own, while the viewport goes on as it is. */
export class PictureView {
  readonly #stage: StageView;
  readonly #of: PictureOf;

  /** @throws Error where there is no WebGL */
  constructor(of: PictureOf) {
    const { shot, assets, mode, evening, width, height } = of;
    this.#of = of;
    this.#stage = new StageView(takeDrawing(width, height));
    this.#stage.setEvening(evening);
    this.#stage.resize(width, height, 1);
    this.#stage.lookFrom(shot.camera.position, shot.camera.target);
    this.#stage.setShot(shot, assets, mode, shot.firstFrame);
  }

  /**
   * A frame of the shot, with its cloths in their places: as they were simulated (x y z in m by id), and drawn as `shown` has them where it does.
   * @throws Error when the graphics driver was lost
   */
  async take(
    frame: number,
    positions: ReadonlyMap<string, Float32Array>,
    shown: ReadonlyMap<string, ShownMesh>,
  ): Promise<ImageBitmap> {
    this.#stage.setPositions(positions, shown);
    this.#stage.moveThings(this.#of.shot, frame);
    const picture = await this.#stage.picture();
    if (!picture) throw new Error('The graphics driver was lost. Reload the page, and take the pictures again.');
    return picture;
  }

  /** Looks from another place at another one, in m. */
  lookFrom(position: readonly number[], target: readonly number[]): void {
    this.#stage.lookFrom(position, target);
  }

  dispose(): void {
    this.#stage.dispose();
  }
}
