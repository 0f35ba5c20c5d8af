import { z } from 'zod';
import { airSchema } from '../air/kinds';
import { fabricSchema } from '../fabric/fabric';
import { SCALED_NUMBERS } from '../fabric/faceScales';
import { finishEntrySchema } from '../finish/steps';
import { lookOnly, quantity } from '../quantity/quantity';
import { cueSchema } from './cueSchemas';
import { leashSchema, pinSetSchema, tieSchema } from './holdSchemas';
import { id, MOST } from './ids';
import { keysSchema } from './keys';
import { maskSchema } from './masks';
import { shapeSchema } from './shapes';

// What a shot is made of: its things, air among them, and gravity. Plain data in metres, kilograms, seconds and radians; every type in Lumbra
// that concerns them is derived from here, and so are the forms that edit them.

export const name = z.string().min(1).max(120);
export const vector = z.tuple([z.number(), z.number(), z.number()]);
const colour = z.string().regex(/^#[0-9A-Fa-f]{6}$/, 'must be a colour like #B4442F');

const thingBase = {
  id,
  name: lookOnly(name),
  visible: lookOnly(z.boolean().default(true).describe('Whether it is drawn.')),
  enabled: z.boolean().default(true).describe('Whether it takes part in the run.'),
  position: vector.default([0, 0, 0]).describe('In metres.'),
  rotation: vector.default([0, 0, 0]).describe('Radians about x, then y, then z.'),
  keys: keysSchema.default([]).describe('How its numbers change over the shot.'),
  parent: id
    .nullable()
    .default(null)
    .describe('Id of the thing that it rides; its place and turn are then in that thing’s axes.'),
};

/** How the animation that came with a mesh is played. */
export const motionSchema = z.strictObject({
  clip: z.string().min(1).max(200).describe('Name of the clip.'),
  start: z.number().min(-10_000).max(100_000).describe('Frame at which the clip begins.'),
  repeat: z.boolean().default(false).describe('Whether it begins again at its end.'),
});

/** Motion that cloth is given: it is not computed, and other cloth meets it. */
export const givenSchema = z.strictObject({
  asset: id
    .nullable()
    .default(null)
    .describe(
      'Id of the mesh that has its points frame by frame, in the world; null: the animation that came with its own mesh.',
    ),
  start: z.number().min(-10_000).max(100_000).default(1).describe('Frame of the first of them.'),
  from: lookOnly(z.string().max(200).default('').describe('What it was taken from, in words.')),
});

export const printSchema = z.strictObject({
  kind: z.enum(['plain', 'stripe', 'check', 'dots', 'picture']).default('plain'),
  colour: colour.default('#D8CDB4'),
  second: colour.default('#B4442F').describe('The stripes, lines or dots.'),
  repeat: quantity({
    label: 'Repeat',
    help: 'Width of one stripe pair, one check or one picture, or from dot to dot. Changing it never costs a new run.',
    unit: 'cm',
    min: 0.002,
    max: 10,
    default: 0.2,
    step: 0.005,
  }),
  turn: quantity({
    label: 'Turn of the print',
    help: 'How the print lies on the fabric: 0° has stripes across the warp.',
    unit: '°',
    min: -Math.PI,
    max: Math.PI,
    default: 0,
    step: Math.PI / 180,
  }),
  along: quantity({
    label: 'Shift along',
    help: 'How far the print is moved along the warp.',
    unit: 'cm',
    min: -10,
    max: 10,
    default: 0,
    step: 0.001,
  }),
  across: quantity({
    label: 'Shift across',
    help: 'How far the print is moved along the weft.',
    unit: 'cm',
    min: -10,
    max: 10,
    default: 0,
    step: 0.001,
  }),
  picture: z
    .string()
    .max(8_000_000)
    // Empty is none, and what is left where it was lost.
    .regex(/^(data:image\/png;base64,[A-Za-z0-9+/]+=*)?$/)
    .default('')
    .describe('The picture, a PNG in base64.'),
  once: z.boolean().default(false).describe('Whether a picture lies there once instead of again and again.'),
  cutOut: z
    .boolean()
    .default(false)
    .describe(
      'Whether what has the second colour, or is see-through in the picture, is cut out of the cloth to the eye.',
    ),
  oneSided: z.boolean().default(false).describe('Whether the back has the plain colour.'),
  waxed: z.boolean().default(false).describe('A smoother, slightly glossy surface.'),
});

export const selfContactSchema = z.strictObject({
  enabled: z.boolean().default(true).describe('Whether the cloth feels itself.'),
  mask: id.nullable().default(null).describe('Id of the mask that says where: below a half it passes through itself.'),
  thickness: quantity({
    label: 'Layer distance',
    help: 'How far layers keep from each other, and half of how far from other cloth. A fifth of the spacing or less is best.',
    unit: 'mm',
    min: 0.0002,
    max: 0.05,
    default: 0.002,
    step: 'ratio',
  }),
});

export const carrySchema = z.strictObject({
  share: quantity({
    label: 'Carry-over',
    help: 'How much of the travel and turning of what carries it the cloth feels. 0 %: it hangs as if nothing moved.',
    unit: '%',
    min: 0,
    max: 1,
    default: 1,
    step: 0.01,
    keyable: true,
  }),
  sway: quantity({
    label: 'Sway',
    help: 'A pull hither and thither of its own. A tenth of gravity, 1 m/s², is lively.',
    unit: 'm/s²',
    min: 0,
    max: 50,
    default: 0,
    step: 0.05,
    keyable: true,
  }),
  swayPeriod: quantity({
    label: 'Sway period',
    help: 'Time from one swing of the sway to the next.',
    unit: 's',
    min: 0.1,
    max: 60,
    default: 1.5,
    step: 0.05,
  }),
  swaySeed: quantity({
    label: 'Sway seed',
    help: 'Another number gives another sway of the same kind.',
    unit: '',
    min: 0,
    max: 9999,
    default: 0,
    step: 1,
    whole: true,
  }),
});

export const clothSchema = z.strictObject({
  ...thingBase,
  role: z.literal('cloth'),
  shape: shapeSchema,
  fabric: fabricSchema,
  card: lookOnly(
    z.string().max(64).nullable().default(null).describe('Id of the fabric card that the numbers came from.'),
  ),
  print: lookOnly(printSchema.prefault({})),
  selfContact: selfContactSchema.prefault({}),
  carry: carrySchema.prefault({}),
  pinSets: z.array(pinSetSchema).max(MOST.holds).default([]),
  ties: z.array(tieSchema).max(MOST.holds).default([]),
  leashes: z.array(leashSchema).max(MOST.holds).default([]),
  masks: z.array(maskSchema).max(MOST.masks).default([]),
  fabricMasks: z
    .partialRecord(z.enum(SCALED_NUMBERS), id)
    .default({})
    .describe('Ids of the masks that scale numbers of the fabric place by place.'),
  start: id
    .nullable()
    .default(null)
    .describe('Id of the asset that holds the pose in which the run starts; null starts as cut.'),
  motion: motionSchema
    .nullable()
    .default(null)
    .describe('The animation that came with its mesh: where it starts, and what pins and leashes can follow.'),
  given: givenSchema.nullable().default(null).describe('Motion that it is given instead of being simulated.'),
  cues: z.array(cueSchema).max(MOST.cues).default([]).describe('What changes while it moves, when something happens.'),
  finish: lookOnly(
    z
      .array(finishEntrySchema)
      .max(MOST.finish)
      .default([])
      .describe(
        'What is done to the simulated cloth before it is shown and handed over, in order. Never touches a bake.',
      ),
  ),
});

/** Simple shapes that can stand in for a mesh where cloth meets it. */
export const CONTACT_SHAPES = ['exact', 'coarse hull', 'box', 'ball', 'cylinder', 'capsule'] as const;

export const colliderSchema = z.strictObject({
  ...thingBase,
  role: z.literal('collider'),
  shape: shapeSchema,
  colour: lookOnly(colour.default('#8C7B62')),
  clearance: quantity({
    label: 'Clearance',
    help: 'How far from this surface cloth stops, besides half its own thickness.',
    unit: 'mm',
    min: 0,
    max: 0.1,
    default: 0.003,
    step: 0.0005,
    keyable: true,
  }),
  friction: quantity({
    label: 'Friction',
    help: 'How well its surface grips cloth. The grip with a cloth is the mean of both, as √(a·b).',
    unit: '',
    min: 0,
    max: 2,
    default: 0.4,
    step: 0.01,
    keyable: true,
  }),
  bounce: quantity({
    label: 'Bounce',
    help: 'How much of the speed of cloth that hits it is thrown back. 0 % is none, and right for most things.',
    unit: '%',
    min: 0,
    max: 1,
    default: 0,
    step: 0.01,
    keyable: true,
  }),
  contactShape: z
    .enum(CONTACT_SHAPES)
    .default('exact')
    .describe('What cloth meets: the exact shape, or a simpler one fitted around it.'),
  motion: motionSchema.nullable().default(null),
  side: z
    .enum(['auto', 'outside', 'inside', 'both'])
    .default('auto')
    .describe('The side that cloth is kept on; auto is outside of closed shapes and both sides of open ones.'),
});

export const mountSchema = z.strictObject({ ...thingBase, role: z.literal('mount') });

export const scenerySchema = z.strictObject({
  ...thingBase,
  role: z.literal('scenery'),
  shape: shapeSchema,
  colour: lookOnly(colour.default('#8C7B62')),
  motion: motionSchema.nullable().default(null),
});

/** Air that moves, or draws: it blows along its own z, and goes round its own y. */
export const airThingSchema = z.strictObject({ ...thingBase, role: z.literal('air'), air: airSchema });

export const thingSchema = z.discriminatedUnion('role', [
  clothSchema,
  colliderSchema,
  mountSchema,
  scenerySchema,
  airThingSchema,
]);

export const gravitySchema = z.strictObject({
  enabled: z.boolean().default(true),
  strength: quantity({
    label: 'Gravity',
    help: '9.81 on Earth.',
    unit: 'm/s²',
    min: 0,
    max: 100,
    default: 9.81,
    step: 0.1,
    keyable: true,
  }),
  lean: quantity({
    label: 'Lean',
    help: 'How far gravity leans away from straight down: on a deck that rolls, or in a bend.',
    unit: '°',
    min: -Math.PI,
    max: Math.PI,
    default: 0,
    step: Math.PI / 180,
    keyable: true,
  }),
  towards: quantity({
    label: 'Towards',
    help: 'Compass direction that gravity leans to: 0° along z, 90° along x.',
    unit: '°',
    min: -2 * Math.PI,
    max: 2 * Math.PI,
    default: Math.PI / 2,
    step: Math.PI / 180,
    keyable: true,
  }),
});

export type Thing = z.infer<typeof thingSchema>;
export type Role = Thing['role'];
export type Cloth = z.infer<typeof clothSchema>;
export type Collider = z.infer<typeof colliderSchema>;
export type Print = z.infer<typeof printSchema>;
export type Given = z.infer<typeof givenSchema>;
export type ThingMotion = z.infer<typeof motionSchema>;
export type ContactShape = (typeof CONTACT_SHAPES)[number];
export type AirThing = z.infer<typeof airThingSchema>;
