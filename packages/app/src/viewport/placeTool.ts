import type { Pose } from '@lumbra/core';
import { Object3D, type PerspectiveCamera } from 'three';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import { poseFrom, poseObject } from './poseObject';

export type PlaceMode = 'move' | 'turn' | 'size';

const MODES = { move: 'translate', turn: 'rotate', size: 'scale' } as const;
/** What dragging with ctrl keeps to: 1 cm, 5 degrees, 5 %. */
const STEPS = { place: 0.01, turn: (5 * Math.PI) / 180, size: 0.05 };

/** What a tool of the bench is to the handles; null where it has none. */
export function placeModeOf(tool: string): PlaceMode | null {
  return tool in MODES ? (tool as PlaceMode) : null;
}

export interface PlaceEvents {
  /** A drag begins or ends. */
  dragging: (on: boolean) => void;
  /** The thing was dragged to a pose of the world. */
  placed: (pose: Pose, mode: 'move' | 'turn') => void;
  /** How many times as large the thing is along its own axes, while it is dragged; `done` when it is let go. */
  sized: (by: [number, number, number], done: boolean) => void;
}

/** Handles in the viewport that move, turn and size what they are put at, for whoever is served by them. */
export class PlaceTool {
  readonly object: Object3D;
  /** What the handles are at; it must be in the scene. */
  readonly handle = new Object3D();
  readonly #controls: TransformControls;
  #served: PlaceEvents | null = null;

  constructor(
    camera: PerspectiveCamera,
    canvas: HTMLElement,
    { dragging, changed }: { dragging: (on: boolean) => void; changed: () => void },
  ) {
    const controls = (this.#controls = new TransformControls(camera, canvas));
    this.object = controls.getHelper();
    controls.size = 0.8;
    controls.addEventListener('dragging-changed', ({ value }) => {
      dragging(value as boolean);
      this.#served?.dragging(value as boolean);
    });
    controls.addEventListener('change', changed);
    controls.addEventListener('objectChange', () => {
      const { mode } = controls;
      if (mode === 'scale') this.#served?.sized(this.handle.scale.toArray(), false);
      else this.#served?.placed(poseFrom(this.handle), mode === 'translate' ? 'move' : 'turn');
    });
    controls.addEventListener('mouseUp', () => {
      if (controls.mode !== 'scale') return;
      const by = this.handle.scale.toArray();
      this.handle.scale.set(1, 1, 1);
      this.#served?.sized(by, true);
    });
  }

  /** Tells of drags from now on; returns what ends it. */
  serve(events: PlaceEvents): () => void {
    this.#served = events;
    return () => {
      if (this.#served === events) this.#served = null;
    };
  }

  /** Whether the pointer is on a handle. */
  get engaged(): boolean {
    return this.#controls.axis !== null || this.#controls.dragging;
  }

  setColours(x: string, y: string, z: string, active: string): void {
    this.#controls.setColors(x, y, z, active);
  }

  setSteps(on: boolean): void {
    this.#controls.setTranslationSnap(on ? STEPS.place : null);
    this.#controls.setRotationSnap(on ? STEPS.turn : null);
    this.#controls.setScaleSnap(on ? STEPS.size : null);
  }

  /** Puts the handles at a pose, or takes them away. */
  show(mode: PlaceMode | null, pose: Pose | null): void {
    const controls = this.#controls;
    if (controls.dragging) return;
    if (!mode || !pose) {
      controls.detach();
      return;
    }
    controls.setMode(MODES[mode]);
    // Turns and sizes are about the thing's own axes, moves along the world's.
    controls.setSpace(mode === 'move' ? 'world' : 'local');
    poseObject(this.handle, pose);
    this.handle.scale.set(1, 1, 1);
    controls.attach(this.handle);
  }

  dispose(): void {
    this.#controls.detach();
    this.#controls.dispose();
  }
}
