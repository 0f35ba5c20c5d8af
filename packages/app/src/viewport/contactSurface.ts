import {
  colliderModel,
  shapeAt,
  shapeMesh,
  type Assets,
  type Collider,
  type ColliderModel,
  type Shot,
} from '@lumbra/core';
import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  CapsuleGeometry,
  CylinderGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  SphereGeometry,
  WireframeGeometry,
  type Material,
} from 'three';
import { meshHost } from '../workers/hosts';
import { fitContactShape } from '../workers/meshWork';
import { poseObject } from './poseObject';

/** Above so many triangles the wires would hide the thing. */
const MOST_WIRED = 4000;

/**
 * The surface at which cloth stops, around a collider: its simple shape where it has one, further out by the clearance; for
 * a mesh that counts on both sides, one surface on each.
 */
export class ContactSurface {
  readonly group = new Group();
  #surfaces: BufferGeometry[] = [];
  readonly #film = new MeshBasicMaterial({ transparent: true, opacity: 0.16, depthWrite: false });
  readonly #wire = new LineBasicMaterial({ transparent: true, opacity: 0.4, depthWrite: false });
  #key = '';
  #asked = 0;

  setColour(colour: string): void {
    this.#film.color.set(colour);
    this.#wire.color.set(colour);
  }

  /** Shows the contact surfaces of a collider as it is at a frame; null shows nothing. Fitting and offsetting take their time. */
  async show(shot: Shot, collider: Collider | null, assets: Assets, frame: number): Promise<void> {
    const wanted = ++this.#asked;
    if (!collider || collider.shape.kind === 'ground') return this.#clear();
    try {
      if (collider.contactShape !== 'exact')
        await fitContactShape(shapeMesh(collider.shape, assets), collider.contactShape);
      const model = colliderModel(collider, { shot, assets, frame, frameAt: null });
      const key = JSON.stringify([
        collider.id,
        shapeAt(collider, frame),
        collider.contactShape,
        collider.side,
        model.clearance,
        collider.motion && [collider.motion, frame],
      ]);
      if (key !== this.#key) {
        const surfaces = await surfacesOf(model);
        if (wanted !== this.#asked) return;
        this.#clear();
        this.#key = key;
        for (const surface of surfaces) this.#add(surface);
      }
      this.group.visible = true;
      poseObject(this.group, model);
    } catch {
      // What cannot be compiled has no contact; the run and the checks say why.
      if (wanted === this.#asked) this.#clear();
    }
  }

  #add(surface: BufferGeometry): void {
    this.#surfaces.push(surface);
    this.group.add(new Mesh(surface, this.#film));
    const triangles = (surface.getIndex()?.count ?? surface.getAttribute('position').count) / 3;
    if (triangles > MOST_WIRED) return;
    const wires = new WireframeGeometry(surface);
    this.#surfaces.push(wires);
    this.group.add(new LineSegments(wires, this.#wire));
  }

  #clear(): void {
    this.#key = '';
    this.group.visible = false;
    this.group.clear();
    for (const surface of this.#surfaces) surface.dispose();
    this.#surfaces = [];
  }

  dispose(): void {
    this.#clear();
    for (const material of [this.#film, this.#wire] as Material[]) material.dispose();
  }
}

async function surfacesOf(model: ColliderModel): Promise<BufferGeometry[]> {
  const out = model.clearance;
  switch (model.kind) {
    case 'plane':
      return [];
    case 'ball':
      return [new SphereGeometry(model.radius + out, 32, 16)];
    case 'box': {
      const [x, y, z] = model.size;
      return [new BoxGeometry(x + 2 * out, y + 2 * out, z + 2 * out)];
    }
    case 'cylinder':
      return [new CylinderGeometry(model.radius + out, model.radius + out, model.height + 2 * out, 32)];
    case 'capsule':
      return [new CapsuleGeometry(model.radius + out, Math.max(0, model.height - 2 * model.radius), 8, 32)];
    case 'mesh': {
      const offsets = model.side === 'both' ? [out, -out] : [model.side === 'inside' ? -out : out];
      const copies = await Promise.all(
        offsets.map((distance) => meshHost.call((api) => api.offset(model.mesh, distance))),
      );
      return copies.map(({ mesh: { positions, triangles } }) => {
        const geometry = new BufferGeometry();
        geometry.setAttribute('position', new BufferAttribute(positions, 3));
        geometry.setIndex(new BufferAttribute(triangles, 1));
        return geometry;
      });
    }
  }
}
