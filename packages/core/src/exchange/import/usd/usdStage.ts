import { decodeText } from '../../decodeText';
import { ReadError } from '../../readError';

/** Values of an attribute over time; without times it has one, which always holds. */
export interface UsdSeries {
  times: readonly number[];
  values: readonly unknown[];
}

/** The prims of a file and what is said of them: three’s readers give fields by path, of which this asks. */
export class UsdStage {
  readonly #specs: Record<string, { fields: Record<string, unknown> }>;

  private constructor(specs: Record<string, { fields: Record<string, unknown> }>) {
    this.#specs = specs;
  }

  /** Reads a file, text or binary. @throws ReadError where it is neither, Error where it is damaged */
  static async read(bytes: Uint8Array): Promise<UsdStage> {
    const start = String.fromCharCode(...bytes.subarray(0, 8));
    if (start === 'PXR-USDC') {
      const { USDCParser } = await import('three/addons/loaders/usd/USDCParser.js');
      // The reader wants a buffer of its own.
      return new UsdStage(new USDCParser().parseData(bytes.slice().buffer).specsByPath);
    }
    if (start.startsWith('#usda')) {
      const { USDAParser } = await import('three/addons/loaders/usd/USDAParser.js');
      return new UsdStage(new USDAParser().parseData(decodeText(bytes)).specsByPath);
    }
    throw new ReadError('The file is no USD: it begins neither with #usda nor as a binary layer.');
  }

  /** A field of a prim, of the whole layer with “/”, or of an attribute with “/prim.attribute”. */
  field(path: string, name: string): unknown {
    return this.#specs[path]?.fields[name];
  }

  /** The prims of a type, by path, in the order of the file. */
  prims(type: string): string[] {
    return Object.keys(this.#specs).filter((path) => !path.includes('.') && this.field(path, 'typeName') === type);
  }

  /** How many prims have a field, such as references to other files. */
  countWith(name: string): number {
    return Object.values(this.#specs).filter(({ fields }) => fields[name] !== undefined).length;
  }

  /** What an attribute is over time; nothing where it is not said. */
  series(path: string, attribute: string): UsdSeries | undefined {
    const samples = this.field(`${path}.${attribute}`, 'timeSamples') as UsdSeries | undefined;
    if (samples && samples.times.length > 0) return samples;
    const value = this.field(`${path}.${attribute}`, 'default');
    return value === undefined || value === null ? undefined : { times: [], values: [value] };
  }

  /** The value of an attribute that does not change. */
  value(path: string, attribute: string): unknown {
    return this.field(`${path}.${attribute}`, 'default');
  }

  /** A list of words: a field of the prim in text, an attribute in binary. */
  words(path: string, attribute: string): readonly string[] {
    const found = this.value(path, attribute) ?? this.field(path, attribute);
    return Array.isArray(found) ? found.map(String) : [];
  }
}

/** The path that a prim is under; empty at the top. */
export const parentOf = (path: string): string => path.slice(0, path.lastIndexOf('/'));
