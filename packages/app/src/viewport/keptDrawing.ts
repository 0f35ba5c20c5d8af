import { NeutralToneMapping, PCFShadowMap, WebGLRenderer } from 'three';
import { Shaders } from './shaders';

/** A canvas and what draws on it. */
export interface Drawing {
  canvas: HTMLCanvasElement;
  renderer: WebGLRenderer;
  shaders: Shaders;
  /** Whether edges are smoothed. A canvas keeps that for its life; without a graphics card it takes a third of the time. */
  smooth: boolean;
}

/**
 * The drawing of a viewport that was left. Making another, and compiling its shaders anew, makes the page wait for the graphics driver at
 * every shot that is opened.
 */
let kept: Drawing | null = null;

/** The one that was kept, or a new one, of a size in its own pixels. Throws where there is no WebGL. */
export function takeDrawing(width: number, height: number, smooth = true): Drawing {
  const usable = kept && !isLost(kept) && kept.smooth === smooth;
  if (kept && !usable) kept.renderer.dispose();
  const drawing = kept && usable ? kept : makeDrawing(width, height, smooth);
  kept = null;
  const { canvas } = drawing;
  for (const name of Object.keys(canvas.dataset)) delete canvas.dataset[name];
  canvas.dataset['testid'] = 'viewport';
  return drawing;
}

/** Keeps a drawing for the next viewport; what was drawn with it is let go of by who gives it back. */
export function giveBack(drawing: Drawing): void {
  drawing.canvas.remove();
  if (kept !== null || isLost(drawing)) return drawing.renderer.dispose();
  drawing.renderer.renderLists.dispose();
  kept = drawing;
}

/** Whether the driver has taken it away. */
const isLost = ({ renderer }: Drawing): boolean => renderer.getContext().isContextLost();

function makeDrawing(width: number, height: number, smooth: boolean): Drawing {
  const canvas = document.createElement('canvas');
  canvas.setAttribute('role', 'img');
  canvas.setAttribute('aria-label', 'The shot in three dimensions');
  // At its size from the start: changing it afterwards makes a driver wait for all that it was given before.
  Object.assign(canvas, { width, height });
  const renderer = new WebGLRenderer({ canvas, antialias: smooth, powerPreference: 'high-performance' });
  // Asked for now, while the driver has nothing to do: the first question about an extension waits for all that it was given.
  renderer.extensions.has('EXT_texture_filter_anisotropic');
  // Asking the driver whether a shader compiled makes the page wait for it.
  renderer.debug.checkShaderErrors = import.meta.env.DEV;
  renderer.toneMapping = NeutralToneMapping;
  renderer.shadowMap.enabled = true;
  renderer.shadowMap.type = PCFShadowMap;
  return { canvas, renderer, shaders: new Shaders(renderer), smooth };
}
