import { NUMBERS_EACH, type UsdType, type UsdValue } from '../layer';
import { Bytes } from './bytes';
import type { CrateTokens } from './tokens';

// A value in a crate is 64 bits: its type, how it is kept, and in the lower 48 either the value itself or where in the file it is.

/** Numbers of the types that are written, as crates know them. */
export const KIND = {
  bool: 1,
  int: 3,
  float: 8,
  double: 9,
  string: 10,
  token: 11,
  asset: 12,
  float2: 20,
  float3: 24,
  tokenListOp: 32,
  pathListOp: 34,
  tokenVector: 41,
  specifier: 42,
  variability: 44,
  timeSamples: 46,
  doubleVector: 48,
} as const;

const KIND_OF: Record<UsdType, number> = {
  token: KIND.token,
  'token[]': KIND.token,
  string: KIND.string,
  asset: KIND.asset,
  float: KIND.float,
  float2: KIND.float2,
  'float3[]': KIND.float3,
  color3f: KIND.float3,
  'color3f[]': KIND.float3,
  'int[]': KIND.int,
  'normal3f[]': KIND.float3,
  'point3f[]': KIND.float3,
  'texCoord2f[]': KIND.float2,
  'vector3f[]': KIND.float3,
};

const ARRAY = 1n << 63n;
const INLINE = 1n << 62n;
const kind = (type: number) => BigInt(type) << 48n;

export const inlined = (type: number, payload: number): bigint => INLINE | kind(type) | BigInt(payload >>> 0);
export const placed = (type: number, at: number): bigint => kind(type) | BigInt(at);

/** A double that single precision has exactly is kept in the value itself; any other has a place. */
export async function doubleValue(value: number, place: Place): Promise<bigint> {
  if (Math.fround(value) === value) return inlined(KIND.double, floatBits(value));
  return placed(KIND.double, await place(new Bytes().f64(value).taken()));
}

/** Puts bytes into the file. @returns where they are */
export type Place = (bytes: Uint8Array) => Promise<number>;

/** A value of an attribute. */
export async function attributeValue(
  type: UsdType,
  value: UsdValue,
  tokens: CrateTokens,
  place: Place,
): Promise<bigint> {
  const own = KIND_OF[type];
  if (typeof value === 'string') {
    return inlined(own, own === KIND.string ? tokens.string(value) : tokens.token(value));
  }
  if (typeof value === 'number') return inlined(own, floatBits(value));
  if (type === 'token[]') {
    const bytes = new Bytes().u64(value.length);
    for (const one of value as readonly string[]) bytes.u32(tokens.token(one));
    return ARRAY | placed(own, await place(bytes.taken()));
  }
  const numbers = value as ArrayLike<number>;
  const raw = rawNumbers(own, numbers);
  if (!type.endsWith('[]')) return placed(own, await place(raw));
  // Nowhere means none at all.
  if (numbers.length === 0) return ARRAY | placed(own, 0);
  const count = new Bytes().u64(numbers.length / NUMBERS_EACH[type]!).taken();
  const at = await place(count);
  await place(raw);
  return ARRAY | placed(own, at);
}

function rawNumbers(own: number, numbers: ArrayLike<number>): Uint8Array {
  const array =
    own === KIND.int
      ? Int32Array.from(numbers)
      : numbers instanceof Float32Array
        ? numbers
        : Float32Array.from(numbers);
  return new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
}

const bits = new DataView(new ArrayBuffer(4));
function floatBits(value: number): number {
  bits.setFloat32(0, value);
  return bits.getUint32(0);
}
