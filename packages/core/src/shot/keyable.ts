import { AIR_KINDS } from '../air/kinds';
import { fabricSchema } from '../fabric/fabric';
import { keyableOf, type Quantity } from '../quantity/quantity';
import { finishNumbers } from './finishAt';
import type { Track } from './keys';
import { leashSchema, pinSetSchema, tieSchema } from './holdSchemas';
import { maskNumber, rampSchema } from './masks';
import { sizeNumbers } from './shapes/sizeKeys';
import { carrySchema, colliderSchema, gravitySchema, type AirThing, type Cloth, type Thing } from './things';

// Which numbers can be keyed, and how they are shown: those that are declared as keyable, and places and turns. The run reads them with
// `valueAt`.

const AXES = ['x', 'y', 'z'] as const;

const place = (axis: string): Quantity => ({
  label: `Place ${axis}`,
  help:
    axis === 'y'
      ? 'Height above the ground. Type “0, 1, 0.5” to set all three.'
      : `Along the stage’s ${axis}. Type “0, 1, 0.5” to set all three.`,
  unit: 'm',
  min: -1000,
  max: 1000,
  default: 0,
  step: 0.005,
});
const turn = (axis: string): Quantity => ({
  label: `Turn ${axis}`,
  help: `About ${axis}; turned about x first, then y, then z. Type “0, 90, 0” to set all three.`,
  unit: '°',
  min: -20 * Math.PI,
  max: 20 * Math.PI,
  default: 0,
  step: Math.PI / 180,
});

export const POSITION_NUMBERS = ['position.x', 'position.y', 'position.z'] as const;
export const ROTATION_NUMBERS = ['rotation.x', 'rotation.y', 'rotation.z'] as const;
export const PLACE_NUMBERS = [...POSITION_NUMBERS, ...ROTATION_NUMBERS] as const;

const PLACES: Record<string, Quantity> = Object.fromEntries(
  AXES.flatMap((axis) => [
    [`position.${axis}`, place(axis)],
    [`rotation.${axis}`, turn(axis)],
  ]),
);

/** What may be keyed of a schema, under the names that its owner has for them. */
const named = (prefix: string, schema: { shape: object }): Record<string, Quantity> =>
  Object.fromEntries(Object.entries(keyableOf(schema)).map(([name, quantity]) => [`${prefix}${name}`, quantity]));

const CLOTHS = { ...named('fabric.', fabricSchema), ...named('carry.', carrySchema) };
const COLLIDERS = named('', colliderSchema);
const GRAVITY = named('gravity.', gravitySchema);

const SHARE: Omit<Quantity, 'label'> = {
  help: 'How wide the pins are, as a share of their width at the start. Cloth between them falls into pleats.',
  unit: '%',
  min: 0,
  max: 5,
  default: 1,
  step: 0.01,
};
const MOVES: Record<string, Quantity> = Object.fromEntries(
  AXES.flatMap((axis) => [
    [
      `move.${axis}`,
      {
        ...place(axis),
        label: `Move ${axis}`,
        help: `How far the pins are moved along ${axis} from where the cloth starts.`,
      },
    ],
    [`turn.${axis}`, { ...turn(axis), help: `Turn of the pins about their middle; about x first, then y, then z.` }],
    [`gather.${axis}`, { ...SHARE, label: `Gather ${axis}` }],
  ]),
);
const PINS = { ...keyableOf(pinSetSchema), ...MOVES };
const TIES = keyableOf(tieSchema);
const LEASHES = keyableOf(leashSchema);

/** The name of a hold's number among those of its cloth: “hold:abc.strength”. */
export const holdNumber = (hold: string, number: string): string => `hold:${hold}.${number}`;

/** The numbers of what holds a cloth. */
function holdNumbers({ pinSets, ties, leashes }: Cloth): Record<string, Quantity> {
  const of = (holds: readonly { id: string; name: string }[], numbers: Record<string, Quantity>) =>
    holds.flatMap(({ id, name }) =>
      Object.entries(numbers).map(([number, quantity]) => [
        holdNumber(id, number),
        { ...quantity, label: `${name}, ${quantity.label.toLowerCase()}` },
      ]),
    );
  return Object.fromEntries([...of(pinSets, PINS), ...of(ties, TIES), ...of(leashes, LEASHES)]) as Record<
    string,
    Quantity
  >;
}

/** The numbers of a cloth's masks: the phase of ramps. */
function maskNumbers({ masks }: Cloth): Record<string, Quantity> {
  const ramps = masks.filter(({ ramp }) => ramp !== null);
  return Object.fromEntries(
    ramps.flatMap(({ id, name }) =>
      Object.entries(keyableOf(rampSchema)).map(([number, quantity]) => [
        maskNumber(id, number),
        { ...quantity, label: `${name}, ${quantity.label.toLowerCase()}` },
      ]),
    ),
  );
}

/** The numbers of air, by its kind. */
const airNumbers = ({ air }: AirThing): Record<string, Quantity> => named('air.', AIR_KINDS[air.kind].schema);

/** Something whose numbers can be keyed: a thing, or the shot for its gravity. */
export type KeyedOwner = Thing | { keys: readonly Track[]; gravity: object };

/** The numbers of a thing, or of the shot's gravity, that can be keyed. Cloth itself is moved by what holds it, not by keys. */
export function keyableNumbers(owner: KeyedOwner): Readonly<Record<string, Quantity>> {
  if (!('role' in owner)) return GRAVITY;
  if (owner.role === 'air') return { ...PLACES, ...airNumbers(owner) };
  if (owner.role === 'cloth')
    return { ...CLOTHS, ...holdNumbers(owner), ...maskNumbers(owner), ...finishNumbers(owner) };
  const sizes = 'shape' in owner ? sizeNumbers(owner.shape) : {};
  return owner.role === 'collider' ? { ...PLACES, ...sizes, ...COLLIDERS } : { ...PLACES, ...sizes };
}

/** How a number of an owner is shown; place and turn also where they cannot be keyed. */
export function numberQuantity(owner: KeyedOwner, number: string): Quantity | undefined {
  return keyableNumbers(owner)[number] ?? PLACES[number];
}

/** Numbers of an owner that have keys, in the order in which they are shown. */
export function keyedNumbers(owner: KeyedOwner): string[] {
  return Object.keys(keyableNumbers(owner)).filter((number) => owner.keys.some((track) => track.number === number));
}
