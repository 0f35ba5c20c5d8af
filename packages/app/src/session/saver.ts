import type { Edit, Mesh, Shot } from '@lumbra/core';
import type { OpenedShot } from '../storage/shots';
import { writeShot } from '../storage/writeShot';

/** More edits than these are not kept when the tab is closed. */
const MOST_UNDOS = 300;

/** What an open shot is at a moment. */
export interface ShotState {
  shot: Shot;
  done: readonly Edit[];
  undone: readonly Edit[];
  inputsHash: string;
}

/** Writes an open shot: each time only what has changed of its undo list, and meshes that are new, all in one. */
export class ShotSaver {
  #revision: number;
  /** Place of the first edit of the undo list among all that were ever made. */
  readonly #first: number;
  /** What the rows of the undo list hold, by place. */
  #kept: Map<number, Edit>;
  readonly #meshes = new Map<string, Mesh>();

  constructor({ revision, history: { first, done, undone } }: OpenedShot) {
    this.#revision = revision;
    this.#first = first;
    this.#kept = placed(first, done, undone);
  }

  /** A mesh to be written with the edit that names it. */
  addMesh(id: string, mesh: Mesh): void {
    this.#meshes.set(id, mesh);
  }

  /** @throws what `writeShot` does; everything is then still to be written */
  async save({ shot, done, undone, inputsHash }: ShotState): Promise<void> {
    const dropped = Math.max(0, done.length - MOST_UNDOS);
    const now = placed(this.#first + dropped, done.slice(dropped), undone);
    const changed = [...now].filter(([at, edit]) => this.#kept.get(at) !== edit).map(([at, edit]) => ({ at, edit }));
    const meshes = new Map(this.#meshes);
    const first = this.#first + dropped;
    const counts = { first, done: this.#first + done.length, end: first + now.size };
    this.#revision = await writeShot({ shot, revision: this.#revision, edits: counts, changed, meshes, inputsHash });
    this.#kept = now;
    for (const id of meshes.keys()) this.#meshes.delete(id);
  }
}

function placed(first: number, done: readonly Edit[], undone: readonly Edit[]): Map<number, Edit> {
  return new Map([...done, ...[...undone].reverse()].map((edit, i) => [first + i, edit]));
}
