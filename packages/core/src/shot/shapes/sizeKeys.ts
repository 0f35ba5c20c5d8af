import { quantitiesOf, type Quantity } from '../../quantity/quantity';
import { trackOf, trackValue, type KeyOwner } from '../keys';
import type { Mesh } from '../../mesh/mesh';
import { shapeMesh, SHAPES, type Assets, type Shape } from './index';

// The numbers of a shape that can be keyed: a ring that tightens, a rail that shortens. They change the places of its points and
// never how many there are, so that what is tied to a face stays on it.

/** Under which name a number of a shape is keyed. */
export const sizeNumber = (name: string): string => `shape.${name}`;

/** The numbers of a shape that can be keyed, under the names that they are keyed by; none of one that is meshed by a spacing. */
export function sizeNumbers(shape: Shape): Readonly<Record<string, Quantity>> {
  if ('spacing' in shape) return {};
  const lengths = Object.entries(quantitiesOf(SHAPES[shape.kind].schema)).filter(([, { whole }]) => !whole);
  return Object.fromEntries(lengths.map(([name, one]) => [sizeNumber(name), one]));
}

/** Whether numbers of a thing's shape are keyed. */
export function hasSizeKeys({ keys }: KeyOwner): boolean {
  return keys.some(({ number }) => number.startsWith('shape.'));
}

/** The shape of a thing at a frame; the very one of the document where none of its numbers is keyed. */
export function shapeAt(thing: KeyOwner & { shape: Shape }, frame: number): Shape {
  if (!hasSizeKeys(thing)) return thing.shape;
  const shape: Record<string, unknown> = { ...thing.shape };
  for (const name of Object.keys(shape)) {
    const track = trackOf(thing, sizeNumber(name));
    if (track) shape[name] = trackValue(track, frame);
  }
  return shape as unknown as Shape;
}

/**
 * The mesh of a thing at a frame, around its own origin. Where numbers of its shape are keyed it always has the same faces.
 * @throws MissingAssetError
 */
export function meshAt(thing: KeyOwner & { shape: Shape }, assets: Assets, frame: number): Mesh {
  if (!hasSizeKeys(thing)) return shapeMesh(thing.shape, assets);
  const shape = shapeAt(thing, frame);
  const counted: Record<string, unknown> = { ...shape };
  for (const { number, knots } of thing.keys) {
    const name = number.slice('shape.'.length);
    if (number === sizeNumber(name)) counted[name] = Math.max(...knots.map(({ value }) => value));
  }
  return SHAPES[shape.kind].mesh(shape, assets, counted as unknown as Shape);
}

/** Where and why keys make a shape that cannot be, such as a wall as thick as its tube; null where they do not. */
export function wrongSize(thing: KeyOwner & { shape: Shape }): { frame: number; reason: string } | null {
  const tracks = thing.keys.filter(({ number }) => number.startsWith('shape.'));
  for (const { frame } of tracks.flatMap(({ knots }) => knots)) {
    const read = SHAPES[thing.shape.kind].schema.safeParse(shapeAt(thing, frame));
    if (!read.success) return { frame, reason: read.error.issues[0]!.message };
  }
  return null;
}
