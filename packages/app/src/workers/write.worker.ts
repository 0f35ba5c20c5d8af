import {
  sequenceFile,
  writeGlb,
  writeObj,
  writeProductionFile,
  writeShotFile,
  type GlbObject,
  type Mesh,
  type SequenceCloth,
  type Shot,
} from '@lumbra/core';
import * as Comlink from 'comlink';
import { zip, type AsyncZippable } from 'fflate';

// Writes files off the page's thread: a bake as text or GLB is tens of megabytes.

const writer = {
  async glb(objects: GlbObject[], frameRate: number): Promise<Uint8Array> {
    const bytes = await writeGlb(objects, { frameRate });
    return moved(bytes);
  },

  obj(objects: { name: string; mesh: GlbObject['mesh'] }[]): string {
    return writeObj(objects);
  },

  /** A zip with CLOTH-ID/0001.obj and so on, the same tree that the command line writes. */
  async objSequence(
    cloths: SequenceCloth[],
    frames: { frame: number; positions: Float32Array[] }[],
  ): Promise<Uint8Array> {
    const files: AsyncZippable = {};
    for (const { frame, positions } of frames) {
      cloths.forEach((cloth, i) => {
        const { path, bytes } = sequenceFile(cloth, frame, positions[i]!);
        files[path] = bytes;
      });
    }
    const bytes = await new Promise<Uint8Array>((resolve, reject) => {
      zip(files, { level: 4 }, (error, data) => (error ? reject(error) : resolve(data)));
    });
    return moved(bytes);
  },

  async shotFile(shot: Shot, assets: Map<string, Mesh>): Promise<Uint8Array> {
    return moved(await writeShotFile(shot, assets));
  },

  async productionFile(
    production: { name: string; note: string },
    shots: { shot: Shot; assets: Map<string, Mesh> }[],
  ): Promise<Uint8Array> {
    return moved(await writeProductionFile(production, shots));
  },
};

/** Bytes that are handed over without a copy. */
function moved(bytes: Uint8Array): Uint8Array {
  return Comlink.transfer(bytes, [bytes.buffer as ArrayBuffer]);
}

export type Writer = typeof writer;

Comlink.expose(writer);
