// A layer of Universal Scene Description as data, whichever way it is written: prims under one root, with attributes that are constant or
// have a sample a frame.

/** Kinds of value that are written. */
export type UsdType =
  | 'token'
  | 'token[]'
  | 'string'
  | 'asset'
  | 'float'
  | 'float2'
  | 'float3[]'
  | 'color3f'
  | 'color3f[]'
  | 'int[]'
  | 'normal3f[]'
  | 'point3f[]'
  | 'texCoord2f[]'
  | 'vector3f[]';

/** Text for tokens, strings and assets; numbers in a row for all else, x y z and x y z and so on. */
export type UsdValue = string | readonly string[] | number | ArrayLike<number>;

export interface UsdAttribute {
  name: string;
  type: UsdType;
  /** It can have no samples. */
  uniform?: true;
  value?: UsdValue;
  /** It has a sample a frame; the value is missing. */
  sampled?: true;
  /** What its values belong to, where it is spread over a mesh. */
  interpolation?: 'constant' | 'vertex';
  /** The path of the output that it takes its value from. */
  from?: string;
}

export interface UsdPrim {
  name: string;
  type: string;
  /** The name as a person wrote it. */
  label?: string;
  /** Schemas that are added to its type. */
  schemas?: readonly string[];
  attributes: readonly UsdAttribute[];
  /** What it points to: a path each. */
  relations?: readonly { name: string; to: string }[];
  children?: readonly UsdPrim[];
}

export interface UsdLayer {
  root: UsdPrim;
  frameRate: number;
  metresPerUnit: number;
  up: 'Y' | 'Z';
}

/** A sample of each sampled attribute at a frame, by the path of the attribute. */
export interface UsdSample {
  frame: number;
  values: ReadonlyMap<string, Float32Array>;
}

/** Of what type and how long a value of a type is in numbers; text has none. */
export const NUMBERS_EACH: Partial<Record<UsdType, number>> = {
  float: 1,
  float2: 2,
  'float3[]': 3,
  color3f: 3,
  'color3f[]': 3,
  'int[]': 1,
  'normal3f[]': 3,
  'point3f[]': 3,
  'texCoord2f[]': 2,
  'vector3f[]': 3,
};

/** A name that USD takes for a prim: letters, digits and _, no digit first. */
export function primName(name: string): string {
  const tidy = name.replace(/[^A-Za-z0-9_]+/g, '_');
  return /^[A-Za-z_]/.test(tidy) ? tidy : `_${tidy}`;
}

/** First and last of the frames that were written, as a layer says them. */
export function frameRange(frames: readonly number[]): { start: number; end: number } {
  const start = frames.reduce((least, frame) => Math.min(least, frame), Infinity);
  const end = frames.reduce((most, frame) => Math.max(most, frame), -Infinity);
  return frames.length > 0 ? { start, end } : { start: 1, end: 1 };
}
