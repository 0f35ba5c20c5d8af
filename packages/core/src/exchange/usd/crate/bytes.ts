/** Bytes that grow as numbers are put into them, little-endian. */
export class Bytes {
  #bytes = new Uint8Array(256);
  #view = new DataView(this.#bytes.buffer);
  #length = 0;

  get length(): number {
    return this.#length;
  }

  u8(value: number): this {
    const at = this.#room(1);
    this.#view.setUint8(at, value);
    return this;
  }

  u32(value: number): this {
    const at = this.#room(4);
    this.#view.setUint32(at, value, true);
    return this;
  }

  u64(value: number | bigint): this {
    const at = this.#room(8);
    this.#view.setBigUint64(at, BigInt(value), true);
    return this;
  }

  f64(value: number): this {
    const at = this.#room(8);
    this.#view.setFloat64(at, value, true);
    return this;
  }

  bytes(values: Uint8Array): this {
    const at = this.#room(values.length);
    this.#bytes.set(values, at);
    return this;
  }

  /** Those that are there, which no longer change. */
  taken(): Uint8Array {
    return this.#bytes.slice(0, this.#length);
  }

  /** Makes room for some more, which may put all of them elsewhere. @returns where they go */
  #room(count: number): number {
    const at = this.#length;
    this.#length += count;
    if (this.#length > this.#bytes.length) {
      const grown = new Uint8Array(Math.max(this.#length, this.#bytes.length * 2));
      grown.set(this.#bytes);
      this.#bytes = grown;
      this.#view = new DataView(grown.buffer);
    }
    return at;
  }
}
