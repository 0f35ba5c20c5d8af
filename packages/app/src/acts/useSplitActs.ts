import { newId, splitThing } from '@lumbra/core';
import { useDocumentStore } from '../session/document';
import { useFacesStore, type SolidThing } from '../stores/faces';
import { errorText, useNoticeStore } from '../stores/notice';
import { useSelectionStore } from '../stores/selection';
import { meshHost } from '../workers/hosts';
import { made } from '../workers/meshWork';
import type { MadeMesh } from '../workers/mesh.worker';

/** How far what remains of a thing draws in under the border of the cloth, in m: a little more than contact keeps them apart. */
function roomFor(thing: SolidThing): number {
  return thing.role === 'collider' ? 1.5 * thing.clearance + 0.002 : 0;
}

/** Splitting cloth off things. */
export function useSplitActs() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();
  const faces = useFacesStore();

  /** Makes the selected faces cloth, whose border stays with what remains; one undoable edit. */
  async function split(): Promise<void> {
    const { thing, mesh } = faces;
    const chosen = [...faces.faces];
    if (!thing || !mesh || chosen.length === 0 || !document.writable()) return;
    const visit = document.visitNow();
    const options = { divided: faces.times, closed: faces.closes, room: roomFor(thing) };
    try {
      const { piece, rest, border } = await meshHost.call<{ piece: MadeMesh; rest: MadeMesh | null; border: number[] }>(
        (api) => api.splitOff(mesh, chosen, options),
      );
      if (!rest || document.visitNow() !== visit) return;
      const [own, left] = [await made(Promise.resolve(piece)), await made(Promise.resolve(rest))];
      const assets = { piece: document.addMesh(own), rest: document.addMesh(left), border };
      const cloth = newId();
      const done = document.edit(`Split cloth off ${thing.name}`, (draft) =>
        splitThing(draft, thing.id, assets, cloth),
      );
      if (!done) return;
      faces.working = false;
      selection.select(cloth);
    } catch (error) {
      notice.problem(`Nothing was split off. ${errorText(error)}`);
    }
  }

  return { split };
}
