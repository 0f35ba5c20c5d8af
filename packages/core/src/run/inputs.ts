import type { z } from 'zod';
import { AIR_KINDS } from '../air/kinds';
import { affectsRun } from '../quantity/quantity';
import { activeAir } from '../shot/airThings';
import { activeContacts } from '../shot/contacts';
import type { Hold, Tie } from '../shot/holdSchemas';
import { isFinishNumber } from '../shot/finishAt';
import { holdersOf } from '../shot/holds';
import {
  clothSchema,
  colliderSchema,
  scenerySchema,
  type AirThing,
  type Cloth,
  type Shot,
  type Thing,
} from '../shot/schema';
import { SHAPES, type Assets, type Shape } from '../shot/shapes';
import { hasSizeKeys } from '../shot/shapes/sizeKeys';
import { carriersOf } from '../shot/placement';
import { layersOf } from './compile';
import { ENGINE_VERSION } from './engine';
import { meshHash, textHash } from './fingerprint';

// Everything that a run depends on, and nothing else: names, colours, prints and what is shown do not make a
// bake stale. The hash is kept with the bake, so that staleness is always computed.

/** A flat list of what the run depends on: a readable path and a value. */
export type RunInputs = Record<string, string | number | boolean>;

/** Entries that no run depends on, as they are declared, and those that are added in their own way below. */
const SEEN_ONLY = new Set([
  ...[clothSchema, colliderSchema, scenerySchema, ...Object.values(SHAPES).map(({ schema }) => schema)].flatMap(
    seenOnly,
  ),
  ...['role', 'id', 'enabled', 'pinSets', 'ties', 'leashes', 'masks', 'fabricMasks', 'cues', 'given'],
]);

function seenOnly({ shape }: { shape: object }): string[] {
  return Object.entries(shape as Record<string, z.core.$ZodType>).flatMap(([name, schema]) =>
    affectsRun(schema) ? [] : [name],
  );
}

/** What the run of a shot depends on. Keys are paths such as “abc123.fabric.weight”. */
export function runInputs(shot: Shot, assets: Assets): RunInputs {
  const inputs: RunInputs = {
    frameRate: shot.frameRate,
    firstFrame: shot.firstFrame,
    preRoll: shot.preRoll,
    engine: ENGINE_VERSION,
    'run.quality': shot.run.substeps === null ? shot.run.quality : 'by hand',
    // Also where substeps are set by hand, quality decides how cloth meets cloth.
    'run.layers': layersOf(shot),
    'run.substeps': shot.run.substeps ?? 0,
    'gravity.strength': 0,
  };
  if (shot.gravity.enabled) {
    flatten(shot.gravity, 'gravity', inputs);
    flatten(shot.keys, 'gravity.keys', inputs);
  }
  for (const { between, touches, ...numbers } of activeContacts(shot)) {
    const path = `contact.${[...between].sort().join('.')}`;
    flatten({ ...(!touches && { touches }), ...numbers }, path, inputs);
  }
  for (const thing of activeAir(shot)) addAir(shot, thing, inputs);
  for (const thing of shot.things) {
    if (!thing.enabled || (thing.role !== 'cloth' && thing.role !== 'collider')) continue;
    addThing(thing, assets, inputs);
    if (thing.role === 'cloth') {
      for (const holder of holdersOf(shot, thing)) addHolder(holder, assets, inputs);
    }
    // Of what carries it, only the place matters.
    const carried = thing.role === 'cloth' ? [thing, ...holdersOf(shot, thing)] : [thing];
    for (const { id, position, rotation, parent, keys } of carried.flatMap((one) => carriersOf(shot, one))) {
      const placeKeys = keys.filter(({ number }) => /^(position|rotation)\./.test(number));
      flatten({ position, rotation, parent, keys: placeKeys }, id, inputs);
    }
  }
  return inputs;
}

/** Air, and what carries it. Where the same air is everywhere, its place does not matter. */
function addAir(shot: Shot, thing: AirThing, inputs: RunInputs): void {
  const even = AIR_KINDS[thing.air.kind].even === true;
  const { id, air, rotation, position, parent, keys } = thing;
  const own = keys.filter(({ number }) => !even || !number.startsWith('position.'));
  flatten({ air, rotation, parent, keys: own, ...(!even && { position }) }, id, inputs);
  for (const carrier of carriersOf(shot, thing)) {
    const placeKeys = carrier.keys.filter(({ number }) => /^(position|rotation)\./.test(number));
    const placed = { position: carrier.position, rotation: carrier.rotation, parent: carrier.parent, keys: placeKeys };
    flatten(placed, carrier.id, inputs);
  }
}

function addThing(thing: Extract<Thing, { shape: unknown }>, assets: Assets, inputs: RunInputs): void {
  inputs[`${thing.id}.role`] = thing.role;
  // What is done after a run does not concern it.
  flatten({ ...thing, keys: thing.keys.filter(({ number }) => !isFinishNumber(number)) }, thing.id, inputs);
  // Cloth is the mesh that it is drawn as; so are colliders without an exact body.
  const meshed = thing.role === 'cloth' || hasSizeKeys(thing) || !SHAPES[thing.shape.kind].body;
  if (meshed) addFineness(thing.shape, thing.id, inputs);
  if (thing.role === 'cloth') {
    addHolds(thing, inputs);
    addFabricMasks(thing, inputs);
    addCues(thing, inputs);
    delete inputs[`${thing.id}.selfContact.mask`];
    addMask(thing, thing.selfContact.mask, `${thing.id}.selfContact.mask`, inputs);
  }
  if (thing.role === 'cloth' && thing.given) {
    const { asset, start } = thing.given;
    const mesh = asset === null ? undefined : assets.get(asset);
    inputs[`${thing.id}.given`] = mesh ? meshHash(mesh).slice(0, 12) : 'animation';
    if (mesh) inputs[`${thing.id}.given.start`] = start;
  }
  const named = [thing.shape.kind === 'mesh' ? thing.shape.asset : null, thing.role === 'cloth' ? thing.start : null];
  for (const asset of named) {
    const mesh = asset === null ? undefined : assets.get(asset);
    if (mesh) inputs[`${thing.id}.mesh.${asset}`] = meshHash(mesh).slice(0, 12);
  }
}

