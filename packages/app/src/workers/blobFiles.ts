import type { FileSink, FileStream } from '@lumbra/core';
import { Zip, ZipDeflate } from 'fflate';

/** What is given to the browser at once: it may keep it on the disk. */
const PART = 16 * 2 ** 20;

/** Takes files for a download. What is written is handed to the browser in parts, so that a large cache is not held here. */
export class BlobFiles implements FileSink {
  readonly #files = new Map<string, Blob>();

  open(path: string): FileStream {
    const store = new BlobParts();
    return {
      write: (bytes) => store.add(bytes),
      close: (head) => void this.#files.set(path, store.whole(head)),
    };
  }

  /** The only file, or all of them in a zip. */
  async asOne(type: string): Promise<{ type: string; data: Blob }> {
    const [only, ...others] = this.#files.values();
    if (only && others.length === 0) return { type, data: only };
    const out = new BlobParts();
    const zip = new Zip((error, bytes) => {
      if (error) throw error;
      out.add(bytes);
    });
    for (const [path, blob] of this.#files) {
      const entry = new ZipDeflate(path, { level: 4 });
      zip.add(entry);
      for (let at = 0; at < blob.size || at === 0; at += PART) {
        const bytes = new Uint8Array(await blob.slice(at, at + PART).arrayBuffer());
        entry.push(bytes, at + PART >= blob.size);
      }
    }
    zip.end();
    return { type: 'application/zip', data: out.whole() };
  }
}

class BlobParts {
  readonly #done: Blob[] = [];
  #waiting: Uint8Array<ArrayBuffer>[] = [];
  #count = 0;

  add(bytes: Uint8Array): void {
    this.#waiting.push(bytes as Uint8Array<ArrayBuffer>);
    this.#count += bytes.length;
    if (this.#count >= PART) this.#flush();
  }

  whole(head?: Uint8Array): Blob {
    this.#flush();
    const all = new Blob(this.#done);
    return head ? new Blob([head as Uint8Array<ArrayBuffer>, all.slice(head.length)]) : all;
  }

  #flush(): void {
    if (this.#count > 0) this.#done.push(new Blob(this.#waiting));
    [this.#waiting, this.#count] = [[], 0];
  }
}
