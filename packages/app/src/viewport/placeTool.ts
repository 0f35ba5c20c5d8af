import type { Pose } from '@lumbra/core';
import { Group, Object3D, type PerspectiveCamera } from 'three';
import type { TransformControls } from 'three/addons/controls/TransformControls.js';
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

/** Handles in the viewport that move, turn and size what they are put at, for whoever is served by them. Made when they are first shown. */
export class PlaceTool {
  readonly object = new Group();
  /** What the handles are at; it must be in the scene. */
  readonly handle = new Object3D();
  readonly #camera: PerspectiveCamera;
  readonly #canvas: HTMLElement;
  readonly #events: { dragging: (on: boolean) => void; changed: () => void };
  #controls: TransformControls | null = null;
  #making = false;
  #disposed = false;
  #shown: { mode: PlaceMode; pose: Pose } | null = null;
  #colours: [x: string, y: string, z: string, active: string] | null = null;
  #served: PlaceEvents | null = null;

  constructor(
    camera: PerspectiveCamera,
    canvas: HTMLElement,
    events: { dragging: (on: boolean) => void; changed: () => void },
  ) {
    this.#camera = camera;
    this.#canvas = canvas;
    this.#events = events;
  }

  async #make(): Promise<void> {
    if (this.#making) return;
    this.#making = true;
    // What cannot be loaded now is asked for again when handles are next shown.
    const loading = import('three/addons/controls/TransformControls.js').finally(() => (this.#making = false));
    const { TransformControls } = await loading;
    if (this.#disposed) return;
    const controls = (this.#controls = new TransformControls(this.#camera, this.#canvas));
    this.object.add(controls.getHelper());
    controls.size = 0.8;
    controls.addEventListener('dragging-changed', ({ value }) => {
      this.#events.dragging(value as boolean);
      this.#served?.dragging(value as boolean);
    });
    controls.addEventListener('change', this.#events.changed);
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
    if (this.#colours) controls.setColors(...this.#colours);
    this.#put(controls);
    this.#events.changed();
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
    return this.#controls !== null && (this.#controls.axis !== null || this.#controls.dragging);
  }

  setColours(x: string, y: string, z: string, active: string): void {
    this.#colours = [x, y, z, active];
    this.#controls?.setColors(x, y, z, active);
  }

  setSteps(on: boolean): void {
    this.#controls?.setTranslationSnap(on ? STEPS.place : null);
    this.#controls?.setRotationSnap(on ? STEPS.turn : null);
    this.#controls?.setScaleSnap(on ? STEPS.size : null);
  }

  /** Puts the handles at a pose, or takes them away. */
  show(mode: PlaceMode | null, pose: Pose | null): void {
    if (this.#controls?.dragging) return;
    this.#shown = mode && pose && { mode, pose };
    if (this.#controls) this.#put(this.#controls);
    else if (this.#shown) void this.#make();
  }

  #put(controls: TransformControls): void {
    if (!this.#shown) {
      controls.detach();
      return;
    }
    const { mode, pose } = this.#shown;
    controls.setMode(MODES[mode]);
    // Turns and sizes are about the thing's own axes, moves along the world's.
    controls.setSpace(mode === 'move' ? 'world' : 'local');
    poseObject(this.handle, pose);
    this.handle.scale.set(1, 1, 1);
    controls.attach(this.handle);
  }

  dispose(): void {
    this.#disposed = true;
    this.#controls?.detach();
    this.#controls?.dispose();
  }
}
