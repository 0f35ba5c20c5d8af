import { Bytes } from './bytes';
import { literals } from './literals';

/** The words of a crate, each kept once: everything else names them by their number. */
export class CrateTokens {
  readonly #tokens = new Map<string, number>();
  readonly #strings = new Map<string, number>();

  constructor() {
    // A property is named by its token with a minus, so no property may have token 0.
    this.token('/');
  }

  token(text: string): number {
    return numberOf(this.#tokens, text);
  }

  /** Strings are a table of their own, which names tokens. */
  string(text: string): number {
    this.token(text);
    return numberOf(this.#strings, text);
  }

  tokenSection(): Uint8Array {
    const text = new TextEncoder().encode([...this.#tokens.keys()].map((token) => `${token}\0`).join(''));
    const packed = literals(text);
    return new Bytes().u64(this.#tokens.size).u64(text.length).u64(packed.length).bytes(packed).taken();
  }

  stringSection(): Uint8Array {
    const bytes = new Bytes().u64(this.#strings.size);
    for (const text of this.#strings.keys()) bytes.u32(this.token(text));
    return bytes.taken();
  }
}

function numberOf(known: Map<string, number>, text: string): number {
  const found = known.get(text);
  if (found !== undefined) return found;
  known.set(text, known.size);
  return known.size - 1;
}
