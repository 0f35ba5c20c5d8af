import { usedAssets, type Mesh, type Shape, type Shot } from '@lumbra/core';

// Shots go to workers one after the other, as copies of all that they say. Their meshes are sent once, by id.

/** A shot on its way to a worker: the meshes that it has not had yet, and the ids of all that the shot uses. */
export interface SentShot {
  shot: Shot;
  uses: string[];
  meshes: Map<string, Mesh>;
}

/** The page’s side: knows what a worker has been sent. */
export class ShotSender {
  #generation = -1;
  #shot = '';
  #sent = new Set<string>();
  readonly #host: { generation: number };

  constructor(host: { generation: number }) {
    this.#host = host;
  }

  pack(shot: Shot, assets: ReadonlyMap<string, Mesh>): SentShot {
    const { generation } = this.#host;
    // The meshes of another shot may have the same ids; a new worker has had none.
    if (generation !== this.#generation || shot.id !== this.#shot) this.#sent = new Set();
    [this.#generation, this.#shot] = [generation, shot.id];
    const uses = usedAssets(shot).filter((id) => assets.has(id));
    const meshes = new Map(uses.filter((id) => !this.#sent.has(id)).map((id) => [id, assets.get(id)!]));
    for (const id of uses) this.#sent.add(id);
    return { shot, uses, meshes };
  }
}

/**
 * The worker’s side. Shapes that say the same become the same object, and meshes of the same id the one that came first, so that what
 * was computed of them is still known.
 */
export class ReceivedShots {
  #id = '';
  #shapes = new Map<string, Shape>();
  #meshes = new Map<string, Mesh>();

  receive({ shot, uses, meshes }: SentShot): { shot: Shot; assets: Map<string, Mesh> } {
    if (shot.id !== this.#id) [this.#shapes, this.#meshes] = [new Map(), new Map()];
    this.#id = shot.id;
    const shapes = new Map<string, Shape>();
    for (const thing of shot.things) {
      if (!('shape' in thing)) continue;
      const text = JSON.stringify(thing.shape);
      // Frozen, as in a document: the same shape gives the same mesh.
      const shape = this.#shapes.get(text) ?? shapes.get(text) ?? Object.freeze(thing.shape);
      shapes.set(text, shape);
      thing.shape = shape;
    }
    this.#shapes = shapes;
    for (const [id, mesh] of meshes) if (!this.#meshes.has(id)) this.#meshes.set(id, mesh);
    const assets = new Map(uses.flatMap((id) => (this.#meshes.has(id) ? [[id, this.#meshes.get(id)!]] : [])));
    return { shot, assets: assets as Map<string, Mesh> };
  }
}