/** How finely a shape is meshed. */
function addFineness(shape: Shape, id: string, inputs: RunInputs): void {
  if ('segments' in shape) inputs[`${id}.shape.segments`] = shape.segments;
  if ('detail' in shape) inputs[`${id}.shape.detail`] = shape.detail;
}

/** Cues that are on, by their place in the list; masks by their values. */
function addCues(cloth: Cloth, inputs: RunInputs): void {
  cloth.cues
    .filter(({ enabled }) => enabled)
    .forEach(({ when, of, number, to, over, spread, onAll, lasts }, i) => {
      const path = `${cloth.id}.cues.${i}`;
      flatten({ when, of, number, to, over, spread, onAll, lasts }, path, inputs);
      if (!('mask' in when)) return;
      delete inputs[`${path}.when.mask`];
      addMask(cloth, when.mask, `${path}.when.mask`, inputs);
    });
}

/** The masks that scale numbers of a fabric, by their values. */
function addFabricMasks(cloth: Cloth, inputs: RunInputs): void {
  for (const [name, mask] of Object.entries(cloth.fabricMasks)) {
    addMask(cloth, mask, `${cloth.id}.fabric.${name}.mask`, inputs);
  }
}

type AnyHold = Hold & { standOffMask?: string | null; drawnIn?: number; along?: Tie['along'] };

/** A mask by what it is worth; nothing where it is missing. */
function addMask(cloth: Cloth, id: string | null, path: string, inputs: RunInputs): void {
  const mask = cloth.masks.find((candidate) => candidate.id === id);
  if (mask) inputs[path] = textHash(mask.ramp ? JSON.stringify(mask.ramp) : mask.values).slice(0, 12);
}

/** What holds a cloth: by its place in the list, for its id and name change nothing. */
function addHolds(cloth: Cloth, inputs: RunInputs): void {
  const kinds = { pins: cloth.pinSets, ties: cloth.ties, leashes: cloth.leashes };
  for (const [kind, holds] of Object.entries(kinds)) {
    holds.forEach(
      ({ points, mask, standOffMask = null, release, drawnIn = 0, along = 'surface', ...numbers }: AnyHold, i) => {
        const path = `${cloth.id}.${kind}.${i}`;
        inputs[`${path}.points`] = textHash([...points].sort((a, b) => a - b).join(' ')).slice(0, 12);
        addMask(cloth, mask, `${path}.mask`, inputs);
        addMask(cloth, standOffMask, `${path}.standOffMask`, inputs);
        addMask(cloth, release, `${path}.release`, inputs);
        // Takes of before there were such ties hold.
        if (drawnIn > 0) inputs[`${path}.drawnIn`] = drawnIn;
        if (along !== 'surface') inputs[`${path}.along`] = along;
        flatten(numbers, path, inputs);
      },
    );
  }
}

/** A thing that holds cloth without being in the run: where it is, its surface and its motion matter. */
function addHolder(thing: Thing, assets: Assets, inputs: RunInputs): void {
  const { id, position, rotation, parent, keys } = thing;
  const ownKeys = keys.filter(({ number }) => /^(position|rotation|shape)\./.test(number));
  flatten({ position, rotation, parent, keys: ownKeys }, id, inputs);
  if (!('shape' in thing)) return;
  flatten({ shape: thing.shape, ...('motion' in thing && { motion: thing.motion }) }, id, inputs);
  // Points are tied to the faces of its mesh.
  addFineness(thing.shape, id, inputs);
  const mesh = thing.shape.kind === 'mesh' ? assets.get(thing.shape.asset) : undefined;
  if (mesh) inputs[`${id}.mesh`] = meshHash(mesh).slice(0, 12);
}

function flatten(value: object, path: string, inputs: RunInputs): void {
  for (const [key, entry] of Object.entries(value)) {
    // Inside self-contact, “enabled” decides what is run.
    const decides = path.endsWith('.selfContact');
    if (SEEN_ONLY.has(key) && !decides) continue;
    if (typeof entry === 'object' && entry !== null) flatten(entry as object, `${path}.${key}`, inputs);
    else if (['string', 'number', 'boolean'].includes(typeof entry)) inputs[`${path}.${key}`] = entry as string;
  }
}

export function inputsHash(inputs: RunInputs): string {
  const lines = Object.keys(inputs)
    .sort()
    .map((key) => `${key}=${JSON.stringify(inputs[key])}`);
  return textHash(lines.join('\n'));
}

export interface InputChange {
  path: string;
  before: string | number | boolean | undefined;
  after: string | number | boolean | undefined;
}

/** What differs between the inputs of a bake and those of now, by path. */
export function changedInputs(before: RunInputs, after: RunInputs): InputChange[] {
  const paths = [...new Set([...Object.keys(before), ...Object.keys(after)])].sort();
  return paths
    .filter((path) => before[path] !== after[path])
    .map((path) => ({ path, before: before[path], after: after[path] }));
}
