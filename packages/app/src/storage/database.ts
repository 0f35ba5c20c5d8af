import type { BakeCheckpoint, Edit, FrameStats, Mesh, RunInputs, Shot } from '@lumbra/core';
import { Dexie, type Table } from 'dexie';

export interface ProductionRow {
  id: string;
  name: string;
  note: string;
  /** When it was deleted: it can be brought back until it is erased. */
  deleted?: number;
}

export interface ShotRow {
  id: string;
  production: string;
  /** Place in the production. */
  order: number;
  shot: Shot;
  updated: number;
  picture?: Blob;
  /** When it was deleted: it can be brought back until it is erased. */
  deleted?: number;
}

/** The undo list of a shot, so that it outlives its tab. */
export interface HistoryRow {
  shot: string;
  done: Edit[];
  undone: Edit[];
}

export interface AssetRow {
  shot: string;
  id: string;
  mesh: Mesh;
}

export interface BakeRow {
  shot: string;
  inputs: RunInputs;
  inputsHash: string;
  substeps: number;
  firstFrame: number;
  frames: { frame: number; stats: FrameStats }[];
  /** From where the bake can go on. */
  checkpoint: BakeCheckpoint;
}

export interface ChunkRow {
  shot: string;
  firstFrame: number;
  bytes: Uint8Array<ArrayBuffer>;
}

/** Everything that Lumbra keeps in the browser. */
export class LumbraDatabase extends Dexie {
  productions!: Table<ProductionRow, string>;
  shots!: Table<ShotRow, string>;
  histories!: Table<HistoryRow, string>;
  assets!: Table<AssetRow, [string, string]>;
  bakes!: Table<BakeRow, string>;
  chunks!: Table<ChunkRow, [string, number]>;

  constructor(name = 'lumbra') {
    super(name);
    this.version(1).stores({
      productions: 'id',
      shots: 'id, production',
      assets: '[shot+id], shot',
      bakes: 'shot',
      chunks: '[shot+firstFrame], shot',
    });
    this.version(2).stores({ histories: 'shot' });
  }
}

export const database = new LumbraDatabase();

/** A sentence for the artist about a storage error. */
export function storageProblem(error: unknown): string {
  const name = error instanceof Error ? error.name : '';
  const inner = (error as { inner?: { name?: string } } | undefined)?.inner?.name ?? '';
  if (name === 'QuotaExceededError' || inner === 'QuotaExceededError') {
    return 'The browser has no room left to keep this. Delete bakes that you no longer need, or save the shot as a file.';
  }
  return `The browser refused to keep this (${error instanceof Error ? error.message : String(error)}). Save the shot as a file so that nothing is lost.`;
}
