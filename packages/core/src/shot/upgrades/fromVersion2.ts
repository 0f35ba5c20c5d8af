import type { RawDocument } from './upgrade';

// Version 2 had one wind, of the whole shot, the same everywhere: { enabled, speed, heading, rise, gustDepth, gustPeriod } with its keys among
// those of the shot. Now air is made of things; that wind is one of them, turned to where it blew.

type Raw = Record<string, unknown>;
const isRecord = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value);

/** What the wind of version 2 was where it was not said. */
const SPEED = 5;
const HEADING = Math.PI / 2;

/** Where the arrows of the wind stand, in m: beside the middle of the stage, above most of what is on it. */
const PLACE = [-1.2, 1.6, 0];

/** Makes a document of version 3 of one of version 2. A wind that was never touched is left out. What is not as it should be is left for the schema to refuse. */
export function fromVersion2({ wind, ...document }: RawDocument): RawDocument {
  const keys = Array.isArray(document['keys']) ? (document['keys'] as unknown[]) : null;
  const things = Array.isArray(document['things']) ? (document['things'] as unknown[]) : [];
  const own = (keys ?? []).filter(isWindKey);
  if (wind !== undefined && !isRecord(wind)) return { ...document, wind };
  const touched =
    (isRecord(wind) && Object.keys(wind).some((entry) => entry !== 'enabled')) || wind?.['enabled'] === true;
  if (!touched && own.length === 0) return document;
  const { enabled = false, speed = SPEED, heading = HEADING, rise = 0, ...gusts } = wind ?? {};
  const thing = {
    id: freeId(things),
    name: 'Wind',
    role: 'air',
    enabled,
    position: PLACE,
    rotation: [negated(rise), heading, 0],
    keys: own.map(keyOfThing),
    air: { kind: 'wind', speed, ...gusts },
  };
  return {
    ...document,
    ...(keys && { keys: keys.filter((track) => !isWindKey(track)) }),
    things: [...things, thing],
  };
}

function isWindKey(track: unknown): track is Raw {
  return isRecord(track) && typeof track['number'] === 'string' && track['number'].startsWith('wind.');
}

function keyOfThing(track: Raw): Raw {
  const number = (track['number'] as string).slice('wind.'.length);
  if (number === 'heading') return { ...track, number: 'rotation.y' };
  if (number !== 'rise') return { ...track, number: `air.${number}` };
  const knots = Array.isArray(track['knots']) ? (track['knots'] as unknown[]) : [];
  return {
    ...track,
    number: 'rotation.x',
    knots: knots.map((knot) => (isRecord(knot) ? { ...knot, value: negated(knot['value']) } : knot)),
  };
}

function negated(value: unknown): unknown {
  return typeof value === 'number' && value !== 0 ? -value : value;
}

function freeId(things: readonly unknown[]): string {
  const taken = new Set(things.map((thing) => (isRecord(thing) ? thing['id'] : undefined)));
  for (let n = 1; ; n++) {
    const id = n === 1 ? 'wind' : `wind-${n}`;
    if (!taken.has(id)) return id;
  }
}
