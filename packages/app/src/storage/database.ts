import type { FrameStats, Mesh, RunInputs, Shot, RunState } from '@lumbra/core';
import { Dexie, type Table } from 'dexie';
import type { Lifted } from './longTexts';
import { bakesToTakes } from './upgrades/bakesToTakes';
import { renameInputs } from './upgrades/renameInputs';

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
  /** The document with its long texts lifted out; see longTexts.ts. */
  shot: Lifted & Pick<Shot, 'name' | 'code' | 'firstFrame' | 'lastFrame'>;
  /** Rises with every write; whoever writes says which one it has read. */
  revision: number;
  /** Which rows of `edits` are its undo list: from `first` to before `end`, those before `done` done. */
  edits: { first: number; done: number; end: number };
  updated: number;
  /** Hash of what its run depends on, as it was last saved, and the take that is looked at. */
  inputsHash?: string;
  take?: string;
  picture?: Blob;
  /** When it was deleted: it can be brought back until it is erased. */
  deleted?: number;
}

/** One edit of a shot's undo list. */
export interface EditRow {
  shot: string;
  at: number;
  edit: Lifted;
}

/** A long text of a shot, such as the values of a mask, by its hash. */
export interface TextRow {
  shot: string;
  hash: string;
  text: string;
}

export interface AssetRow {
  shot: string;
  id: string;
  mesh: Mesh;
}

/** From `first` on, the frames of a take were baked with these inputs. */
export interface TakeSpan {
  first: number;
  inputs: RunInputs;
  inputsHash: string;
  substeps: number;
}

/** An attempt that is kept: a bake with its frames, or one pose. */
export interface TakeRow {
  id: string;
  shot: string;
  number: number;
  /** Empty where it has none of its own. */
  name: string;
  note: string;
  /** Whether it is never offered to make room. */
  keep: boolean;
  source: 'bake' | 'settle' | 'live';
  made: number;
  /** The whole shot that it was made from; null where an older Lumbra did not keep it. */
  document: Lifted | null;
  quality: string;
  firstFrame: number;
  /** The last frame that was asked for. */
  lastFrame: number;
  spans: TakeSpan[];
  /** Where its first frames are those of another take. */
  from?: { number: number; frame: number };
  /** Frames after this one are cut: they are there until they are erased, or baked anew. */
  cut?: number;
  picture?: Blob;
  /** When it was deleted: it can be brought back until it is erased. */
  deleted?: number;
  /** What its stored frames add up to; written whenever they change. */
  sum: { frames: number; worst: number; seconds: number; bytes: number; last: number | null };
}

/** What is known of a stored frame. */
export interface FrameRow {
  take: string;
  frame: number;
  stats: FrameStats;
  /** How long it took to compute, in s. */
  seconds: number;
  bytes: number;
}

/** The points of a stored frame; see cache/frameBytes.ts. Written together with its FrameRow or not at all. */
export interface FrameDataRow {
  take: string;
  frame: number;
  data: Uint8Array<ArrayBuffer>;
}

/** From where a take can be gone on with. */
export interface CheckpointRow {
  take: string;
  frame: number;
  state: RunState;
}

/** Everything that Lumbra keeps in the browser. */
export class LumbraDatabase extends Dexie {
  productions!: Table<ProductionRow, string>;
  shots!: Table<ShotRow, string>;
  edits!: Table<EditRow, [string, number]>;
  texts!: Table<TextRow, [string, string]>;
  assets!: Table<AssetRow, [string, string]>;
  takes!: Table<TakeRow, string>;
  frames!: Table<FrameRow, [string, number]>;
  frameData!: Table<FrameDataRow, [string, number]>;
  checkpoints!: Table<CheckpointRow, [string, number]>;

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
    this.version(3)
      .stores({
        edits: '[shot+at], shot',
        texts: '[shot+hash], shot',
        takes: 'id, shot',
        frames: '[take+frame], take',
        frameData: '[take+frame], take',
        checkpoints: '[take+frame], take',
      })
      .upgrade(bakesToTakes);
    this.version(4).stores({ bakes: null, chunks: null, histories: null });
    this.version(5).upgrade(renameInputs);
  }
}

export const database = new LumbraDatabase();

/** Whether the browser has no room left for what should be kept. */
export function isOutOfRoom(error: unknown): boolean {
  const names = [error, (error as { inner?: unknown } | undefined)?.inner].map((one) =>
    typeof one === 'object' && one !== null && 'name' in one ? String(one.name) : '',
  );
  return names.includes('QuotaExceededError');
}

/** A sentence for the artist about a storage error. */
export function storageProblem(error: unknown): string {
  if (isOutOfRoom(error)) {
    return 'The browser has no room left to keep this. Delete takes that you no longer need, or save the shot as a file.';
  }
  if (error instanceof Error && error.name === 'DatabaseClosedError') {
    return 'Lumbra was updated in another tab, and this one can keep nothing any more. Save the shot as a file if it says “Not saved”, then reload the page.';
  }
  return `The browser refused to keep this (${error instanceof Error ? error.message : String(error)}). Save the shot as a file so that nothing is lost.`;
}
