import type { UsedReach } from '../solver/constraints/usedReach';
import { MOST_SUBSTEPS } from '../solver/substeps';

// How many substeps each frame gets so that it keeps what the quality promises. False stretch goes with the square of a substep's
// length and with the load, which nobody knows beforehand: so a frame follows what the one before needed, and one that broke its
// promise is taken again. A pure function of what was measured, so that a run that goes on gives the same bits.

/** What a frame showed that its promise is about. */
export interface Shown {
  /** The largest stretch of any face beyond what its fabric gives, as a share, without faces that held points stretch between them. */
  stretch: number;
  /** The same with it: that is not what was promised either, but no substeps change it. */
  stretchWithHeld: number;
  crossings: number;
  /** How deep cloth is in a collider, in m; 0 where it keeps off all. */
  deepest: number;
  /** Faces of cloth that pass through the surface of a collider. */
  pierced: number;
  /** How many m of room colliders that cloth is between miss at most for its thickness. */
  squeezed: number;
}

/** What of it is held against the frame after. */
type Before = Pick<Shown, 'crossings' | 'deepest' | 'pierced'>;

export interface PaceLimits {
  /** Largest stretch beyond what the fabric gives. */
  promised: number;
  least: number;
  most: number;
}

/** A frame is taken again at most so often, each time with at least and at most so many times the substeps. */
export const MOST_RETAKES = 3;
const LEAST_MORE = 1.3;
const MOST_MORE = 3;
const LAST_MORE = 2;
/** From a frame to the next: so that waves of impacts do not make it swing. */
const MOST_GROWTH = 2;
const MOST_DECAY = 0.85;
/** After an impact hardly anything may be stretched any more: below this share of what is aimed at, substeps go down faster. */
const SLACK_SHARE = 0.4;
const SLACK_DECAY = 0.65;
/** What is aimed at, as a share of what is promised. */
const AIM = 0.7;
/** More substeps hardly helped where this share of the stretch is left: they should have left two thirds at most. */
const HARDLY = 0.8;
/** Attachments are taut that are used to this share of how far they reach. */
const TAUT = 0.998;
/** Where they keep cloth from giving they reach farther by so many times its stretch, at least and at most by these shares, up to so many times in all. */
const FARTHER = 2;
const LEAST_FARTHER = 0.03;
const MOST_FARTHER = 0.15;
const MOST_REACH = 1.5;
/** From frame to frame they reach less again, down to a little more than is used. */
const NEARER = 0.98;
const BEYOND_USE = 1.005;
/** How deep in m cloth may come to be in a collider. */
const DEPTH = 1e-4;
/** Numbers that substeps are rounded up to: air, damping and the choice of faces act over whole intervals of 4. */
const WHOLE = 4;
/** The rule knows the load of cloth that hangs free; cloth that lies needs less. */
const LEAST_OF_RULE = 0.25;

/** Limits for a run that begins with the substeps of the rule, and never has fewer than bending needs. */
export function paceLimits(promised: number, rule: number, fewest: number): PaceLimits {
  return { promised, least: whole(Math.max(fewest, rule * LEAST_OF_RULE)), most: MOST_SUBSTEPS };
}

/**
 * By what a frame breaks its promise. Two ways of being stretched are not to be computed away: between held points that are too far apart, and where cloth is
 * wound up, or drawn over something, by what holds it. Nor is it that colliders which lie in each other squeeze what is between them.
 */
export type Breach = 'crossed' | 'pierced' | 'deep' | 'stretched' | 'squeezed' | 'heldApart' | 'drawnOut';

/** Breaches of which it is said by how much the cloth is stretched. */
export const STRETCHES: readonly (Breach | null)[] = [null, 'stretched', 'heldApart', 'drawnOut'];

