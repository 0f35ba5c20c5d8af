import type { Shot } from '@lumbra/core';
import type { Component } from 'vue';
import type { StationId } from '../stores/selection';
import type { UseViewTool, ViewLayer } from '../viewport/viewPart';

/** State of a station's knot by what is there: nothing yet, in use. What the checks find goes before it. */
export type Knot = 'empty' | 'used';

/** A step of the work: its place on the rail, its panel, and what it adds to the viewport while it is open. */
export interface Station {
  id: StationId;
  label: string;
  icon: Component;
  panel: Component;
  knot: (shot: Shot, baked: boolean) => Knot;
  /** What is drawn besides the scene, in order. */
  layers?: readonly ViewLayer[];
  /** What takes the pointer in the viewport, the first one first. */
  tools?: readonly UseViewTool[];
  /** What is looked at in place of the stage, one key away. */
  flat?: Component;
  /** Cloth is judged here: no stitches are drawn around it. */
  judges?: boolean;
}
