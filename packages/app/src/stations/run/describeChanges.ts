import {
  AIR_KINDS,
  carrySchema,
  clothSchema,
  colliderSchema,
  fabricSchema,
  formatQuantity,
  gravitySchema,
  leashSchema,
  pairNumbers,
  pinSetSchema,
  quantityOf,
  selfContactSchema,
  SHAPES,
  tieSchema,
  type Cloth,
  type InputChange,
  type Quantity,
  type Shot,
  type Thing,
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
  if (head === 'contact') return describeContact(rest, shot, before, after);
  if (thing?.role === 'cloth' && HOLDS[rest[0]!]) return describeHold(rest, thing, before, after);
  if (thing?.role === 'cloth' && rest[0] === 'cues') {
    const cue = thing.cues.filter(({ enabled }) => enabled)[Number(rest[1])];
    return { what: `${thing.name}, ${cue?.name ?? 'a cue that is gone'}`, values: 'changed' };
  }
  if (rest[0] === 'shape' && (rest[1] === 'pieces' || rest[1] === 'seams' || rest[1] === 'weave')) {
    return { what: `${thing?.name ?? 'Cloth'}, ${patternPart(rest.slice(1), thing)}`, values: 'changed' };
  }
  if (rest[0] === 'given') return { what: `${thing?.name ?? 'Cloth'}, what it follows`, values: 'changed' };
  if (rest[0] === 'fabric' && rest[2] === 'mask') {
    const number = lookUp(fabricSchema, rest[1]!)?.label.toLowerCase() ?? rest[1]!;
    return { what: `${thing?.name ?? 'Cloth'}, mask of ${number}`, values: 'changed' };
  }
  const key = rest.at(-1) ?? '';
  let quantity: Quantity | undefined;
  if (head === 'gravity') quantity = lookUp(gravitySchema, key);
  else if (rest[0] === 'air' && thing?.role === 'air') quantity = lookUp(AIR_KINDS[thing.air.kind].schema, key);
  else if (rest[0] === 'selfContact') quantity = lookUp(selfContactSchema, key);
  else if (rest[0] === 'carry') quantity = lookUp(carrySchema, key);
  else if (rest[0] === 'fabric') quantity = lookUp(fabricSchema, key);
  else if (rest[0] === 'shape' && thing && 'shape' in thing) quantity = lookUp(SHAPES[thing.shape.kind].schema, key);
  else quantity = lookUp(colliderSchema, key) ?? lookUp(clothSchema, key);
  const owner = head === 'gravity' ? '' : (thing?.name ?? 'A thing that is no longer there');
  const part = quantity?.label ?? (head === 'gravity' && rest[0] === 'keys' ? 'Keys of gravity' : partName(rest));
  const what = plain ?? [owner, owner ? part.charAt(0).toLowerCase() + part.slice(1) : part].filter(Boolean).join(', ');
  const value = (raw: InputChange['before']) => {
    if (raw === undefined) return 'none';
    if (quantity && typeof raw === 'number') return formatQuantity(raw, quantity.unit);
    return typeof raw === 'number' ? formatQuantity(raw, '') : String(raw);
  };
  const opaque = OPAQUE.has(rest[0] ?? '');
  return { what, values: opaque ? 'changed' : `${value(before)} → ${value(after)} ${quantity?.unit ?? ''}`.trim() };
}

/** What holds cloth, by its name among the inputs of a run. */
const HOLDS: Record<string, { list: 'pinSets' | 'ties' | 'leashes'; schema: z.ZodObject }> = {
  pins: { list: 'pinSets', schema: pinSetSchema },
  ties: { list: 'ties', schema: tieSchema },
  leashes: { list: 'leashes', schema: leashSchema },
};
const HOLD_PARTS: Record<string, string> = {
  points: 'points',
  mask: 'mask',
  release: 'release mask',
  standOffMask: 'mask of the stand-off',
  rides: 'what it follows',
  to: 'what it is tied to',
  along: 'where it is tied to it',
  keepsDistance: 'whether it keeps its distance',
  neverBehind: 'side',
  move: 'move',
  turn: 'turn',
  gather: 'gather',
};

