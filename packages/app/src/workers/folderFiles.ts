import type { FileSink, FileStream } from '@lumbra/core';

/**
 * Writes files into a folder that the artist has chosen. The browser keeps what is written beside the file until it is whole; where writing fails, what was begun
 * is taken away again, and files that were there before stay as they were.
 */
export class FolderFiles implements FileSink {
  readonly #folder: FileSystemDirectoryHandle;
  readonly #open = new Map<FileSystemWritableFileStream, () => Promise<void>>();
  files = 0;

  constructor(folder: FileSystemDirectoryHandle) {
    this.#folder = folder;
  }

  async open(path: string): Promise<FileStream> {
    const names = path.split('/');
    const name = names.pop()!;
    let folder = this.#folder;
    for (const step of names) folder = await folder.getDirectoryHandle(step, { create: true });
    const isNew = await folder.getFileHandle(name).then(
      () => false,
      () => true,
    );
    const file = await folder.getFileHandle(name, { create: true });
    const stream = await file.createWritable();
    this.#open.set(stream, () => (isNew ? folder.removeEntry(name) : Promise.resolve()));
    return {
      write: (bytes) => stream.write(bytes as Uint8Array<ArrayBuffer>),
      close: async (head) => {
        if (head) await stream.write({ type: 'write', position: 0, data: head as Uint8Array<ArrayBuffer> });
        await stream.close();
        this.#open.delete(stream);
        this.files++;
      },
    };
  }

  /** Takes away what was begun and is not whole. */
  async abandon(): Promise<void> {
    for (const [stream, remove] of this.#open) {
      await stream.abort().catch(() => undefined);
      await remove().catch(() => undefined);
    }
    this.#open.clear();
  }
}
