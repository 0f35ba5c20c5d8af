import { createShot, newId, type Mesh, type Shot, type Thing } from '@lumbra/core';
import { createPinia, setActivePinia } from 'pinia';
import { addShot } from '../storage/shots';
import { useDocumentStore } from '../session/document';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';

/** Opens a shot of some things in new stores, as the bench does. Tests that use it need a document: `@vitest-environment happy-dom`. */
export async function openBench(
  things: Thing[],
  more: Partial<Parameters<typeof createShot>[0]> = {},
  assets: ReadonlyMap<string, Mesh> = new Map<string, Mesh>(),
) {
  setActivePinia(createPinia());
  // A save of the test before may still be under way.
  const id = newId();
  await addShot('p', createShot({ name: 'Shot', ...more, id, things }), assets);
  const [document, run, selection] = [useDocumentStore(), useRunStore(), useSelectionStore()];
  await document.open(id);
  run.frame = run.firstFrame;
  const shot = (): Shot => document.shot!;
  const thing = <T extends Thing>(name: string) => shot().things.find((one) => one.name === name) as T;
  return { document, run, selection, shot, thing };
}
