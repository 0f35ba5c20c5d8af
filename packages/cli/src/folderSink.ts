import { mkdir, open, rename, rm, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import type { FileSink } from '@lumbra/core';

/**
 * Writes files into a folder. Each has another name until it is whole, so that nothing is taken for a cache that is none; where writing fails, what was begun is
 * taken away again. @returns how many files were written
 */
export async function writeInto(folder: string, write: (sink: FileSink) => Promise<void>): Promise<number> {
  const begun = new Map<string, FileHandle>();
  let written = 0;
  const sink: FileSink = {
    open: async (name) => {
      const target = path.join(folder, name);
      const part = `${target}.part`;
      await mkdir(path.dirname(target), { recursive: true });
      const handle = await open(part, 'w');
      begun.set(part, handle);
      return {
        write: async (bytes) => {
          for (let at = 0; at < bytes.length;) at += (await handle.write(bytes, at)).bytesWritten;
        },
        close: async (head) => {
          if (head) await handle.write(head, 0, head.length, 0);
          await handle.close();
          begun.delete(part);
          await rename(part, target);
          written++;
        },
      };
    },
  };
  try {
    await write(sink);
  } finally {
    for (const [part, handle] of begun) {
      await handle.close().catch(() => undefined);
      await rm(part, { force: true });
    }
  }
  return written;
}
