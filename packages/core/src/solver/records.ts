/**
 * Records of one layout, one after another in the kernel's memory. Fields are bytes from the beginning of a record, as the layout names
 * them (`@lumbra/kernel/layouts`), which the kernel reads by the same names. Like all views, void once memory is allocated.
 */
export class Records {
  readonly #floats: Float32Array;
  readonly #integers: Uint32Array;
  readonly #words: number;

  /** So many records of so many bytes each, from an address of the kernel's memory on. */
  constructor(memory: ArrayBufferLike, address: number, bytes: number, count: number) {
    this.#words = bytes / 4;
    this.#floats = new Float32Array(memory, address, this.#words * count);
    this.#integers = new Uint32Array(memory, address, this.#words * count);
  }

  #at(record: number, field: number): number {
    return record * this.#words + field / 4;
  }

  float(record: number, field: number): number {
    return this.#floats[this.#at(record, field)]!;
  }

  setFloat(record: number, field: number, value: number): void {
    this.#floats[this.#at(record, field)] = value;
  }

  /** Sets numbers that follow each other, from a field on. */
  setFloats(record: number, field: number, values: ArrayLike<number>): void {
    this.#floats.set(values, this.#at(record, field));
  }

  /** A whole number or address. */
  integer(record: number, field: number): number {
    return this.#integers[this.#at(record, field)]!;
  }

  /** Also of a signed one, down to -2^31. */
  setInteger(record: number, field: number, value: number): void {
    this.#integers[this.#at(record, field)] = value;
  }

  /** Sets whole numbers and addresses by the names that a layout has for them. */
  setWords<L extends Record<string, number>>(layout: L, words: { [field in keyof L]?: number }, record = 0): void {
    for (const field in words) this.setInteger(record, layout[field]!, words[field]!);
  }
}
