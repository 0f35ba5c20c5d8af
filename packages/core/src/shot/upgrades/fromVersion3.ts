import type { RawDocument } from './upgrade';

// Pieces of version 3 were meshed otherwise, and what is held, masked and baked of them is known by the points that this made. They keep that mesher until
// they are cut otherwise, when all of it is carried over by its place.

type Raw = Record<string, unknown>;
const isRecord = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Makes a document of version 4 of one of version 3. What is not as it should be is left for the schema to refuse. */
export function fromVersion3(document: RawDocument): RawDocument {
  const { things } = document;
  if (!Array.isArray(things)) return document;
  return {
    ...document,
    things: things.map((thing: unknown) => {
      if (!isRecord(thing) || !isRecord(thing['shape']) || thing['shape']['kind'] !== 'pattern') return thing;
      return { ...thing, shape: { ...thing['shape'], mesher: 'first' } };
    }),
  };
}
