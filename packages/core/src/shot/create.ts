import { nanoid } from 'nanoid';
import { fabricSchema } from '../fabric/fabric';
import { findCard } from '../fabric/swatchBook';
import { leashSchema, pinSetSchema, tieSchema, type Leash, type PinSet, type Tie } from './holdSchemas';
import { layerDistanceFor } from './layerDistance';
import type { z } from 'zod';
import {
  airThingSchema,
  clothSchema,
  colliderSchema,
  mountSchema,
  scenerySchema,
  SHOT_FORMAT,
  SHOT_VERSION,
  shotSchema,
  type AirThing,
  type Cloth,
  type Collider,
  type Shot,
  type Thing,
} from './schema';

/** A stable id for a new thing, pin set or shot. */
export function newId(): string {
  return nanoid(10);
}

type Draft<S extends z.ZodType> = Partial<z.input<S>>;

/** A new shot with the defaults for everything that is not given. */
export function createShot(given: Draft<typeof shotSchema> & { name: string }): Shot {
  return shotSchema.parse({ id: newId(), ...given, format: SHOT_FORMAT, version: SHOT_VERSION });
}

/**
 * A cloth from a fabric card (linen when none is named), one metre square unless a shape is given. Its layers keep as far apart as its spacing asks for,
 * unless that is given.
 */
export function createCloth(given: Draft<typeof clothSchema> & { name: string }): Cloth {
  const card = findCard(given.card ?? 'linen-mid');
  const fabric = fabricSchema.parse({ ...card?.fabric, ...given.fabric });
  const shape = given.shape ?? { kind: 'sheet' };
  const fine = 'spacing' in shape && shape.spacing !== undefined && { thickness: layerDistanceFor(shape.spacing) };
  return clothSchema.parse({
    id: newId(),
    ...given,
    shape,
    selfContact: { ...fine, ...given.selfContact },
    print: { ...(card && { colour: card.look.color }), ...given.print },
    card: card?.id ?? null,
    fabric,
    role: 'cloth',
  });
}

export function createCollider(given: Draft<typeof colliderSchema> & { name: string }): Collider {
  return colliderSchema.parse({ id: newId(), shape: { kind: 'box' }, ...given, role: 'collider' });
}

export function createPinSet(given: Draft<typeof pinSetSchema> & { name: string; points: number[] }): PinSet {
  return pinSetSchema.parse({ id: newId(), ...given });
}

export function createTie(given: Draft<typeof tieSchema> & { name: string; points: number[]; to: string }): Tie {
  return tieSchema.parse({ id: newId(), ...given });
}

export function createLeash(given: Draft<typeof leashSchema> & { name: string; points: number[] }): Leash {
  return leashSchema.parse({ id: newId(), ...given });
}

/** Air: a wind along x unless its kind and turn are given. */
export function createAir(given: Draft<typeof airThingSchema> & { name: string }): AirThing {
  return airThingSchema.parse({ id: newId(), air: { kind: 'wind' }, ...given, role: 'air' });
}

export function createMount(given: Draft<typeof mountSchema> & { name: string }): Thing {
  return mountSchema.parse({ id: newId(), ...given, role: 'mount' });
}

export function createScenery(given: Draft<typeof scenerySchema> & { name: string }): Thing {
  return scenerySchema.parse({ id: newId(), shape: { kind: 'box' }, ...given, role: 'scenery' });
}
