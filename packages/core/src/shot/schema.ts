import { z } from 'zod';
import { keyableNumbers } from './keyable';
import { keysSchema } from './keys';
import { contactsSchema } from './contactSchemas';
import { id, MOST } from './ids';
import { gravitySchema, name, thingSchema, vector } from './things';

// The shot document.

export * from './things';

export const SHOT_FORMAT = 'lumbra.shot';
export const SHOT_VERSION = 4;

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
    keys: keysSchema.default([]).describe('How gravity changes over the shot.'),
    gravity: gravitySchema.prefault({}),
    run: runSchema.prefault({}),
    camera: z
      .strictObject({ position: vector, target: vector })
      .default({ position: [2.6, 1.9, 3.4], target: [0, 0.5, 0] })
      .describe('From where the shot is looked at when it opens.'),
    contacts: contactsSchema
      .default([])
      .describe(
        'Who touches whom otherwise than by their own numbers. Pairs of things that are not in the shot do nothing.',
      ),
    things: z.array(thingSchema).max(MOST.things).default([]),
  })
  .superRefine((shot, context) => {
    if (shot.lastFrame < shot.firstFrame) {
      context.addIssue({ code: 'custom', path: ['lastFrame'], message: 'the last frame comes before the first' });
    }
    const keyProblem = (owner: Parameters<typeof keyableNumbers>[0], path: (string | number)[]) => {
      const known = keyableNumbers(owner);
      owner.keys.forEach(({ number, knots }, i) => {
        const quantity = known[number];
        if (!quantity) {
          context.addIssue({
            code: 'custom',
            path: [...path, i, 'number'],
            message: `“${number}” cannot be keyed here`,
          });
          return;
        }
        const wrong = knots.findIndex(({ value }) => value < quantity.min || value > quantity.max);
        if (wrong < 0) return;
        const where = [...path, i, 'knots', wrong, 'value'];
        context.addIssue({ code: 'custom', path: where, message: `must be from ${quantity.min} to ${quantity.max}` });
      });
    };
    keyProblem(shot, ['keys']);
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
      keyProblem(thing, ['things', i, 'keys']);
      for (const problem of parentProblems(shot.things, thing)) {
        context.addIssue({ code: 'custom', path: ['things', i, 'parent'], message: problem });
      }
    });
  });

/** Why a thing cannot ride what it names: the thing is missing, or rides this one itself. */
function parentProblems(
  things: readonly { id: string; name: string; parent: string | null }[],
  thing: { id: string; name: string; parent: string | null },
): string[] {
  if (thing.parent === null) return [];
  const passed: string[] = [thing.name];
  for (let at: string | null = thing.parent; at !== null;) {
    if (at === thing.id) return [`“${thing.name}” would ride itself (${[...passed, thing.name].join(', on ')})`];
    const carrier = things.find(({ id }) => id === at);
    if (!carrier) return passed.length === 1 ? [`rides a thing “${at}” that is not in the shot`] : [];
    passed.push(carrier.name);
    if (passed.length > things.length + 1) return [];
    at = carrier.parent;
  }
  return [];
}

export type Shot = z.infer<typeof shotSchema>;
