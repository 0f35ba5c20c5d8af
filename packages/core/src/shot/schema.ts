import { z } from 'zod';
import { fabricSchema } from '../fabric/fabric';
import { quantity } from '../quantity/quantity';
import { keysSchema } from './keys';
import { shapeSchema } from './shapes';

// The shot document. Plain data in metres, kilograms, seconds and radians; every type in Lumbra that concerns
// it is derived from here, and so are the forms that edit it.

export const SHOT_FORMAT = 'lumbra.shot';
export const SHOT_VERSION = 1;

const id = z.string().min(1).max(64);
const name = z.string().min(1).max(120);
const vector = z.tuple([z.number(), z.number(), z.number()]);
const colour = z.string().regex(/^#[0-9A-Fa-f]{6}$/, 'must be a colour like #B4442F');

const thingBase = {
  id,
  name,
  visible: z.boolean().default(true).describe('Whether it is drawn.'),
  enabled: z.boolean().default(true).describe('Whether it takes part in the run.'),
  position: vector.default([0, 0, 0]).describe('In metres.'),
  rotation: vector.default([0, 0, 0]).describe('Radians about x, then y, then z.'),
  keys: keysSchema.default([]).describe('How its place and turn change over the shot.'),
};

export const printSchema = z.strictObject({
  kind: z.enum(['plain', 'stripe', 'check']).default('plain'),
  colour: colour.default('#D8CDB4'),
  second: colour.default('#B4442F').describe('The stripes or lines.'),
  repeat: quantity({
    label: 'Repeat',
    help: 'Width of one stripe pair or one check. Changing it never costs a new run.',
    unit: 'cm',
    min: 0.002,
    max: 10,
    default: 0.2,
    step: 0.005,
  }),
  waxed: z.boolean().default(false).describe('A smoother, slightly glossy surface.'),
});

export const pinSetSchema = z.strictObject({
  id,
  name,
  points: z.array(z.number().int().min(0)).describe('Indices of the points that stay where they start.'),
});

export const selfContactSchema = z.strictObject({
  enabled: z.boolean().default(true).describe('Whether the cloth feels itself. It always feels other cloth.'),
  thickness: quantity({
    label: 'Layer distance',
    help: 'How far layers keep from each other, and half of how far from other cloth. Below a tenth of the spacing is best.',
    unit: 'mm',
    min: 0.0002,
    max: 0.05,
    default: 0.002,
    step: 'ratio',
  }),
});

export const clothSchema = z.strictObject({
  ...thingBase,
  role: z.literal('cloth'),
  shape: shapeSchema,
  fabric: fabricSchema,
  card: z.string().nullable().default(null).describe('Id of the fabric card that the numbers came from.'),
  print: printSchema.prefault({}),
  selfContact: selfContactSchema.prefault({}),
  pinSets: z.array(pinSetSchema).default([]),
  start: z
    .string()
    .nullable()
    .default(null)
    .describe('Id of the asset that holds the pose in which the run starts; null starts as cut.'),
});

export const colliderSchema = z.strictObject({
  ...thingBase,
  role: z.literal('collider'),
  shape: shapeSchema,
  colour: colour.default('#8C7B62'),
  clearance: quantity({
    label: 'Clearance',
    help: 'How far from this surface cloth stops, besides half its own thickness.',
    unit: 'mm',
    min: 0,
    max: 0.1,
    default: 0.003,
    step: 0.0005,
  }),
  friction: quantity({
    label: 'Friction',
    help: 'How well its surface grips cloth. The grip with a cloth is the mean of both, as √(a·b).',
    unit: '',
    min: 0,
    max: 2,
    default: 0.4,
    step: 0.01,
  }),
  side: z
    .enum(['auto', 'outside', 'inside', 'both'])
    .default('auto')
    .describe('The side that cloth is kept on; auto is outside of closed shapes and both sides of open ones.'),
});

export const pegSchema = z.strictObject({ ...thingBase, role: z.literal('peg') });

export const scenerySchema = z.strictObject({
  ...thingBase,
  role: z.literal('scenery'),
  shape: shapeSchema,
  colour: colour.default('#8C7B62'),
});

export const thingSchema = z.discriminatedUnion('role', [clothSchema, colliderSchema, pegSchema, scenerySchema]);

export const gravitySchema = z.strictObject({
  enabled: z.boolean().default(true),
  strength: quantity({
    label: 'Gravity',
    help: 'Straight down. 9.81 on Earth.',
    unit: 'm/s²',
    min: 0,
    max: 100,
    default: 9.81,
    step: 0.1,
  }),
});

export const windSchema = z.strictObject({
  enabled: z.boolean().default(false),
  speed: quantity({
    label: 'Wind',
    help: 'Speed of the air, the same everywhere. 3 m/s moves leaves, 10 m/s large branches.',
    unit: 'm/s',
    min: 0,
    max: 60,
    default: 5,
    step: 0.1,
  }),
  heading: quantity({
    label: 'Towards',
    help: 'Compass direction that the wind blows to: 0° along z, 90° along x.',
    unit: '°',
    min: -2 * Math.PI,
    max: 2 * Math.PI,
    default: Math.PI / 2,
    step: Math.PI / 180,
  }),
  rise: quantity({
    label: 'Rise',
    help: 'How steeply the wind blows upwards; negative blows down.',
    unit: '°',
    min: -Math.PI / 2,
    max: Math.PI / 2,
    default: 0,
    step: Math.PI / 180,
  }),
  gustDepth: quantity({
    label: 'Gust depth',
    help: 'How far gusts raise and lower the speed. 0 % is a steady wind.',
    unit: '%',
    min: 0,
    max: 1,
    default: 0,
    step: 0.01,
  }),
  gustPeriod: quantity({
    label: 'Gust period',
    help: 'Time from one gust to the next.',
    unit: 's',
    min: 0.1,
    max: 60,
    default: 3,
    step: 0.05,
  }),
});

export const runSchema = z.strictObject({
  quality: z.enum(['draft', 'shot', 'final']).default('shot'),
  substeps: z
    .number()
    .int()
    .min(1)
    .max(2000)
    .nullable()
    .default(null)
    .describe('Substeps a frame set by hand; null lets quality, spacing and fabric decide.'),
});

const wholeFrames = z.number().int().min(-10_000).max(100_000);

export const shotSchema = z
  .strictObject({
    format: z.literal(SHOT_FORMAT),
    version: z.literal(SHOT_VERSION),
    id,
    name,
    code: z.string().max(24).default('').describe('The production’s own number for the shot.'),
    frameRate: z.number().min(1).max(240).default(24),
    firstFrame: wholeFrames.default(1),
    lastFrame: wholeFrames.default(120),
    preRoll: z.number().int().min(0).max(10_000).default(0).describe('Frames that run before the first one.'),
    gravity: gravitySchema.prefault({}),
    wind: windSchema.prefault({}),
    run: runSchema.prefault({}),
    camera: z
      .strictObject({ position: vector, target: vector })
      .default({ position: [2.6, 1.9, 3.4], target: [0, 0.5, 0] })
      .describe('From where the shot is looked at when it opens.'),
    things: z.array(thingSchema).default([]),
  })
  .superRefine((shot, context) => {
    if (shot.lastFrame < shot.firstFrame) {
      context.addIssue({ code: 'custom', path: ['lastFrame'], message: 'the last frame comes before the first' });
    }
    const seen = new Set<string>();
    shot.things.forEach((thing, i) => {
      if (seen.has(thing.id)) {
        context.addIssue({ code: 'custom', path: ['things', i, 'id'], message: `the id “${thing.id}” is used twice` });
      }
      seen.add(thing.id);
      if (thing.role === 'cloth' && thing.shape.kind === 'ground') {
        context.addIssue({
          code: 'custom',
          path: ['things', i, 'shape'],
          message: 'the endless ground cannot be cloth',
        });
      }
    });
  });

export type Shot = z.infer<typeof shotSchema>;
export type Thing = z.infer<typeof thingSchema>;
export type Role = Thing['role'];
export type Cloth = z.infer<typeof clothSchema>;
export type Collider = z.infer<typeof colliderSchema>;
export type PinSet = z.infer<typeof pinSetSchema>;
export type Print = z.infer<typeof printSchema>;
export type Wind = z.infer<typeof windSchema>;
