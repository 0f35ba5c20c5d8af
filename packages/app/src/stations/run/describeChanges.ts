import {
  clothSchema,
  colliderSchema,
  fabricSchema,
  formatQuantity,
  gravitySchema,
  quantityOf,
  selfContactSchema,
  SHAPES,
  windSchema,
  type InputChange,
  type Quantity,
  type Shot,
} from '@lumbra/core';
import type { z } from 'zod';

const PLAIN: Record<string, string> = {
  frameRate: 'Frame rate',
  firstFrame: 'First frame',
  preRoll: 'Pre-roll',
  'run.quality': 'Quality',
  'run.substeps': 'Substeps',
};

function lookUp(schema: z.ZodObject, key: string): Quantity | undefined {
  const found = schema.shape[key] as z.core.$ZodType | undefined;
  return found && quantityOf(found);
}

/** Changes since the bake in words, each once: the keys of a thing are one change. */
export function describeChanges(changes: readonly InputChange[], shot: Shot): { what: string; values: string }[] {
  const found = new Map<string, { what: string; values: string }>();
  for (const change of changes) {
    const described = describeChange(change, shot);
    found.set(described.what, described);
  }
  return [...found.values()];
}

/** A change since the bake in words: “Cover, bend, warp” and “110 → 60 µN·m”. */
function describeChange({ path, before, after }: InputChange, shot: Shot): { what: string; values: string } {
  const plain = PLAIN[path];
  const [head, ...rest] = path.split('.');
  const thing = shot.things.find(({ id }) => id === head);
  const key = rest.at(-1) ?? '';
  let quantity: Quantity | undefined;
  if (head === 'gravity') quantity = lookUp(gravitySchema, key);
  else if (head === 'wind') quantity = lookUp(windSchema, key);
  else if (rest[0] === 'selfContact') quantity = lookUp(selfContactSchema, key);
  else if (rest[0] === 'fabric') quantity = lookUp(fabricSchema, key);
  else if (rest[0] === 'shape' && thing && 'shape' in thing) quantity = lookUp(SHAPES[thing.shape.kind].schema, key);
  else quantity = lookUp(colliderSchema, key) ?? lookUp(clothSchema, key);
  const owner =
    head === 'gravity'
      ? ''
      : head === 'wind'
        ? 'Wind'
        : head === 'air'
          ? 'Air'
          : (thing?.name ?? 'A thing that is no longer there');
  const part = quantity?.label ?? partName(rest);
  const what = plain ?? [owner, owner ? part.charAt(0).toLowerCase() + part.slice(1) : part].filter(Boolean).join(', ');
  const value = (raw: InputChange['before']) => {
    if (raw === undefined) return 'none';
    if (quantity && typeof raw === 'number') return formatQuantity(raw, quantity.unit);
    return typeof raw === 'number' ? formatQuantity(raw, '') : String(raw);
  };
  const opaque = OPAQUE.has(rest[0] ?? '') || key === 'pins';
  return { what, values: opaque ? 'changed' : `${value(before)} → ${value(after)} ${quantity?.unit ?? ''}`.trim() };
}

/** What has no values that could be set side by side. */
const OPAQUE = new Set(['keys', 'mesh', 'start', 'role', 'parent', 'motion']);

function partName(rest: string[]): string {
  if (rest[0] === 'position') return `Place ${'xyz'[Number(rest[1])] ?? ''}`;
  if (rest[0] === 'rotation') return `Turn ${'xyz'[Number(rest[1])] ?? ''}`;
  if (rest[0] === 'pins') return 'Pins';
  if (rest[0] === 'keys') return 'Keys';
  if (rest[0] === 'parent') return 'What it rides';
  if (rest[0] === 'motion') return 'Imported motion';
  if (rest[0] === 'standIn') return 'Simple shape';
  if (rest[0] === 'side') return 'Side that counts';
  if (rest[0] === 'selfContact') return 'Touches itself';
  if (rest[0] === 'mesh') return 'Mesh';
  if (rest[0] === 'start') return 'Start pose';
  if (rest[0] === 'role') return 'In the run';
  return rest.join(' ');
}
