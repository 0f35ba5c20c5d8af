/** A file that is being written. */
export interface FileStream {
  /** Adds bytes at its end; they are not changed afterwards by whoever gave them. */
  write: (bytes: Uint8Array) => Promise<void> | void;
  /** Ends it. `head` replaces as many of its first bytes: some formats say there what is known only at the end. */
  close: (head?: Uint8Array) => Promise<void> | void;
}

/** Takes files as they are written: on a disk, in a folder of the artist’s, or for a download. */
export interface FileSink {
  /** Begins a file. Its path is relative, with “/”. */
  open: (path: string) => Promise<FileStream> | FileStream;
}

/** Writes a file whose bytes are all there. */
export async function writeWhole(sink: FileSink, path: string, bytes: Uint8Array): Promise<void> {
  const stream = await sink.open(path);
  await stream.write(bytes);
  await stream.close();
}

/** Takes files into memory, by path. One that was not ended is none. */
export class MemoryFiles implements FileSink {
  readonly #files = new Map<string, Uint8Array>();

  open(path: string): FileStream {
    const parts: Uint8Array[] = [];
    return {
      write: (bytes) => void parts.push(bytes),
      close: (head) => {
        const whole = joinBytes(parts);
        if (head) whole.set(head);
        this.#files.set(path, whole);
      },
    };
  }

  get paths(): string[] {
    return [...this.#files.keys()];
  }

  /** @throws RangeError where there is no such file */
  bytes(path: string): Uint8Array {
    const whole = this.#files.get(path);
    if (!whole) throw new RangeError(`${path} was not written.`);
    return whole;
  }
}

/** Gathers what is written in small pieces, so that a file is not asked for each of them. */
export function gathered(stream: FileStream, size = 2 ** 20): FileStream {
  let waiting: Uint8Array[] = [];
  let count = 0;
  const flush = async () => {
    if (count > 0) await stream.write(joinBytes(waiting));
    [waiting, count] = [[], 0];
  };
  return {
    write: async (bytes) => {
      waiting.push(bytes);
      count += bytes.length;
      if (count >= size) await flush();
    },
    close: async (head) => {
      await flush();
      await stream.close(head);
    },
  };
}

function joinBytes(parts: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}
