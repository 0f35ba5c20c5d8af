import { meshBounds, pointNormals, type Mesh } from '@lumbra/core';
import { BoxGeometry, BufferAttribute, BufferGeometry, EdgesGeometry } from 'three';
import { toCreasedNormals } from 'three/addons/utils/BufferGeometryUtils.js';
import { tellBounds } from './knownBounds';

/** Edges sharper than this are drawn as edges, in radians. */
const CREASE = (35 * Math.PI) / 180;
/** Finding creases takes about 20 µs a triangle on the page's thread; finer meshes are drawn smooth and outlined by their box. */
const MOST_CREASED = 2000;

/** What a solid thing is drawn from: smooth where it is round, creased where it has edges. */
export function solidGeometry(mesh: Mesh): BufferGeometry {
  const indexed = indexedGeometry(mesh);
  if (mesh.motion || mesh.triangles.length / 3 > MOST_CREASED) return indexed;
  const creased = toCreasedNormals(indexed, CREASE);
  indexed.dispose();
  return creased;
}

/** The lines that show that a solid thing is selected. */
export function outlineGeometry(mesh: Mesh): BufferGeometry {
  if (mesh.triangles.length / 3 <= MOST_CREASED) {
    const indexed = indexedGeometry(mesh);
    const edges = new EdgesGeometry(indexed, 35);
    indexed.dispose();
    if (edges.getAttribute('position').count > 0) return edges;
  }
  const { low, high } = meshBounds(mesh) ?? { low: [0, 0, 0], high: [0, 0, 0] };
  const [x, y, z] = [0, 1, 2].map((axis) => high[axis]! - low[axis]!) as [number, number, number];
  const box = new BoxGeometry(x, y, z).translate(low[0] + x / 2, low[1] + y / 2, low[2] + z / 2);
  const edges = new EdgesGeometry(box);
  box.dispose();
  return edges;
}

function indexedGeometry(mesh: Mesh): BufferGeometry {
  const { positions, triangles } = mesh;
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions.slice(), 3));
  geometry.setAttribute('normal', new BufferAttribute(pointNormals(positions, triangles), 3));
  geometry.setIndex(new BufferAttribute(triangles, 1));
  tellBounds(geometry, meshBounds(mesh));
  return geometry;
}

/** Takes a geometry with the points of `solidGeometry` of a moving mesh to other places. */
export function moveGeometry(geometry: BufferGeometry, positions: Float32Array, triangles: Uint32Array): void {
  const place = geometry.getAttribute('position') as BufferAttribute;
  const normal = geometry.getAttribute('normal') as BufferAttribute;
  (place.array as Float32Array).set(positions);
  pointNormals(positions, triangles, normal.array as Float32Array);
  place.needsUpdate = normal.needsUpdate = true;
  tellBounds(geometry, positions);
}
