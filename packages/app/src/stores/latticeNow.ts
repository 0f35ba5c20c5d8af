import { areaMiddle, finishAt, placedControls, placesShown, shapeMesh, type Cloth } from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { useRetimed } from './retimed';
import { useRunStore } from './run';

/** Where the lattices of cloth are in the frame that is looked at. */
export function useLatticeNow() {
  const document = useDocumentStore();
  const run = useRunStore();
  const { retimed } = useRetimed();

  /** A cloth as it lies before its finish list, but retimed; null while its frames are still being read. */
  function surface(cloth: Cloth): { positions: Float32Array; triangles: Uint32Array } | null {
    const places = retimed(run.shownPositions()).get(cloth.id);
    if (!places) return null;
    const mesh = shapeMesh(cloth.shape, document.assets);
    return { positions: placesShown(mesh, places), triangles: mesh.triangles };
  }

  /** The control points of a lattice of a cloth, with its numbers as they are at a frame: as they stood, and as they are moved. */
  function controls(cloth: Cloth, id: string, frame: number): ReturnType<typeof placedControls> | null {
    const step = finishAt(cloth, frame).find((entry) => entry.id === id)?.step;
    const own = surface(cloth);
    if (step?.kind !== 'lattice' || !own) return null;
    return placedControls(step, areaMiddle(own.positions, own.triangles));
  }

  return { surface, controls };
}
