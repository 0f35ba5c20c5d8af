import {
  createCloth,
  createCollider,
  createScenery,
  freeName,
  meshBounds,
  rememberMeshHash,
  type Mesh,
  type Thing,
} from '@lumbra/core';
import type { Repair, UpAxis } from '@lumbra/core/import';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { meshHost } from '../workers/hosts';
import type { ImportSummary } from '../workers/mesh.worker';
import { useDocumentStore } from '../session/document';
import { errorText, useNoticeStore } from './notice';
import { useSelectionStore } from './selection';

/** Files above this are refused before they are read. */
const LARGEST_FILE = 512 * 1024 * 1024;
/** Files that are only read together with another one. */
const BESIDES = /\.(bin|mtl|png|jpe?g|webp|ktx2)$/i;

export const UNITS = { m: 1, cm: 0.01, mm: 0.001, in: 0.0254, ft: 0.3048 } as const;
export type ImportUnit = keyof typeof UNITS;

export interface ImportChoices {
  unit: ImportUnit;
  up: UpAxis;
  role: 'collider' | 'cloth' | 'scenery';
  /** Stands on the ground, or is where the file has it. */
  place: 'ground' | 'file';
  together: boolean;
  repairs: Repair[];
  clip: string | null;
}

/** Bringing mesh files in: read in a worker, shown in a dialogue, and put on the stage as one undoable edit. */
export const useImportStore = defineStore('importing', () => {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();
  const file = shallowRef<File | null>(null);
  const summary = shallowRef<ImportSummary | null>(null);
  const busy = ref<'reading' | 'mending' | null>(null);
  let queue: File[] = [];
  let others: File[] = [];

  /** Takes files from the picker or from a drop, one after the other. */
  function begin(files: Iterable<File>): void {
    if (!document.writable()) return;
    const all = [...files];
    const meshes = all.filter(({ name }) => !BESIDES.test(name));
    others = all.filter(({ name }) => BESIDES.test(name));
    queue = meshes.length > 0 ? meshes : all;
    if (meshes.length > 0) others = all.filter((one) => !meshes.includes(one));
    void next();
  }

  async function next(): Promise<void> {
    file.value = queue.shift() ?? null;
    summary.value = null;
    const current = file.value;
    if (!current) return;
    busy.value = 'reading';
    const rate = document.shot?.frameRate ?? 24;
    try {
      if (current.size > LARGEST_FILE) {
        throw new Error(
          `The file has ${(current.size / 1e9).toFixed(1)} GB; Lumbra reads meshes of up to 512 MB. Export it coarser, or in parts.`,
        );
      }
      const read = await meshHost.call((api) => api.read(current, others, rate));
      if (file.value !== current) return;
      summary.value = read;
      busy.value = null;
    } catch (error) {
      refuse(current, error);
    }
  }

  function refuse(current: File, error: unknown): void {
    busy.value = null;
    notice.problem(`${current.name} was not imported; nothing was changed. ${errorText(error)}`);
    void next();
  }

  function cancel(): void {
    queue = [];
    file.value = null;
    summary.value = null;
    busy.value = null;
  }

  async function take(choices: ImportChoices): Promise<void> {
    const [current, read] = [file.value, summary.value];
    if (!current || !read || !document.shot) return;
    busy.value = 'mending';
    try {
      const options = { unit: UNITS[choices.unit], up: choices.up, repairs: choices.repairs };
      const together = choices.together && read.parts.length > 1 ? current.name.replace(/\.\w+$/, '') || 'Mesh' : null;
      const visit = document.visitNow();
      const parts = await meshHost.call((api) => api.take(options, together));
      // The shot was left meanwhile: what was asked for was asked for there.
      if (document.visitNow() !== visit) return cancel();
      const things: Thing[] = [];
      const down = choices.place === 'ground' ? lowestOf(parts) : 0;
      for (const { name, mesh, hash, center } of parts) {
        rememberMeshHash(mesh, hash);
        const asset = document.addMesh(mesh);
        things.push(thingOf(name, asset, mesh, center, choices, down));
      }
      const label = things.length > 1 ? `Import ${things.length} things` : `Import ${things[0]!.name}`;
      const done = document.edit(label, (draft) => {
        for (const thing of things) draft.things.push({ ...thing, name: freeName(draft, thing.name) });
      });
      if (done) selection.select(things[0]!.id);
      busy.value = null;
      void next();
    } catch (error) {
      refuse(current, error);
    }
  }

  function thingOf(
    name: string,
    asset: string,
    mesh: Mesh,
    center: [number, number, number],
    { role, clip }: ImportChoices,
    down: number,
  ): Thing {
    const position: [number, number, number] = [center[0], center[1] - down, center[2]];
    const given = { name: name.slice(0, 110), shape: { kind: 'mesh' as const, asset }, position };
    const plays = clip !== null && mesh.motion?.clips.some((one) => one.name === clip);
    const motion = plays ? { clip, start: document.shot!.firstFrame, repeat: false } : null;
    const make = { cloth: createCloth, scenery: createScenery, collider: createCollider }[role];
    return make({ ...given, motion });
  }

  /** Height of the lowest point of all parts, in m: together they stand on the ground. */
  function lowestOf(parts: readonly { mesh: Mesh; center: readonly number[] }[]): number {
    return Math.min(...parts.map(({ mesh, center }) => center[1]! + (meshBounds(mesh)?.low[1] ?? 0)));
  }

  return { file, summary, busy, begin, take, cancel };
});