/** By what a frame broke what is promised; null where it was kept. Nobody promises that what was crossed or too deep before mends itself. */
export function breachOf(shown: Shown, before: Before, { promised }: PaceLimits): Breach | null {
  const { stretch, stretchWithHeld, crossings, deepest, pierced, squeezed } = shown;
  if (crossings > before.crossings) return 'crossed';
  if (pierced > before.pierced) return 'pierced';
  if (deepest > Math.max(DEPTH, before.deepest)) return 'deep';
  if (stretch > promised) return 'stretched';
  if (squeezed > DEPTH) return 'squeezed';
  return stretchWithHeld > promised ? 'heldApart' : null;
}

/**
 * What of it more substeps may mend. What held points stretch between them is not, nor what colliders squeeze, and cloth that crosses comes apart by way of more crossings and fewer, however
 * finely it is computed.
 */
export function mendable(shown: Shown, before: Before, limits: PaceLimits): Breach | null {
  const broke = breachOf(before.crossings > 0 ? { ...shown, crossings: 0 } : shown, before, limits);
  return broke === 'heldApart' || broke === 'squeezed' ? null : broke;
}

/**
 * With how many substeps a frame that broke its promise is taken again, after so many retakes; null where more are not to be had. The
 * last time it gets plenty: what the stretch asks for did not do before.
 */
export function retakeWith(shown: Shown, substeps: number, { promised, most }: PaceLimits, retakes = 0): number | null {
  const least = retakes === MOST_RETAKES - 1 ? LAST_MORE : LEAST_MORE;
  const wanted = clamp(Math.sqrt(shown.stretch / (AIM * promised)), least, MOST_MORE);
  const more = Math.min(whole(substeps * wanted), most);
  return more > substeps ? more : null;
}

/** With how many substeps a frame that could not be computed is taken again; null where more are not to be had. */
export function afterFailure(substeps: number, { most }: PaceLimits): number | null {
  const more = Math.min(whole(substeps * MOST_MORE), most);
  return more > substeps ? more : null;
}

/** With how many substeps the frame after begins. */
export function substepsAfter(shown: Shown, substeps: number, { promised, least, most }: PaceLimits): number {
  const share = shown.stretch / (AIM * promised);
  const wanted = clamp(Math.sqrt(share), share < SLACK_SHARE ? SLACK_DECAY : MOST_DECAY, MOST_GROWTH);
  return clamp(whole(substeps * wanted), least, most);
}

/** How a frame was computed that broke its promise. */
export interface Tried {
  substeps: number;
  /** How many times as far as the cloth is long its attachments reached at least, and how they were used. */
  reach: number;
  used: UsedReach;
  /** How much it was stretched with fewer substeps, and the same reach; null where that was not tried. */
  before: number | null;
}

/**
 * How many times as far as the cloth is long its attachments are to reach where they tear at it; null where they do not, or reach far enough. They know the load of
 * cloth that hangs: where something pushes it away from what holds it, or winds it up, it has to give more, and where attachments will not let it no number of substeps mends that.
 */
export function reachFarther(
  { stretch }: Shown,
  { substeps, reach, used, before }: Tried,
  { promised, most }: PaceLimits,
): number | null {
  const reached = Math.max(reach, used.reach);
  if (stretch <= promised || used.share < TAUT || reached >= MOST_REACH) return null;
  const helped = before === null || stretch < before * HARDLY;
  if (substeps < most && helped) return null;
  return Math.min(MOST_REACH, reached * (1 + clamp(stretch * FARTHER, LEAST_FARTHER, MOST_FARTHER)));
}

/** How far they reach in the frame after one in which so much was used. */
export function reachAfter(reach: number, used: UsedReach): number {
  return Math.max(1, Math.min(reach, Math.max(used.reach * BEYOND_USE, reach * NEARER)));
}

/** Rounded up to what is computed alike from frame to frame. */
export function whole(substeps: number): number {
  return Math.ceil(substeps / WHOLE) * WHOLE;
}

function clamp(value: number, least: number, most: number): number {
  return Math.min(Math.max(value, least), most);
}