/** A change of a pin set, tie or leash: “Hood, Top, strength” and “100 → 50 %”. */
function describeHold(
  [kind, index, part, axis]: string[],
  cloth: Cloth,
  before: InputChange['before'],
  after: InputChange['after'],
): { what: string; values: string } {
  const { list, schema } = HOLDS[kind!]!;
  const hold = cloth[list][Number(index)];
  const quantity = lookUp(schema, part!);
  const label = quantity?.label.toLowerCase() ?? HOLD_PARTS[part!] ?? part!;
  const what = [cloth.name, hold?.name ?? 'a hold that is gone', hold ? label : ''].filter(Boolean).join(', ');
  const values = [before, after];
  if (!hold || !values.every((value) => typeof value === 'number')) return { what, values: 'changed' };
  const unit = quantity?.unit ?? (part === 'turn' ? '°' : part === 'move' ? 'm' : '%');
  const shown = values.map((value) => formatQuantity(value, unit)).join(' → ');
  return { what: axis === undefined ? what : `${what} ${'xyz'[Number(axis)]}`, values: `${shown} ${unit}` };
}

/** A change of the contact table: “Hood and Rail, friction” and “as they have → 0.8”. */
function describeContact(
  [first, second, part]: string[],
  shot: Shot,
  before: InputChange['before'],
  after: InputChange['after'],
): { what: string; values: string } {
  // As the table has them: the cloth first. Their ids say nothing.
  const pair = shot.things.filter(({ id }) => id === first || id === second);
  const named = [...pair.filter(({ role }) => role === 'cloth'), ...pair.filter(({ role }) => role !== 'cloth')];
  const names = [0, 1].map((at) => named[at]?.name ?? 'a thing that is gone');
  const quantity = part === 'clearance' || part === 'friction' ? quantityOf(pairNumbers[part]) : undefined;
  const says = (value: InputChange['before']) => {
    if (part === 'touches') return (value ?? true) === true ? 'touch' : 'pass';
    if (value === undefined) return 'as they have';
    return quantity && typeof value === 'number'
      ? `${formatQuantity(value, quantity.unit)} ${quantity.unit}`.trim()
      : String(value);
  };
  const label = { touches: 'touch', side: 'side that counts' }[part!] ?? quantity?.label.toLowerCase() ?? part;
  return { what: `${names.join(' and ')}, ${label}`, values: `${says(before)} → ${says(after)}` };
}

const PIECE_PARTS: Record<string, string> = {
  ...{
    outline: 'outline',
    holes: 'holes',
    position: 'place',
    rotation: 'turn',
    lies: 'how it lies',
    rails: 'how it lies',
  },
  ...{ radius: 'radius', grain: 'grain' },
};

/** A part of a pattern: “Front, outline”, “seam 2”, “kind of mesh”. */
function patternPart([list, index, part]: string[], thing: Thing | undefined): string {
  if (list === 'weave') return 'kind of mesh';
  if (list === 'seams') return `seam ${Number(index) + 1}`;
  const pieces = thing?.role === 'cloth' && thing.shape.kind === 'pattern' ? thing.shape.pieces : [];
  return `${pieces[Number(index)]?.name ?? 'a piece that is gone'}, ${PIECE_PARTS[part ?? ''] ?? 'outline'}`;
}

/** What has no values that could be set side by side. */
const OPAQUE = new Set(['keys', 'mesh', 'start', 'role', 'parent', 'motion']);

function partName(rest: string[]): string {
  if (rest[0] === 'position') return `Place ${'xyz'[Number(rest[1])] ?? ''}`;
  if (rest[0] === 'rotation') return `Turn ${'xyz'[Number(rest[1])] ?? ''}`;
  if (rest[0] === 'keys') return 'Keys';
  if (rest[0] === 'parent') return 'What it rides';
  if (rest[0] === 'motion') return 'Imported motion';
  if (rest[0] === 'contactShape') return 'Simple shape';
  if (rest[0] === 'side') return 'Side that counts';
  if (rest[0] === 'selfContact') return 'Touches itself';
  if (rest[0] === 'mesh') return 'Mesh';
  if (rest[0] === 'start') return 'Start pose';
  if (rest[0] === 'role') return 'In the run';
  return rest.join(' ');
}
