import type { Mesh, Shape, Shot } from '@lumbra/core';

/** A shot as it came from the page, and its meshes. */
export interface ReceivedShot {
  shot: Shot;
  assets: Map<string, Mesh>;
}

/**
 * Shots that come from the page one after the other, each as a copy of all that it has. Shapes that say the same become the same
 * object, and meshes of the same id the one that came first, so that what was computed of them is still known.
 */
export class ReceivedShots {
  #id = '';
  #shapes = new Map<string, Shape>();
  #assets = new Map<string, Mesh>();

  receive({ shot, assets }: ReceivedShot): ReceivedShot {
    // The meshes of another shot may have the same ids.
    if (shot.id !== this.#id) [this.#shapes, this.#assets] = [new Map(), new Map()];
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
    const meshes = new Map([...assets].map(([id, mesh]) => [id, this.#assets.get(id) ?? mesh]));
    [this.#shapes, this.#assets] = [shapes, meshes];
    return { shot, assets: meshes };
  }
}
