import { z } from 'zod';
import { quantity } from '../quantity/quantity';
import { id, MOST } from './ids';

// What holds cloth: pin sets, ties and leashes.

const name = z.string().min(1).max(120);
const vector = z.tuple([z.number(), z.number(), z.number()]);
const points = z.array(z.number().int().min(0)).max(MOST.points).describe('Indices of its points.');
const mask = id.nullable().default(null).describe('Id of the mask that scales it point by point.');

const strength = quantity({
  label: 'Strength',
  help: '100 % holds firmly; less gives, the more the weaker. 0 % lets go.',
  unit: '%',
  min: 0,
  max: 1,
  default: 1,
  step: 0.01,
  keyable: true,
  maskable: true,
});

/** How a hold lets go of its points one after the other. */
const release = {
  release: id
    .nullable()
    .default(null)
    .describe('Id of the mask that says in which order points become free: those where it is least go first.'),
  released: quantity({
    label: 'Released',
    help: 'Points whose release mask is below this are free. Key it from 0 to 100 % to let go one after the other.',
    unit: '%',
    min: 0,
    max: 1,
    default: 0,
    step: 0.01,
    keyable: true,
  }),
};

export const pinSetSchema = z.strictObject({
  id,
  name,
  points,
  strength,
  mask,
  ...release,
  rides: id
    .nullable()
    .default(null)
    .describe(
      'Id of the thing whose motion it follows, or of the cloth itself for the animation that came with it; null stays.',
    ),
  move: vector.default([0, 0, 0]).describe('How far it is moved from where the cloth starts, in m.'),
  turn: vector.default([0, 0, 0]).describe('Its turn about its middle, radians about x, then y, then z.'),
  gather: vector.default([1, 1, 1]).describe('How wide it is along x, y and z, as a share of its width at the start.'),
});

export const tieSchema = z.strictObject({
  id,
  name,
  points,
  to: id.describe('Id of the thing to which the points are tied.'),
  along: z
    .enum(['surface', 'border'])
    .default('surface')
    .describe(
      'Each point at the nearest place of its surface, or all along its nearest border: a stretch of border evenly from where its ends are nearest.',
    ),
  strength,
  mask,
  ...release,
  keepsDistance: z.boolean().default(true).describe('Whether points keep the distance that they have at the start.'),
  standOff: quantity({
    label: 'Stand-off',
    help: 'The distance that tied points keep from the surface, where they do not keep the one that they start with.',
    unit: 'mm',
    min: 0,
    max: 10,
    default: 0.005,
    step: 0.0005,
    keyable: true,
    maskable: true,
  }),
  drawnIn: quantity({
    label: 'Frames to draw in',
    help: 'From where the points start to their stand-off: in so many frames after a run or a settle begins. 0 is at once.',
    unit: '',
    min: 0,
    max: 1000,
    default: 0,
    step: 1,
    whole: true,
  }),
  standOffMask: id.nullable().default(null).describe('Id of the mask that scales the stand-off.'),
});

export const leashSchema = z.strictObject({
  id,
  name,
  points,
  distance: quantity({
    label: 'Leash',
    help: 'How far a point may stray from where the cloth starts, carried along by what the cloth rides.',
    unit: 'mm',
    min: 0,
    max: 100,
    default: 0.05,
    step: 'ratio',
    keyable: true,
    maskable: true,
  }),
  mask,
  ...release,
  neverBehind: z
    .boolean()
    .default(false)
    .describe('Whether points also stay on the outer side of where the animation puts the cloth.'),
});

export type PinSet = z.infer<typeof pinSetSchema>;
export type Tie = z.infer<typeof tieSchema>;
export type Leash = z.infer<typeof leashSchema>;
export type Hold = PinSet | Tie | Leash;
