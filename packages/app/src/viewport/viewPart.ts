import type { Component } from 'vue';
import type { Scene } from './scene';
import type { StageView } from './stageView';

// What stations add to the viewport. Each is set up while its station is open, in a scope of its own: its watchers end and its
// `onScopeDispose` is called when the station is left.

export interface ViewContext {
  /** The three.js side: add objects to it, and let it draw. */
  stage: StageView;
  /** The scene as it is now; reactive. */
  scene: () => Scene;
}

/** Draws something besides the scene. */
export type ViewLayer = (context: ViewContext) => void;

/** A place on the canvas in CSS pixels. */
export interface CanvasPlace {
  x: number;
  y: number;
}

/** Takes the pointer on the canvas. */
export interface ViewTool {
  /** Takes a press, or leaves it to the tools after it and to selecting: false. */
  press: (event: PointerEvent, place: (event: MouseEvent) => CanvasPlace) => boolean;
  hover?: (at: CanvasPlace) => void;
  leave?: () => void;
  /** Whether it has the left button for itself, so that dragging does not turn the view; reactive. */
  hasButton?: () => boolean;
  /** What it draws over the picture. */
  overlay?: Component;
}

export type UseViewTool = (context: ViewContext) => ViewTool;
