import { thingMeshAt } from '@lumbra/core';
import { BufferAttribute, BufferGeometry, DoubleSide, Mesh, MeshBasicMaterial } from 'three';
import { onScopeDispose, watchEffect } from 'vue';
import { useFacesStore } from '../../stores/faces';
import { LineDrawing } from '../lineDrawing';
import type { ViewLayer } from '../viewPart';

/** No more edges than this are drawn: beyond it they would cover all. */
const MOST_EDGES = 30_000;

/** While faces are worked on: all edges of the thing thinly, and the selected faces in colour. */
export const faces: ViewLayer = ({ stage, scene }) => {
  const store = useFacesStore();
  const material = new MeshBasicMaterial({
    transparent: true,
    opacity: 0.45,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: -2,
    depthWrite: false,
  });
  const body = new Mesh(new BufferGeometry(), material);
  body.frustumCulled = false;
  const edges = new LineDrawing({ width: 1 });
  const remove = [stage.add(body), stage.add(edges.group)];

  watchEffect(() => {
    const { shot, assets, frame, evening } = scene();
    // The theme is asked so that the colours are read anew with it.
    void evening;
    const style = getComputedStyle(document.documentElement);
    const thing = shot.things.find(({ id }) => id === store.thing?.id);
    const shown = store.working && (thing?.role === 'collider' || thing?.role === 'scenery') && store.mesh;
    body.visible = Boolean(shown) && store.faces.length > 0;
    const lines: number[] = [];
    if (shown && 'shape' in thing) {
      const { positions, triangles } = thingMeshAt(shot, thing, assets, frame);
      const corner = (i: number) => positions.subarray(triangles[i]! * 3, triangles[i]! * 3 + 3);
      const places = new Float32Array(store.faces.length * 9);
      store.faces.forEach((face, n) => {
        for (let i = 0; i < 3; i++) places.set(corner(face * 3 + i), n * 9 + i * 3);
      });
      body.geometry.dispose();
      body.geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(places, 3));
      if (triangles.length < MOST_EDGES) {
        for (let i = 0; i < triangles.length; i++) {
          const next = i % 3 === 2 ? i - 2 : i + 1;
          // Each edge once, but on borders that run the wrong way.
          if (triangles[i]! < triangles[next]!) lines.push(...corner(i), ...corner(next));
        }
      }
    }
    material.color.set(style.getPropertyValue('--indigo').trim());
    edges.set(lines, style.getPropertyValue('--ink-6').trim());
    stage.invalidate();
  });
  onScopeDispose(() => {
    body.geometry.dispose();
    material.dispose();
    edges.dispose();
    for (const one of remove) one();
  });
};
